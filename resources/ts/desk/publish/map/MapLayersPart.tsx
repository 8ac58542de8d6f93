import Add from '@mui/icons-material/Add'
import ArrowDownward from '@mui/icons-material/ArrowDownward'
import ArrowUpward from '@mui/icons-material/ArrowUpward'
import DeleteOutline from '@mui/icons-material/DeleteOutline'
import DragIndicator from '@mui/icons-material/DragIndicator'
import Visibility from '@mui/icons-material/Visibility'
import VisibilityOff from '@mui/icons-material/VisibilityOff'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import ButtonBase from '@mui/material/ButtonBase'
import IconButton from '@mui/material/IconButton'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import { useState, type ReactNode } from 'react'
import { paint } from '../../../shared/paint'
import { PegMark } from '../../../shared/parts/PegMark'
import { formatNumber, t } from '../../../shared/texts'
import type { LayerOnMap, MapViewLayer } from '../../../shared/types'
import { AddLayerDialog } from './AddLayerDialog'
import { withBack, withMoved, withNew, without, withPart } from './mapEdits'

type Props = {
  map: number
  /** The topmost first. */
  parts: LayerOnMap[]
  /** As the server draws them; one that was just added is not there yet, one that is gone never. */
  views: MapViewLayer[]
  open: string | null
  onOpen: (id: string | null) => void
  onChange: (parts: LayerOnMap[], now?: boolean) => void
}

/** The layers of a map in their order: moved by drag and by keys, shown or not, taken out and put back. */
export function MapLayersPart({ map, parts, views, open, onOpen, onChange }: Props) {
  const [dragged, setDragged] = useState<string | null>(null)
  const [adding, setAdding] = useState(false)
  const [taken, setTaken] = useState<{ part: LayerOnMap; at: number } | null>(null)
  const titleOf = (part: LayerOnMap) =>
    part.title ?? views.find((v) => v.id === part.id)?.title ?? part.called
  return (
    <Box component="section" aria-label={t('map.layers')} sx={{ display: 'grid', gap: 2 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between' }}>
        <Typography variant="h2">{t('map.layers')}</Typography>
        <Button size="small" startIcon={<Add />} onClick={() => setAdding(true)}>
          {t('map.layers.add')}
        </Button>
      </Box>
      {parts.length === 0 && <Typography color="text.secondary">{t('map.layers.none')}</Typography>}
      {parts.length > 0 && (
        <Paper
          variant="outlined"
          component="ol"
          sx={{ m: 0, p: 0, listStyle: 'none', overflow: 'hidden' }}
          onDragOver={(e) => dragged !== null && e.preventDefault()}>
          {parts.map((part, i) => (
            <PartRow
              key={part.id}
              part={part}
              title={titleOf(part)}
              view={views.find((v) => v.id === part.id)}
              known={views.length > 0}
              open={open === part.id}
              first={i === 0}
              last={i === parts.length - 1}
              onOpen={() => onOpen(open === part.id ? null : part.id)}
              onMove={(by) => onChange(withMoved(parts, part.id, by), true)}
              onShow={() => onChange(withPart(parts, part.id, { visible: !part.visible }), true)}
              onOut={() => {
                setTaken({ part, at: i })
                if (open === part.id) onOpen(null)
                onChange(without(parts, part.id), true)
              }}
              drag={{
                onDragStart: () => setDragged(part.id),
                onDragOver: () => {
                  if (dragged === null || dragged === part.id) return
                  onChange(withMoved(parts, dragged, i - parts.findIndex((p) => p.id === dragged)))
                },
                onDragEnd: () => setDragged(null),
              }}
            />
          ))}
        </Paper>
      )}
      {taken && (
        <Box role="status" sx={{ display: 'flex', alignItems: 'center', gap: 2, flexWrap: 'wrap' }}>
          <Typography variant="body2">{t('map.layer.taken', { layer: titleOf(taken.part) })}</Typography>
          <Button
            size="small"
            onClick={() => {
              onChange(withBack(parts, taken.part, taken.at), true)
              setTaken(null)
            }}>
            {t('map.layer.back')}
          </Button>
        </Box>
      )}
      {adding && (
        <AddLayerDialog
          map={map}
          parts={parts}
          onAdd={(part, geometry) => {
            const kinds = new Map(views.map((v) => [v.id, v.geometry as string]))
            kinds.set(part.id, geometry)
            onChange(
              withNew(parts, part, (p) => kinds.get(p.id) ?? 'point'),
              true,
            )
            onOpen(part.id)
          }}
          onClose={() => setAdding(false)}
        />
      )}
    </Box>
  )
}

type RowProps = {
  part: LayerOnMap
  title: string
  view: MapViewLayer | undefined
  /** Whether the server has said what it draws. */
  known: boolean
  open: boolean
  first: boolean
  last: boolean
  onOpen: () => void
  onMove: (by: -1 | 1) => void
  onShow: () => void
  onOut: () => void
  drag: { onDragStart: () => void; onDragOver: () => void; onDragEnd: () => void }
}

/** One layer of a map: what it is, how it is drawn, how many records. */
function PartRow({
  part,
  title,
  view,
  known,
  open,
  first,
  last,
  onOpen,
  onMove,
  onShow,
  onOut,
  drag,
}: RowProps) {
  const mark = view?.legend[0]
  return (
    <Box
      component="li"
      onDragOver={drag.onDragOver}
      sx={{
        borderBottom: `1px solid ${paint.line}`,
        '&:last-child': { borderBottom: 0 },
        borderLeft: '4px solid',
        borderLeftColor: open ? 'secondary.main' : 'transparent',
        bgcolor: open ? paint.picked : undefined,
      }}>
      <Box sx={{ display: 'flex', alignItems: 'center' }}>
        <Box
          draggable
          onDragStart={drag.onDragStart}
          onDragEnd={drag.onDragEnd}
          aria-hidden
          title={t('map.layer.drag', { layer: title })}
          sx={{ cursor: 'grab', color: 'text.secondary', pl: 1, display: { xs: 'none', md: 'block' } }}>
          <DragIndicator fontSize="small" />
        </Box>
        <ButtonBase
          onClick={onOpen}
          aria-expanded={open}
          sx={{ flex: 1, minWidth: 0, justifyContent: 'flex-start', gap: 2, p: 2, textAlign: 'left' }}>
          <Box sx={{ width: 26, flex: 'none', opacity: part.visible ? 1 : 0.45 }}>
            {mark && <PegMark {...mark} size={26} />}
          </Box>
          <Box sx={{ minWidth: 0, flex: 1 }}>
            <Box sx={{ fontWeight: 650, overflowWrap: 'anywhere' }}>{title}</Box>
            <Typography variant="body2" color="text.secondary">
              {view ? describe(part, view) : known ? t('map.layer.gone') : ' '}
            </Typography>
          </Box>
          {view && (
            <Box sx={{ color: 'text.secondary', fontVariantNumeric: 'tabular-nums' }}>
              {formatNumber(view.total)}
            </Box>
          )}
        </ButtonBase>
        <Small label={t('map.layer.show', { layer: title })} pressed={part.visible} onClick={onShow}>
          {part.visible ? <Visibility fontSize="small" /> : <VisibilityOff fontSize="small" />}
        </Small>
      </Box>
      {open && (
        <Box sx={{ display: 'flex', justifyContent: 'flex-end', px: 1, pb: 1 }}>
          <Small label={t('map.layer.up', { layer: title })} disabled={first} onClick={() => onMove(-1)}>
            <ArrowUpward fontSize="small" />
          </Small>
          <Small label={t('map.layer.down', { layer: title })} disabled={last} onClick={() => onMove(1)}>
            <ArrowDownward fontSize="small" />
          </Small>
          <Small label={t('map.layer.out', { layer: title })} onClick={onOut}>
            <DeleteOutline fontSize="small" />
          </Small>
        </Box>
      )}
    </Box>
  )
}

function Small({
  label,
  pressed,
  disabled = false,
  onClick,
  children,
}: {
  label: string
  pressed?: boolean
  disabled?: boolean
  onClick: () => void
  children: ReactNode
}) {
  return (
    <IconButton
      size="small"
      aria-label={label}
      title={label}
      aria-pressed={pressed}
      disabled={disabled}
      onClick={onClick}
      sx={{ width: 36, height: 36 }}>
      {children}
    </IconButton>
  )
}

/** How a layer is drawn, in a few words. */
function describe(part: LayerOnMap, view: MapViewLayer): string {
  const [from, to] = part.zoom
  return [
    view.slice,
    view.by ? t('map.layer.by', { field: view.by }) : t('map.layer.one'),
    part.label ? t('map.layer.labels') : null,
    from > 0 || to < 22 ? t('map.layer.zoomed', { from, to }) : null,
    part.opacity < 1 ? t('map.layer.faint', { percent: Math.round(part.opacity * 100) }) : null,
  ]
    .filter((word): word is string => Boolean(word))
    .join(', ')
}
