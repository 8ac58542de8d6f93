import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import DialogActions from '@mui/material/DialogActions'
import DialogContent from '@mui/material/DialogContent'
import DialogTitle from '@mui/material/DialogTitle'
import LinearProgress from '@mui/material/LinearProgress'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { sentences } from '../../shared/api'
import { formatNumber, t, type TextKey } from '../../shared/texts'
import type { Api, Layer } from '../../shared/types'
import { Choose } from '../import/Choose'
import { SlicePicker } from '../slices/SlicePicker'
import { deleteExport, formatsOf, makeExport, readExport } from '../queries/records'

type Export = Api['Export']

/** Records as a file: in which format, which of them, and what is lost on the way, told before. */
export function ExportDialog({
  layer,
  selected,
  ticked,
  shown,
  onClose,
}: {
  layer: Layer
  selected: string | null
  ticked: string[]
  /** The slice that the list shows. */
  shown: number | null
  onClose: () => void
}) {
  const formats = useQuery(formatsOf(layer.id))
  const [slice, setSlice] = useState<number | null>(shown)
  const [format, setFormat] = useState('xlsx')
  const [which, setWhich] = useState(ticked.length > 0 ? 'some' : shown !== null ? 'slice' : 'all')
  const [choices, setChoices] = useState('labels')
  const [times, setTimes] = useState('local')
  const [file, setFile] = useState<Export | null>(null)
  const [said, setSaid] = useState<string[]>([])
  const losses = formats.data?.find((f) => f.format === format)?.losses ?? []
  const hasChoices = layer.design.fields.some((f) => f.kind === 'one_choice' || f.kind === 'several_choices')
  const working = file?.state === 'working'
  const write = async () => {
    setSaid([])
    try {
      let made = await makeExport(layer.id, {
        format,
        choices,
        times,
        slice: which === 'slice' ? slice : null,
        ids: which === 'some' ? ticked : which === 'one' && selected ? [selected] : null,
      })
      setFile(made)
      while (made.state === 'working') {
        await new Promise((later) => setTimeout(later, 700))
        made = await readExport(made.id)
        setFile(made)
      }
      if (made.state === 'failed') setSaid([t('out.failed')])
      // Taken at once; the link stays for whoever wants it again, or goes on with it after a cut.
      if (made.url)
        Object.assign(document.createElement('a'), { href: made.url, download: made.name }).click()
    } catch (e) {
      setFile(null)
      setSaid(sentences(e))
    }
  }
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth aria-labelledby="out-title">
      <DialogTitle id="out-title">{t('out.title', { layer: layer.design.title })}</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 3 }}>
        <Box
          sx={{
            display: 'grid',
            gridTemplateColumns: { xs: 'minmax(0,1fr)', sm: '1fr 1fr' },
            gap: 3,
            pt: 1,
          }}>
          <Choose
            label={t('out.format')}
            value={format}
            onChange={(f) => {
              setFormat(f)
              setFile(null)
              setChoices(['csv', 'xlsx'].includes(f) ? 'labels' : 'codes')
            }}
            options={(formats.data ?? []).map((f) => [f.format, t(`out.format.${f.format}` as TextKey)])}
          />
          <Choose
            label={t('out.which')}
            value={which}
            onChange={setWhich}
            options={[
              ['all', t('out.all')],
              ...(ticked.length > 0
                ? [['some', t('out.some', { n: ticked.length })] as [string, string]]
                : []),
              ...(selected ? [['one', t('out.one')] as [string, string]] : []),
              ['slice', t('out.slice')],
            ]}
          />
          {which === 'slice' && (
            <SlicePicker
              label={t('out.slice')}
              layer={layer.id}
              mayMake={layer.rights.design}
              value={slice}
              onChange={(chosen) => setSlice(chosen?.id ?? null)}
            />
          )}
          {hasChoices && format !== 'photos' && (
            <Choose
              label={t('out.choices')}
              value={choices}
              onChange={setChoices}
              options={[
                ['labels', t('out.choices.labels')],
                ['codes', t('out.choices.codes')],
                ['both', t('out.choices.both')],
              ]}
            />
          )}
          {format !== 'photos' && (
            <Choose
              label={t('out.times')}
              value={times}
              onChange={setTimes}
              options={[
                ['local', t('out.times.local')],
                ['utc', t('out.times.utc')],
              ]}
            />
          )}
        </Box>
        {losses.length > 0 && (
          <Box sx={{ borderLeft: '4px solid', borderColor: 'secondary.main', pl: 3 }}>
            <Typography sx={{ fontWeight: 650 }}>{t('out.losses')}</Typography>
            <Box component="ul" sx={{ m: 0, pl: 4 }}>
              {losses.map((l) => (
                <li key={l}>{l}</li>
              ))}
            </Box>
          </Box>
        )}
        {said.length > 0 && (
          <Box role="alert" sx={{ color: 'error.main' }}>
            {said.map((l) => (
              <div key={l}>{l}</div>
            ))}
          </Box>
        )}
        {working && (
          <Box role="status">
            <Typography sx={{ mb: 1 }}>{t('out.working', { n: formatNumber(file.records) })}</Typography>
            <LinearProgress aria-label={t('bring.progress')} />
          </Box>
        )}
        {file?.state === 'done' && file.url && (
          <Typography role="status">
            {t('out.done', { n: formatNumber(file.records), kb: formatNumber(Math.ceil(file.bytes / 1024)) })}{' '}
            <a href={file.url} download={file.name}>
              {file.name}
            </a>
          </Typography>
        )}
      </DialogContent>
      <DialogActions>
        {working ? (
          <Button variant="outlined" onClick={() => void deleteExport(file.id)}>
            {t('bring.stop')}
          </Button>
        ) : (
          <Button variant="outlined" onClick={onClose}>
            {t('out.close')}
          </Button>
        )}
        <Button onClick={() => void write()} disabled={working || !formats.data}>
          {t('out.do')}
        </Button>
      </DialogActions>
    </Dialog>
  )
}
