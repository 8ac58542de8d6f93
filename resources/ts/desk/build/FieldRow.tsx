import ArrowDownward from '@mui/icons-material/ArrowDownward'
import ArrowUpward from '@mui/icons-material/ArrowUpward'
import ContentCopy from '@mui/icons-material/ContentCopy'
import DragIndicator from '@mui/icons-material/DragIndicator'
import DeleteOutline from '@mui/icons-material/DeleteOutline'
import Box from '@mui/material/Box'
import ButtonBase from '@mui/material/ButtonBase'
import IconButton from '@mui/material/IconButton'
import Tooltip from '@mui/material/Tooltip'
import { paint } from '../../shared/paint'
import { Pill } from '../../shared/parts/Pill'
import { decimal, t } from '../../shared/texts'
import { HEAD_FONT } from '../../shared/theme'
import { KIND_MARK } from './design'
import { FieldSettings, type SettingsProps } from './FieldSettings'

type Props = Pick<
  SettingsProps,
  'field' | 'design' | 'locked' | 'problems' | 'result' | 'layer' | 'zone' | 'onChange'
> & {
  open: boolean
  first: boolean
  last: boolean
  onOpen: () => void
  onMove: (by: -1 | 1) => void
  onRemove: () => void
  onCopy: () => void
  /** The row is dragged by its grip; the list moves it over others. */
  drag: { onDragStart: () => void; onDragOver: () => void; onDragEnd: () => void }
}

/** An end of what is allowed, as it is read: also numbers with decimals, and a day that moves. */
const endOf = (end: string | number | undefined) =>
  end === 'today' ? t('design.limit.today') : typeof end === 'number' ? decimal(String(end)) : (end ?? '…')

/** One field of a design: a line that opens in place. */
export function FieldRow({
  field,
  open,
  locked,
  first,
  last,
  problems,
  onOpen,
  onChange,
  onMove,
  onRemove,
  onCopy,
  drag,
  ...settings
}: Props) {
  return (
    <Box
      component="li"
      onDragOver={(e) => {
        e.preventDefault()
        drag.onDragOver()
      }}
      sx={{
        borderBottom: `1px solid ${paint.line}`,
        '&:last-child': { borderBottom: 0 },
        bgcolor: open ? paint.picked : undefined,
        borderLeft: open || problems.length ? `4px solid ${paint.buoy}` : '4px solid transparent',
      }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, pr: 2 }}>
        <Box
          draggable
          onDragStart={drag.onDragStart}
          onDragEnd={drag.onDragEnd}
          aria-hidden
          title={t('design.drag', { field: field.label })}
          sx={{ cursor: 'grab', color: 'text.secondary', pl: 1.5, display: { xs: 'none', md: 'block' } }}>
          <DragIndicator fontSize="small" />
        </Box>
        <ButtonBase
          onClick={onOpen}
          aria-expanded={open}
          sx={{ flex: 1, minWidth: 0, justifyContent: 'flex-start', gap: 2.75, p: 2.25, textAlign: 'left' }}>
          <Box
            aria-hidden
            sx={{
              width: 34,
              height: 30,
              flex: 'none',
              borderRadius: 1.25,
              bgcolor: paint.sand,
              display: 'grid',
              placeItems: 'center',
              fontFamily: HEAD_FONT,
              fontWeight: 750,
              fontSize: '0.88rem',
            }}>
            {KIND_MARK[field.kind]}
          </Box>
          <Box
            sx={{ flex: 1, minWidth: 0, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
            <b>{field.label || t('design.unnamed')}</b>{' '}
            <Box component="code" sx={{ color: 'text.secondary', fontSize: '0.8rem' }}>
              {field.key}
            </Box>
          </Box>
          <Box sx={{ display: { xs: 'none', sm: 'flex' }, gap: 1.5 }}>
            {field.required && <Pill>{t('design.required')}</Pill>}
            {field.kind === 'calculated' && (
              <Box
                component="code"
                sx={{
                  fontSize: '0.8rem',
                  color: 'text.secondary',
                  maxWidth: 240,
                  overflow: 'hidden',
                  textOverflow: 'ellipsis',
                  whiteSpace: 'nowrap',
                }}>
                {field.formula}
              </Box>
            )}
            {field.show_when !== undefined && <Pill tone="info">{t('design.shown_when')}</Pill>}
            {field.limits && (field.limits.lowest !== undefined || field.limits.highest !== undefined) && (
              <Pill>
                {t('design.limits', {
                  lowest: endOf(field.limits.lowest),
                  highest: endOf(field.limits.highest),
                })}
                {field.limits.outside === 'ask' && ` · ${t('design.asks')}`}
              </Pill>
            )}
            {field.choices && (
              <Pill>{t('design.choices', { n: field.choices.filter((c) => c.label).length })}</Pill>
            )}
            {problems.length > 0 && <Pill tone="warn">{t('design.tofix')}</Pill>}
          </Box>
        </ButtonBase>
        <Tooltip title={t('design.up')}>
          <span>
            <IconButton
              size="small"
              disabled={first}
              onClick={() => onMove(-1)}
              aria-label={t('design.up.of', { field: field.label })}>
              <ArrowUpward fontSize="small" />
            </IconButton>
          </span>
        </Tooltip>
        <Tooltip title={t('design.down')}>
          <span>
            <IconButton
              size="small"
              disabled={last}
              onClick={() => onMove(1)}
              aria-label={t('design.down.of', { field: field.label })}>
              <ArrowDownward fontSize="small" />
            </IconButton>
          </span>
        </Tooltip>
        <Tooltip title={t('design.duplicate')}>
          <IconButton size="small" onClick={onCopy} aria-label={t('design.copy', { field: field.label })}>
            <ContentCopy fontSize="small" />
          </IconButton>
        </Tooltip>
        <Tooltip title={t('design.remove')}>
          <IconButton
            size="small"
            onClick={onRemove}
            aria-label={t('design.remove.of', { field: field.label })}>
            <DeleteOutline fontSize="small" />
          </IconButton>
        </Tooltip>
      </Box>
      {open && (
        <FieldSettings field={field} locked={locked} problems={problems} onChange={onChange} {...settings} />
      )}
    </Box>
  )
}
