import Alert from '@mui/material/Alert'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import LinearProgress from '@mui/material/LinearProgress'
import Typography from '@mui/material/Typography'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef } from 'react'
import { Link, useParams } from 'react-router'
import { Problems } from '../../shared/parts/Problems'
import { Sheet } from '../../shared/parts/Sheet'
import { formatNumber, t } from '../../shared/texts'
import { useProgramme } from '../ProgrammePage'
import { BringButton } from './ImportList'
import { ResumeImport } from './ResumeImport'
import type { Import, Settings } from './import'
import { ImportResult } from './ImportResult'
import { ImportReview } from './ImportReview'
import { readAs } from './useImportSettings'
import { keys } from '../queries/keys'
import { cancelImport, readImport } from '../queries/imports'

const BUSY = ['sending', 'reading', 'landing']

/** One file on its way in: read, looked at, landed, its rest mended. */
export function ImportPage() {
  const programme = useProgramme()
  const { import: id } = useParams()
  const client = useQueryClient()
  const key = keys.import(Number(id))
  const found = useQuery({
    queryKey: key,
    queryFn: () => readImport(Number(id)),
    refetchInterval: (q) => (q.state.data && BUSY.includes(q.state.data.state) ? 700 : false),
  })
  const begun = useRef<Settings | null>(null)
  const set = async (next: Import) => {
    // What was asked before must not come after it.
    await client.cancelQueries({ queryKey: key })
    client.setQueryData(key, next)
  }
  const stopping = useMutation({ mutationFn: cancelImport, onSuccess: set })
  const i = found.data
  const landed = i?.state === 'done' || i?.state === 'undone'
  useEffect(() => {
    // Lists of layers and their counts are old now.
    if (landed)
      void client
        .invalidateQueries({ queryKey: keys.layers(programme.id) })
        .then(() => client.invalidateQueries({ queryKey: keys.everyProgramme }))
  }, [landed, client, programme.id])
  if (!i)
    return (
      <Box sx={{ p: 5 }}>
        <Problems error={found.error} />
      </Box>
    )
  if (i.state === 'review' && i.settings && i.reading)
    return (
      <ImportReview
        key={`${i.id}-${readAs(i)}`}
        found={i}
        begun={begun.current}
        onChanged={(next, settings) => {
          begun.current = settings
          void set(next)
        }}
      />
    )
  if (i.state === 'done' || i.state === 'undone')
    return <ImportResult found={i} onChanged={(next) => void set(next)} />
  return (
    <Box
      sx={{
        p: { xs: 3, md: 5 },
        maxWidth: 760,
        width: '100%',
        mx: 'auto',
        display: 'grid',
        gap: 4,
        alignContent: 'start',
      }}>
      <Typography>
        <Link to={`/desk/p/${programme.id}/build/bring`}>{t('bring.title')}</Link> ›{' '}
        {i.files
          .map((f) => f.name)
          .slice(0, 2)
          .join(', ')}
      </Typography>
      {BUSY.includes(i.state) ? (
        <Sheet>
          <Typography variant="h1" role="status">
            {t(
              i.state === 'landing'
                ? 'bring.landing'
                : i.state === 'sending'
                  ? 'bring.coming'
                  : 'bring.reading',
            )}
          </Typography>
          <Typography sx={{ my: 3 }}>
            {t('bring.rows', { n: formatNumber(i.progress ?? 0) })}
            {i.state === 'landing' && i.rows ? ` / ${formatNumber(i.rows)}` : ''}
          </Typography>
          <LinearProgress
            aria-label={t('bring.progress')}
            variant={i.state === 'landing' && i.rows ? 'determinate' : 'indeterminate'}
            value={i.rows ? Math.min(100, (100 * (i.progress ?? 0)) / i.rows) : 0}
          />
          {i.state === 'sending' ? (
            <ResumeImport found={i} />
          ) : (
            <Typography color="text.secondary" sx={{ my: 3 }}>
              {t('bring.leave')}
            </Typography>
          )}
          <Button variant="outlined" disabled={stopping.isPending} onClick={() => stopping.mutate(i.id)}>
            {t('bring.stop')}
          </Button>
          <Problems error={stopping.error} />
        </Sheet>
      ) : (
        <Sheet tone="warn">
          <Typography variant="h1">
            {t(i.state === 'failed' ? 'bring.unreadable' : 'bring.cancelled')}
          </Typography>
          {i.problems?.map((p) => (
            <Alert key={p.code} severity="warning" variant="outlined" sx={{ my: 3 }}>
              {p.message}
            </Alert>
          ))}
          <Box sx={{ mt: 3 }}>
            <BringButton programme={programme.id} label={t('bring.other')} />
          </Box>
        </Sheet>
      )}
    </Box>
  )
}
