import ArrowBack from '@mui/icons-material/ArrowBack'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import ButtonBase from '@mui/material/ButtonBase'
import Snackbar from '@mui/material/Snackbar'
import Typography from '@mui/material/Typography'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useSearchParams } from 'react-router'
import { Pill } from '../../shared/parts/Pill'
import { Problems } from '../../shared/parts/Problems'
import { Segments } from '../../shared/parts/Segments'
import { Empty } from '../../shared/parts/Sheet'
import { ago, t } from '../../shared/texts'
import { useProgramme } from '../ProgrammePage'
import { about, type Conflict } from './conflict'
import { OneConflict } from './OneConflict'
import { keys } from '../queries/keys'
import { conflictsOf } from '../queries/records'

/**
 * What phones brought that nobody but a person can decide: two who changed the same, and what today's rules
 * would not take.
 */
export function Conflicts() {
  const programme = useProgramme()
  const client = useQueryClient()
  const [search, setSearch] = useSearchParams()
  const [done, setDone] = useState<string | null>(null)
  const settled = search.get('settled') === '1'
  const found = useQuery({ ...conflictsOf(programme.id, settled), refetchInterval: 15_000 })
  const list = found.data?.disputes ?? []
  const one = list.find((d) => d.id === Number(search.get('one'))) ?? list[0]
  const pick = (d: Conflict) => setSearch({ ...(settled ? { settled: '1' } : {}), one: String(d.id) })
  const after = async (said: string) => {
    setDone(said)
    // The next one is at hand at once.
    setSearch({})
    await Promise.all([
      client.invalidateQueries({ queryKey: keys.conflicts(programme.id) }),
      client.invalidateQueries({ queryKey: keys.programme(programme.id) }),
      client.invalidateQueries({ queryKey: keys.everyRecords }),
    ])
  }
  return (
    <Box
      sx={{
        p: { xs: 3, md: 5 },
        display: 'grid',
        gap: 5,
        gridTemplateColumns: { xs: 'minmax(0,1fr)', md: '280px minmax(0,1fr)' },
        alignItems: 'start',
      }}>
      <Box
        component="nav"
        aria-label={t('decide.title')}
        sx={{ display: 'grid', gap: 2.5, alignContent: 'start' }}>
        <Button
          component={Link}
          to={`/desk/p/${programme.id}/check`}
          size="small"
          variant="outlined"
          startIcon={<ArrowBack />}
          sx={{ width: 'fit-content' }}>
          {t('decide.back')}
        </Button>
        <Segments
          label={t('decide.which')}
          value={settled ? 'settled' : 'open'}
          onChange={(v) => setSearch(v === 'settled' ? { settled: '1' } : {})}
          options={[
            { value: 'open', label: t('decide.open', { n: found.data?.open ?? 0 }) },
            { value: 'settled', label: t('decide.settled') },
          ]}
        />
        {list.map((d) => (
          <ButtonBase
            key={d.id}
            onClick={() => pick(d)}
            aria-current={d.id === one?.id}
            sx={{
              display: 'block',
              width: '100%',
              textAlign: 'left',
              p: 3,
              border: '1px solid',
              borderColor: d.id === one?.id ? 'primary.main' : 'divider',
              outline: d.id === one?.id ? '1px solid' : 'none',
              outlineColor: 'primary.main',
              borderRadius: 1.5,
              bgcolor: 'background.paper',
              fontSize: '1rem',
            }}>
            <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 2 }}>
              <b>{d.name ?? t('record.unnamed')}</b>
              <Typography variant="caption" color="text.secondary">
                {ago(d.settled_at ?? d.received_at)}
              </Typography>
            </Box>
            <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline', mt: 1, flexWrap: 'wrap' }}>
              <Pill tone={d.kind === 'clash' ? 'warn' : 'info'}>{t(`decide.${d.kind}`)}</Pill>
              <Typography variant="body2">{about(d, programme.time_zone)}</Typography>
            </Box>
          </ButtonBase>
        ))}
      </Box>
      <Box sx={{ minWidth: 0 }}>
        <Problems error={found.error} />
        {found.data && !one && (
          <Empty title={t(settled ? 'decide.nosettled' : 'decide.none')}>{t('decide.none.text')}</Empty>
        )}
        {one && <OneConflict key={one.id} dispute={one} zone={programme.time_zone} onDone={after} />}
      </Box>
      <Snackbar
        open={done !== null}
        autoHideDuration={6_000}
        onClose={(_, why) => {
          if (why === 'timeout') setDone(null)
        }}
        message={done}
      />
    </Box>
  )
}
