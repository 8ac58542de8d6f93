import Alert from '@mui/material/Alert'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import FormControlLabel from '@mui/material/FormControlLabel'
import Switch from '@mui/material/Switch'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { sentences } from '../../shared/api'
import { BenchShowing } from '../../shared/parts/BenchShowing'
import { Said } from '../../shared/parts/Said'
import { Sheet } from '../../shared/parts/Sheet'
import { formatNumber, t } from '../../shared/texts'
import { useProgramme } from '../ProgrammePage'
import { cancelImport, landImport, readImport } from '../queries/imports'
import { layerOf } from '../queries/layers'
import { AskOrder } from './AskOrder'
import type { Import, Review, Settings } from './import'
import { ImportTarget } from './ImportTarget'
import { LocationPart } from './LocationPart'
import { NewChoices } from './NewChoices'
import { ReviewCounts } from './ReviewCounts'
import { SampleTable } from './SampleTable'
import { Changes } from './UpdateChanges'
import { useImportSettings } from './useImportSettings'

/**
 * The file as it will arrive: every column with what it was taken for, doubts marked in place, and where the
 * rows will fall.
 */
export function ImportReview({
  found,
  begun,
  onChanged,
}: {
  found: Import
  /** What was chosen while it was being read. */ begun: Settings | null
  onChanged: (next: Import, settings: Settings | null) => void
}) {
  const programme = useProgramme()
  const navigate = useNavigate()
  const { settings, setSettings, review, said, busy } = useImportSettings(found, begun, onChanged)
  const [leaving, setLeaving] = useState(false)
  // What could not be done once is no reason not to try it again.
  const [failed, setFailed] = useState<string[]>([])
  const { columns, rows, notes } = found.reading!
  const layer = useQuery({
    ...layerOf(settings.layer),
    enabled: settings.mode !== 'new' && settings.layer !== null,
  })
  const into = settings.mode === 'new' ? null : (layer.data?.design ?? null)
  const open = review?.undecided ?? []
  const sampled = review !== null && review.tried < rows

  const change = (part: Partial<Settings>) => setSettings((s) => ({ ...s, ...part }))
  const changeColumn = (i: number, part: Partial<Settings['columns'][number]>) =>
    setSettings((s) => ({ ...s, columns: s.columns.map((c, j) => (j === i ? { ...c, ...part } : c)) }))
  // Either way the file is gone from here: once, and where it could not be, that is said.
  const leaveBy = async (way: () => Promise<Import>) => {
    setLeaving(true)
    setFailed([])
    try {
      onChanged(await way(), null)
      return true
    } catch (e) {
      // It may have been done, and only its answer was lost; or somebody else did it.
      const now = await readImport(found.id).catch(() => found)
      if (now.state !== 'review') onChanged(now, null)
      else setFailed(sentences(e))
      return false
    } finally {
      setLeaving(false)
    }
  }
  const land = () => leaveBy(() => landImport(found.id))
  const leave = async () => {
    if (await leaveBy(() => cancelImport(found.id))) await navigate(`/desk/p/${programme.id}/build/bring`)
  }
  return (
    <BenchShowing
      benchWidth="minmax(0,2.1fr)"
      bench={
        <Box sx={{ display: 'grid', gap: 3, gridTemplateColumns: 'minmax(0,1fr)' }}>
          <Box
            sx={{
              display: 'flex',
              justifyContent: 'space-between',
              alignItems: 'end',
              gap: 3,
              flexWrap: 'wrap',
            }}>
            <Box sx={{ minWidth: 0 }}>
              <Typography variant="body2" color="text.secondary" sx={{ overflowWrap: 'anywhere' }}>
                <Link to={`/desk/p/${programme.id}/build/bring`} style={{ color: 'inherit' }}>
                  {t('bring.title')}
                </Link>{' '}
                › {found.files[0]?.name}
                {found.files.length > 1 ? ` +${found.files.length - 1}` : ''} ·{' '}
                {t('bring.rows', { n: formatNumber(rows) })}
              </Typography>
              <Typography variant="h1">{t('bring.check')}</Typography>
            </Box>
            <Box sx={{ display: 'flex', gap: 2 }}>
              <Button variant="outlined" disabled={leaving} onClick={() => void leave()}>
                {t('bring.leaveit')}
              </Button>
              <Button
                disabled={busy || leaving || said.length > 0 || open.length > 0}
                onClick={() => void land()}>
                {landingWords(settings.mode, rows, sampled, review)}
              </Button>
            </Box>
          </Box>
          <ReviewCounts review={review} sampled={sampled} zone={settings.zone} />
          <Said lines={[...said, ...failed]} />
          {open.map((i) => (
            <AskOrder
              key={i}
              column={columns[i]?.name ?? ''}
              sample={columns[i]?.samples[0] ?? ''}
              onChoose={(order) => changeColumn(i, { order })}
            />
          ))}
          {notes.length > 0 && (
            <Alert severity="info" variant="outlined" sx={{ py: 0 }}>
              {notes.map((line) => (
                <div key={line}>{line}</div>
              ))}
            </Alert>
          )}
          <ImportTarget
            found={found}
            settings={settings}
            onChange={change}
            onFailed={(e) => setFailed(sentences(e))}
          />
          <NewChoices
            choices={review?.new_choices ?? {}}
            into={into}
            taken={settings.new_choices}
            onTake={(new_choices) => change({ new_choices })}
          />
          {review?.update ? <Changes update={review.update} /> : null}
          <SampleTable
            columns={columns}
            settings={settings}
            review={review}
            into={into}
            busy={busy}
            onColumn={changeColumn}
          />
          {Boolean(review?.why.length) && (
            <Box
              sx={{ display: 'grid', gap: 3, gridTemplateColumns: { xs: 'minmax(0,1fr)', sm: '1fr 1fr' } }}>
              {review!.why.slice(0, 6).map((w) => (
                <Sheet key={w.code} tone="warn">
                  <b>{t('bring.whyrows', { n: w.count })}</b>
                  <Typography>{w.message}</Typography>
                </Sheet>
              ))}
            </Box>
          )}
          <FormControlLabel
            control={
              <Switch
                checked={settings.unfit === 'empty'}
                onChange={(_, on) => change({ unfit: on ? 'empty' : 'wait' })}
              />
            }
            label={t('bring.unfit')}
          />
        </Box>
      }
      showing={<LocationPart found={found} settings={settings} review={review} onChange={change} />}
    />
  )
}

/** What the button says that it will do: with so many rows. */
function landingWords(mode: Settings['mode'], rows: number, sampled: boolean, review: Review | null): string {
  if (mode === 'attach') return t('bring.land.attach', { n: review?.placed ?? 0 })
  if (mode === 'update' && review?.update)
    return t('bring.update', { n: review.update.changed + review.update.added })
  if (rows === 0) return t('bring.land.empty')
  const ready = review ? (sampled ? rows : review.ready) : 0
  return t(mode === 'new' ? 'bring.land.new' : 'bring.land.into', { n: formatNumber(ready), count: ready })
}
