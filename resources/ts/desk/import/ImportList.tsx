import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import LinearProgress from '@mui/material/LinearProgress'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { Link } from 'react-router'
import { sentences } from '../../shared/api'
import { Pill } from '../../shared/parts/Pill'
import { Problems } from '../../shared/parts/Problems'
import { Empty, Sheet } from '../../shared/parts/Sheet'
import { ago, t } from '../../shared/texts'
import { useProgramme } from '../ProgrammePage'
import { Choose } from './Choose'
import { useBring } from './DropAnywhere'
import { layersOf } from '../queries/layers'
import { importsOf } from '../queries/records'
import { addPlaces } from '../queries/imports'

/** A button that opens the file picker; what is picked is brought in. */
export function BringButton({
  programme,
  layer,
  like,
  label,
  plain = false,
}: {
  programme: number
  layer?: number
  like?: number
  label?: string
  plain?: boolean
}) {
  const input = useRef<HTMLInputElement>(null)
  const { bring, share, failed } = useBring(programme)
  return (
    <Box>
      <Button
        variant={plain ? 'text' : 'outlined'}
        size={plain ? 'small' : 'medium'}
        disabled={share !== null}
        onClick={() => input.current?.click()}>
        {share === null
          ? (label ?? t('bring.button'))
          : t('bring.sending', { share: Math.round(share * 100) })}
      </Button>
      <input
        ref={input}
        type="file"
        multiple
        className="visually-hidden"
        tabIndex={-1}
        aria-label={label ?? t('bring.button')}
        onChange={(e) => {
          void bring([...(e.target.files ?? [])], { ...(layer ? { layer } : {}), ...(like ? { like } : {}) })
          e.target.value = ''
        }}
      />
      {failed.length > 0 && (
        <Box role="alert" sx={{ color: 'error.main', maxWidth: 320 }}>
          {failed.map((line) => (
            <div key={line}>{line}</div>
          ))}
        </Box>
      )}
    </Box>
  )
}

export const TONE = {
  sending: 'info',
  reading: 'info',
  review: 'soft',
  landing: 'info',
  done: 'well',
  failed: 'warn',
  cancelled: 'plain',
  undone: 'plain',
} as const

/**
 * What was brought in before: from which file, by whom, what became of it; and the same again with a newer
 * file.
 */
export function ImportList() {
  const programme = useProgramme()
  const imports = useQuery({ ...importsOf(programme.id), refetchInterval: 3_000 })
  return (
    <Box sx={{ p: { xs: 3, md: 5 }, maxWidth: 1100, width: '100%', mx: 'auto' }}>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'start', mb: 4, gap: 3 }}>
        <Box>
          <Typography variant="h1">{t('bring.title')}</Typography>
          <Typography color="text.secondary">{t('bring.lead')}</Typography>
        </Box>
        <BringButton programme={programme.id} />
      </Box>
      <Problems error={imports.error} />
      {imports.data?.length === 0 && (
        <Box sx={{ mb: 3 }}>
          <Empty title={t('bring.empty')}>{t('bring.kinds')}</Empty>
        </Box>
      )}
      <Box sx={{ display: 'grid', gap: 3 }}>
        {imports.data?.map((i) => (
          <Paper
            key={i.id}
            variant="outlined"
            sx={{ p: 4, display: 'flex', gap: 3, alignItems: 'center', flexWrap: 'wrap' }}>
            <Box sx={{ flex: 1, minWidth: 240 }}>
              <Typography variant="h2" sx={{ overflowWrap: 'anywhere' }}>
                <Link to={String(i.id)} style={{ color: 'inherit' }}>
                  {i.files.length > 2
                    ? t('bring.files', { name: i.files[0]?.name ?? '', n: i.files.length - 1 })
                    : i.files.map((f) => f.name).join(', ')}
                </Link>
              </Typography>
              <Typography color="text.secondary">
                {t('bring.by', { by: i.by ?? '–', at: ago(i.at) })}
                {i.layer_title ? ` · ${t('bring.into', { layer: i.layer_title })}` : ''}
              </Typography>
              {i.progress !== null && (
                <LinearProgress
                  variant={i.rows ? 'determinate' : 'indeterminate'}
                  value={i.rows ? Math.min(100, (100 * i.progress) / i.rows) : 0}
                  aria-label={t('bring.progress')}
                  sx={{ mt: 1.5 }}
                />
              )}
            </Box>
            {Boolean(i.counts?.made) && (
              <Pill tone="well">{t('bring.placed', { n: i.counts?.made ?? 0 })}</Pill>
            )}
            {i.state === 'done' && Boolean(i.counts?.waiting) && (
              <Pill tone="soft">{t('bring.wait', { n: i.counts?.waiting ?? 0 })}</Pill>
            )}
            <Pill tone={TONE[i.state]}>{t(`bring.state.${i.state}`)}</Pill>
            {i.state === 'done' && (
              <BringButton programme={programme.id} like={i.id} label={t('bring.again')} plain />
            )}
          </Paper>
        ))}
        <OwnPlaces programme={programme.id} />
      </Box>
    </Box>
  )
}

/** Records of a layer as places that are found by their names when rows are brought in. */
function OwnPlaces({ programme }: { programme: number }) {
  const layers = useQuery(layersOf(programme))
  const [chosen, setChosen] = useState('')
  const [told, setTold] = useState<string[]>([])
  const options = (layers.data ?? []).filter((l) => l.records > 0 && l.visits_of === null)
  if (options.length === 0) return null
  const take = () =>
    addPlaces(programme, {
      layer: Number(chosen || options[0]?.id),
    })
      .then((r) => setTold([t('bring.places.done', { n: r.places })]))
      .catch((e: unknown) => setTold(sentences(e)))
  return (
    <Sheet title={t('bring.places')}>
      <Typography color="text.secondary">{t('bring.places.lead')}</Typography>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'end', mt: 2, flexWrap: 'wrap' }}>
        <Box sx={{ minWidth: 220 }}>
          <Choose
            label={t('check.layer')}
            value={chosen || String(options[0]?.id)}
            onChange={setChosen}
            options={options.map((l) => [String(l.id), l.title])}
          />
        </Box>
        <Button variant="outlined" onClick={() => void take()}>
          {t('bring.places.do')}
        </Button>
      </Box>
      {told.length > 0 && (
        <Box role="status" sx={{ mt: 2 }}>
          {told.map((l) => (
            <div key={l}>{l}</div>
          ))}
        </Box>
      )}
    </Sheet>
  )
}
