import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import DialogActions from '@mui/material/DialogActions'
import DialogContent from '@mui/material/DialogContent'
import DialogTitle from '@mui/material/DialogTitle'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Typography from '@mui/material/Typography'
import { useEffect, useState } from 'react'
import { ApiError } from '../../shared/api'
import { Labelled } from '../../shared/parts/Labelled'
import { t } from '../../shared/texts'
import type { Api, Layer, Problem } from '../../shared/types'
import { FormulaEditor } from '../build/FormulaEditor'
import { SlicePicker } from '../slices/SlicePicker'
import { makeFill, previewFill, readFill } from '../queries/records'

export type Fill = Api['Fill']
type Preview = Api['FillPreview']

/**
 * A formula written into a field for many records at once: seen on ten of them first, counted, and undone in
 * one press.
 */
export function FillDialog({
  layer,
  onDone,
  onClose,
}: {
  layer: Layer
  onDone: (fill: Fill) => void
  onClose: () => void
}) {
  const fields = layer.design.fields.filter(
    (f) => !['heading', 'calculated', 'several_choices'].includes(f.kind),
  )
  const [key, setKey] = useState(fields[0]?.key ?? '')
  const [formula, setFormula] = useState('')
  const [slice, setSlice] = useState<number | null>(null)
  const [preview, setPreview] = useState<Preview | null>(null)
  const [problem, setProblem] = useState<Problem | undefined>(undefined)
  const [busy, setBusy] = useState(false)
  const field = fields.find((f) => f.key === key)
  const body = JSON.stringify({ field: key, formula, slice })
  useEffect(() => {
    let stale = false
    setPreview(null)
    if (formula.trim() === '') return setProblem(undefined)
    const timer = setTimeout(() => {
      previewFill(layer.id, JSON.parse(body) as object)
        .then((p) => {
          if (!stale) {
            setPreview(p)
            setProblem(undefined)
          }
        })
        .catch((e: unknown) => {
          if (!stale && e instanceof ApiError) setProblem(e.problems[0])
        })
    }, 400)
    return () => {
      stale = true
      clearTimeout(timer)
    }
  }, [body, formula, layer.id])
  const run = async () => {
    setBusy(true)
    try {
      let fill = await makeFill(layer.id, JSON.parse(body) as object)
      // A large layer goes on in the background; leaving the page does not stop it.
      while (fill.state === 'working') {
        await new Promise((later) => setTimeout(later, 1_500))
        fill = await readFill(layer.id, fill.id)
      }
      onDone(fill)
    } catch (e) {
      setBusy(false)
      if (e instanceof ApiError) setProblem(e.problems[0])
    }
  }
  return (
    <Dialog
      open
      onClose={busy ? () => undefined : onClose}
      maxWidth="sm"
      fullWidth
      aria-labelledby="fill-title">
      <DialogTitle id="fill-title">{t('fill.title')}</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 3 }}>
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 3, pt: 1 }}>
          <Labelled label={t('fill.field')}>
            {({ id }) => (
              <NativeSelect
                id={id}
                fullWidth
                input={<OutlinedInput />}
                value={key}
                onChange={(e) => setKey(e.target.value)}>
                {fields.map((f) => (
                  <option key={f.key} value={f.key}>
                    {f.label}
                  </option>
                ))}
              </NativeSelect>
            )}
          </Labelled>
          <SlicePicker
            label={t('fill.which')}
            layer={layer.id}
            mayMake={layer.rights.design}
            value={slice}
            onChange={(chosen) => setSlice(chosen?.id ?? null)}
            everything={t('fill.all')}
          />
        </Box>
        {field && (
          <FormulaEditor
            label={t('formula.title')}
            value={formula}
            onChange={setFormula}
            design={layer.design}
            field={{ ...field, key: '' }}
            problem={problem}
            layer={null}
          />
        )}
        {preview && (
          <Box
            component="table"
            sx={{
              width: '100%',
              borderCollapse: 'collapse',
              fontSize: '0.9rem',
              '& th, & td': { textAlign: 'left', p: 1, borderBottom: '1px solid', borderColor: 'divider' },
            }}>
            <thead>
              <tr>
                <th scope="col">{t('fill.record')}</th>
                <th scope="col">{t('fill.before')}</th>
                <th scope="col">{t('fill.after')}</th>
              </tr>
            </thead>
            <tbody>
              {preview.shown.map((r) => (
                <tr key={r.id}>
                  <td>{r.name ?? t('record.unnamed')}</td>
                  <td>{r.before ?? '–'}</td>
                  <td>
                    {r.after === null ? (
                      <Typography component="span" variant="body2" color="text.secondary">
                        {t('fill.skipped')}
                      </Typography>
                    ) : (
                      <b>{r.after}</b>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </Box>
        )}
        {busy && <Typography role="status">{t('fill.working')}</Typography>}
      </DialogContent>
      <DialogActions>
        <Button variant="outlined" onClick={onClose} disabled={busy}>
          {t('check.cancel')}
        </Button>
        <Button onClick={() => void run()} disabled={!preview || busy}>
          {t('fill.do', { n: preview?.records ?? 0 })}
        </Button>
      </DialogActions>
    </Dialog>
  )
}
