import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import MuiLink from '@mui/material/Link'
import Typography from '@mui/material/Typography'
import { useState } from 'react'
import { Link } from 'react-router'
import { Problems } from '../../shared/parts/Problems'
import { Sheet } from '../../shared/parts/Sheet'
import { formatInstant, t } from '../../shared/texts'
import { useProgramme } from '../ProgrammePage'
import type { Conflict, Side } from './conflict'
import { ConflictPlaces } from './ConflictPlaces'
import { ConflictSides } from './ConflictSides'
import { HeldChange } from './HeldChange'
import { settleConflict } from '../queries/records'

type Props = { dispute: Conflict; zone: string; onDone: (said: string) => Promise<void> }

/**
 * One dispute: both sides beside each other, on values, map and photos; decided value by value, or as a
 * whole.
 */
export function OneConflict({ dispute: d, zone, onDone }: Props) {
  const programme = useProgramme()
  const [choose, setChoose] = useState<Record<string, Side>>(() =>
    Object.fromEntries(d.clashes.map((c) => [c.key, d.settlement?.choose?.[c.key] ?? c.stands])),
  )
  const [busy, setBusy] = useState(false)
  const [error, setError] = useState<unknown>(null)
  const name = d.name ?? t('record.unnamed')
  const settle = async (body: object, said: string) => {
    setBusy(true)
    try {
      await settleConflict(d.id, body)
      await onDone(said)
    } catch (e) {
      setError(e)
      setBusy(false)
    }
  }
  return (
    <Box
      sx={{
        display: 'grid',
        gap: 4,
        gridTemplateColumns: { xs: 'minmax(0,1fr)', lg: 'minmax(0,1fr) 320px' },
        alignItems: 'start',
      }}>
      <Box
        sx={{
          gridColumn: '1 / -1',
          display: 'flex',
          justifyContent: 'space-between',
          alignItems: 'end',
          gap: 3,
          flexWrap: 'wrap',
        }}>
        <Box>
          <Typography color="text.secondary">
            {d.layer_title} ›{' '}
            {d.record ? (
              <MuiLink
                component={Link}
                to={`/desk/p/${programme.id}/check?layer=${d.layer}&record=${d.record_id}`}>
                {name}
              </MuiLink>
            ) : (
              name
            )}
          </Typography>
          <Typography variant="h1">
            {t(d.kind === 'clash' ? 'decide.clash.title' : 'decide.held.title')}
          </Typography>
        </Box>
        {d.settled_at ? (
          <Box sx={{ display: 'flex', gap: 3, alignItems: 'center' }}>
            <Typography role="status">
              {t('decide.bywhom', { by: d.settled_by ?? '', at: formatInstant(d.settled_at, zone) })}
            </Typography>
            {d.kind === 'held' && d.settlement?.take === false && (
              <Button
                disabled={busy}
                variant="outlined"
                onClick={() => void settle({ take: true }, t('decide.take.done', { name }))}>
                {t('decide.takeup')}
              </Button>
            )}
          </Box>
        ) : d.kind === 'clash' ? (
          <Button disabled={busy} onClick={() => void settle({ choose }, t('decide.done', { name }))}>
            {t('decide.keep')}
          </Button>
        ) : (
          <Box sx={{ display: 'flex', gap: 3 }}>
            <Button
              disabled={busy}
              variant="outlined"
              onClick={() => void settle({ take: false }, t('decide.aside.done', { name }))}>
              {t('decide.aside')}
            </Button>
            <Button
              disabled={busy}
              onClick={() => void settle({ take: true }, t('decide.take.done', { name }))}>
              {t('decide.take')}
            </Button>
          </Box>
        )}
      </Box>
      {error !== null && (
        <Box sx={{ gridColumn: '1 / -1' }}>
          <Problems error={error} />
        </Box>
      )}
      <Sheet sx={{ p: 0 }}>
        {d.kind === 'clash' ? (
          <ConflictSides
            d={d}
            zone={zone}
            choose={choose}
            fixed={d.settled_at !== null}
            onChoose={(key, side) => setChoose({ ...choose, [key]: side })}
          />
        ) : (
          <HeldChange d={d} zone={zone} />
        )}
      </Sheet>
      <ConflictPlaces d={d} choose={choose} />
    </Box>
  )
}
