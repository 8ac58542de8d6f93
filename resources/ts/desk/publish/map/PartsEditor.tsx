import Close from '@mui/icons-material/Close'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import ButtonBase from '@mui/material/ButtonBase'
import IconButton from '@mui/material/IconButton'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import { useState } from 'react'
import { paint } from '../../../shared/paint'
import { Labelled } from '../../../shared/parts/Labelled'
import { t } from '../../../shared/texts'
import type { Field, Layer } from '../../../shared/types'
import { FormulaDialog } from './FormulaDialog'

/** Words, the value of a field, one that is worked out for this alone, or what colours an area. */
export type Part =
  { text: string } | { field: string; as?: string } | { formula: string } | { tally: boolean }

type Props<P extends Part> = {
  parts: P[]
  fields: Field[]
  /** Its areas are coloured by a number that can be said, too. */
  tallied: boolean
  /** Dates can be said by how long ago they are. */
  ago?: boolean
  /** Where values can be worked out for this alone: of which layer. */
  layer?: Layer
  most: number
  longest: number
  /** Whether at least one value stays. */
  needsValue: boolean
  /** What words begin with. */
  words: string
  onChange: (parts: P[], now: boolean) => void
}

/** No key of a field. */
const TALLY = '@tally'
const AGO = '@ago'
const FORMULA = '@formula'

export const isValue = (part: Part) => !('text' in part)

/** Values and words between them, put together from a picker. */
export function PartsEditor<P extends Part>(props: Props<P>) {
  const { parts, fields, tallied, ago = false, most, longest, needsValue, words, layer, onChange } = props
  const [working, setWorking] = useState<number | 'new' | null>(null)
  const full = parts.length >= most
  const values = parts.filter(isValue).length
  const add = (chosen: string) => {
    if (chosen === FORMULA) return setWorking('new')
    append(
      chosen === TALLY
        ? { tally: true }
        : chosen.endsWith(AGO)
          ? { field: chosen.slice(0, -AGO.length), as: 'ago' }
          : { field: chosen },
    )
  }
  const append = (part: Part) => {
    const last = parts.at(-1)
    // A value after a value would run into it.
    const between: Part[] = last && isValue(last) && parts.length + 2 <= most ? [{ text: ' ' }] : []
    onChange([...parts, ...between, part] as P[], true)
  }
  return (
    <>
      <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0, display: 'flex', flexWrap: 'wrap', gap: 1 }}>
        {parts.map((part, i) => {
          const said = titleOf(part, fields)
          return (
            <Box
              component="li"
              key={i}
              sx={{
                display: 'flex',
                alignItems: 'center',
                maxWidth: '100%',
                border: `1px solid ${paint.line}`,
                borderRadius: 1.5,
                pl: isValue(part) ? 2 : 0,
                bgcolor: isValue(part) ? paint.kelpWash : undefined,
                fontWeight: 600,
              }}>
              {'text' in part ? (
                <OutlinedInput
                  size="small"
                  value={part.text}
                  inputProps={{
                    'aria-label': t('map.label.words'),
                    maxLength: longest,
                    size: Math.min(30, Math.max(3, said.length)),
                  }}
                  sx={{ minWidth: 0, '& fieldset': { border: 0 }, '& input': { px: 1.5, py: 0.75 } }}
                  onChange={(e) =>
                    onChange(
                      parts.map((p, at) => (at === i ? ({ text: e.target.value } as P) : p)),
                      false,
                    )
                  }
                />
              ) : 'formula' in part ? (
                <ButtonBase onClick={() => setWorking(i)} sx={{ fontWeight: 600, overflowWrap: 'anywhere' }}>
                  {said}
                </ButtonBase>
              ) : (
                said
              )}
              <IconButton
                size="small"
                aria-label={t('map.label.part.out', { part: said })}
                disabled={needsValue && isValue(part) && values === 1}
                onClick={() =>
                  onChange(
                    parts.filter((_, at) => at !== i),
                    true,
                  )
                }>
                <Close fontSize="inherit" />
              </IconButton>
            </Box>
          )
        })}
      </Box>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'end' }}>
        <Labelled label={t('map.label.field')}>
          {({ id }) => (
            <NativeSelect
              id={id}
              fullWidth
              disabled={full}
              input={<OutlinedInput size="small" />}
              value=""
              onChange={(e) => add(e.target.value)}>
              <option value="" disabled />
              {tallied && <option value={TALLY}>{t('map.label.tally')}</option>}
              {layer && <option value={FORMULA}>{t('card.formula')}</option>}
              {fields.flatMap((f) => [
                <option key={f.key} value={f.key}>
                  {f.label}
                </option>,
                ...(ago && isMoment(f)
                  ? [
                      <option key={`${f.key}${AGO}`} value={`${f.key}${AGO}`}>
                        {t('card.ago', { field: f.label })}
                      </option>,
                    ]
                  : []),
              ])}
            </NativeSelect>
          )}
        </Labelled>
        <Button
          variant="text"
          sx={{ whiteSpace: 'nowrap' }}
          disabled={full}
          onClick={() => onChange([...parts, { text: words } as P], true)}>
          {t('map.label.text')}
        </Button>
      </Box>
      {layer && working !== null && (
        <FormulaDialog
          layer={layer}
          value={working === 'new' ? '' : formulaOf(parts[working])}
          onClose={() => setWorking(null)}
          onSave={(formula) => {
            setWorking(null)
            if (working === 'new') append({ formula })
            else
              onChange(
                parts.map((p, at) => (at === working ? ({ formula } as P) : p)),
                true,
              )
          }}
        />
      )}
    </>
  )
}

const formulaOf = (part: Part | undefined) => (part && 'formula' in part ? part.formula : '')

const isMoment = (field: Field) => field.kind === 'date' || field.kind === 'date_time'

function titleOf(part: Part, fields: Field[]): string {
  if ('text' in part) return part.text
  if ('formula' in part) return `= ${part.formula}`
  if (!('field' in part)) return t('map.label.tally')
  const label = fields.find((f) => f.key === part.field)?.label ?? part.field
  return part.as === 'ago' ? t('card.ago', { field: label }) : label
}
