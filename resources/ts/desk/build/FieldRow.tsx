import ArrowDownward from '@mui/icons-material/ArrowDownward'
import ArrowUpward from '@mui/icons-material/ArrowUpward'
import DeleteOutline from '@mui/icons-material/DeleteOutline'
import Box from '@mui/material/Box'
import ButtonBase from '@mui/material/ButtonBase'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import IconButton from '@mui/material/IconButton'
import Tooltip from '@mui/material/Tooltip'
import { TextInput } from '../../shared/parts/Labelled'
import { Pill } from '../../shared/parts/Pill'
import { t, type TextKey } from '../../shared/texts'
import { HEAD_FONT, paint } from '../../shared/theme'
import type { Field, Problem } from '../../shared/types'
import { ChoiceList } from './ChoiceList'
import { KIND_MARK } from './design'

type Props = {
  field: Field
  open: boolean
  locked: boolean
  first: boolean
  last: boolean
  problems: Problem[]
  onOpen: () => void
  onChange: (change: Partial<Field>) => void
  onMove: (by: -1 | 1) => void
  onRemove: () => void
}

const wholeOr = (text: string): number | undefined => (/^-?\d+$/.test(text.trim()) ? Number(text) : undefined)

/** One field of a design: a line that opens in place. */
export function FieldRow({ field, open, locked, first, last, problems, onOpen, onChange, onMove, onRemove }: Props) {
  const at = (part: string) => problems.find((p) => p.field?.endsWith(part))?.message
  return (
    <Box component="li" sx={{ borderBottom: `1px solid ${paint.line}`, '&:last-child': { borderBottom: 0 }, bgcolor: open ? '#FFF6E9' : undefined, borderLeft: open || problems.length ? `4px solid ${paint.buoy}` : '4px solid transparent' }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, pr: 2 }}>
        <ButtonBase onClick={onOpen} aria-expanded={open} sx={{ flex: 1, minWidth: 0, justifyContent: 'flex-start', gap: 2.75, p: 2.25, textAlign: 'left' }}>
          <Box aria-hidden sx={{ width: 34, height: 30, flex: 'none', borderRadius: 1.25, bgcolor: paint.sand, display: 'grid', placeItems: 'center', fontFamily: HEAD_FONT, fontWeight: 750, fontSize: '0.88rem' }}>{KIND_MARK[field.kind]}</Box>
          <Box sx={{ flex: 1, minWidth: 0, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
            <b>{field.label || t('design.unnamed')}</b>{' '}
            <Box component="code" sx={{ color: 'text.secondary', fontSize: '0.8rem' }}>{field.key}</Box>
          </Box>
          <Box sx={{ display: { xs: 'none', sm: 'flex' }, gap: 1.5 }}>
            {field.required && <Pill>{t('design.required')}</Pill>}
            {field.limits && <Pill>{t('design.limits', { lowest: field.limits.lowest ?? '…', highest: field.limits.highest ?? '…' })}</Pill>}
            {field.choices && <Pill>{t('design.choices', { n: field.choices.filter((c) => c.label).length })}</Pill>}
            {problems.length > 0 && <Pill tone="warn">{t('design.tofix')}</Pill>}
          </Box>
        </ButtonBase>
        <Tooltip title={t('design.up')}><span><IconButton size="small" disabled={first} onClick={() => onMove(-1)} aria-label={t('design.up.of', { field: field.label })}><ArrowUpward fontSize="small" /></IconButton></span></Tooltip>
        <Tooltip title={t('design.down')}><span><IconButton size="small" disabled={last} onClick={() => onMove(1)} aria-label={t('design.down.of', { field: field.label })}><ArrowDownward fontSize="small" /></IconButton></span></Tooltip>
        <Tooltip title={t('design.remove')}><IconButton size="small" onClick={onRemove} aria-label={t('design.remove.of', { field: field.label })}><DeleteOutline fontSize="small" /></IconButton></Tooltip>
      </Box>
      {open && (
        <Box data-open-field sx={{ display: 'grid', gap: 3, p: 3, pt: 0 }}>
          <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' }, gap: 3 }}>
            <TextInput label={t('design.label')} value={field.label} onChange={(label) => onChange({ label })} error={at('/label')} autoFocus needed inputProps={{ maxLength: 300 }} />
            <TextInput label={t('design.key')} value={field.key} onChange={(key) => onChange({ key })} error={at('/key')} disabled={locked} hint={t(locked ? 'design.key.locked' : 'design.key.hint')} />
          </Box>
          <TextInput label={t('design.hint')} value={field.hint ?? ''} onChange={(hint) => onChange({ hint })} error={at('/hint')} />
          {field.kind === 'whole_number' && (
            <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 3 }}>
              {(['lowest', 'highest'] as const).map((end) => (
                <TextInput key={end} label={t(`design.${end}` as TextKey)} value={field.limits?.[end] ?? ''} error={end === 'highest' ? at('/limits') : null} inputProps={{ inputMode: 'numeric' }}
                  onChange={(text) => { const { [end]: _, ...others } = field.limits ?? {}; const n = wholeOr(text); onChange({ limits: n === undefined ? others : { ...others, [end]: n } }) }} />
              ))}
            </Box>
          )}
          {field.kind === 'short_text' && (
            <TextInput label={t('design.most')} value={field.most ?? ''} error={at('/most')} inputProps={{ inputMode: 'numeric' }} sx={{ maxWidth: 200 }}
              onChange={(text) => onChange({ most: wholeOr(text) as number })} />
          )}
          {field.kind === 'one_choice' && <ChoiceList choices={field.choices ?? []} onChange={(choices) => onChange({ choices })} problems={problems} locked={locked} />}
          <FormControlLabel control={<Checkbox checked={field.required ?? false} onChange={(e) => onChange({ required: e.target.checked })} />} label={t('design.required.long')} />
          {problems.length > 0 && <Box component="ul" role="alert" sx={{ m: 0, pl: 4, color: 'error.main' }}>{problems.map((p) => <li key={p.field + p.code}>{p.message}</li>)}</Box>}
        </Box>
      )}
    </Box>
  )
}
