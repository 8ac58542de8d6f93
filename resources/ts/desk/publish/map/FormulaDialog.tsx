import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import DialogActions from '@mui/material/DialogActions'
import DialogContent from '@mui/material/DialogContent'
import DialogTitle from '@mui/material/DialogTitle'
import { useRef, useState } from 'react'
import { ApiError } from '../../../shared/api'
import { Problems } from '../../../shared/parts/Problems'
import { t } from '../../../shared/texts'
import type { Field, Layer } from '../../../shared/types'
import { FormulaEditor } from '../../build/FormulaEditor'
import { tryFormula } from '../../queries/layers'

/** It belongs to no field: it may read all of them. */
const NONE: Field = { key: '', label: '', kind: 'calculated' } as Field

/** Of a formula in one line with the newest records, in pixels. */
const ROOM = 300

type Props = { layer: Layer; value: string; onClose: () => void; onSave: (formula: string) => void }

/** A value that is worked out for a map alone, in the language of formulas of Build. */
export function FormulaDialog({ layer, value, onClose, onSave }: Props) {
  const [text, setText] = useState(value)
  const [error, setError] = useState<unknown>(null)
  const typed = useRef(text)
  typed.current = text
  const save = async () => {
    setError(null)
    try {
      await tryFormula(layer.id, { formula: text })
      onSave(text)
    } catch (e) {
      // Of what was typed since it says nothing.
      if (typed.current === text) setError(e)
    }
  }
  const problem = error instanceof ApiError ? error.problems[0] : undefined
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>{t('card.formula.title')}</DialogTitle>
      {/* Room for what it gives on records: it comes later, and buttons must not move from under a click. */}
      <DialogContent sx={{ minHeight: ROOM }}>
        <FormulaEditor
          label={t('formula.title')}
          value={text}
          onChange={(next) => {
            setText(next)
            setError(null)
          }}
          design={layer.design}
          field={NONE}
          problem={problem}
          layer={layer.id}
        />
        {!problem && <Problems error={error} />}
      </DialogContent>
      <DialogActions>
        <Button variant="text" onClick={onClose}>
          {t('cancel')}
        </Button>
        <Button disabled={text.trim() === ''} onClick={() => void save()}>
          {t('card.formula.save')}
        </Button>
      </DialogActions>
    </Dialog>
  )
}
