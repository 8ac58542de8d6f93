import OpenWith from '@mui/icons-material/OpenWith'
import Box from '@mui/material/Box'
import ButtonBase from '@mui/material/ButtonBase'
import { useMemo, type KeyboardEvent, type ReactNode } from 'react'
import ReactGridLayout, {
  moveElement,
  useContainerWidth,
  verticalCompactor,
  type Layout,
} from 'react-grid-layout'
import 'react-grid-layout/css/styles.css'
import { paint } from '../../../shared/paint'
import { GAP, ROW } from '../../../shared/board/BoardTiles'
import { COLUMNS, layOut } from '../../../shared/board/layout'
import { t } from '../../../shared/texts'
import type { Tile } from '../../../shared/types'

type Props = {
  tiles: Tile[]
  selected: string | null
  onSelect: (tile: string) => void
  /** Where they stand now, by tile. */
  onArrange: (spots: Record<string, { x: number; y: number; width: number; height: number }>) => void
  children: (tile: Tile) => ReactNode
}

/** The tiles of a page, to be dragged, made larger and smaller, and moved by keys. */
export function Arrange({ tiles, selected, onSelect, onArrange, children }: Props) {
  const { width, containerRef, mounted } = useContainerWidth()
  const layout: Layout = useMemo(() => {
    const spots = layOut(tiles)
    return tiles.map((tile) => ({ i: tile.id, ...spots[tile.id]!, maxW: COLUMNS, maxH: 24 }))
  }, [tiles])
  const tell = (next: Layout) =>
    onArrange(Object.fromEntries(next.map((l) => [l.i, { x: l.x, y: l.y, width: l.w, height: l.h }])))
  const byKey = (id: string) => (e: KeyboardEvent) => {
    const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key]
    const item = layout.find((l) => l.i === id)
    if (!step || !item) return
    e.preventDefault()
    const [dx, dy] = step as [number, number]
    const before = layout.map((l) => ({ ...l }))
    const mine = before.find((l) => l.i === id)!
    const next = e.shiftKey
      ? before.map((l) =>
          l.i === id
            ? {
                ...l,
                w: Math.max(1, Math.min(COLUMNS - l.x, l.w + dx)),
                h: Math.max(1, Math.min(24, l.h + dy)),
              }
            : l,
        )
      : moveElement(
          before,
          mine,
          Math.max(0, Math.min(COLUMNS - mine.w, mine.x + dx)),
          Math.max(0, mine.y + dy),
          true,
          false,
          'vertical',
          COLUMNS,
        )
    tell(verticalCompactor.compact(next, COLUMNS))
  }
  return (
    <div ref={containerRef}>
      {mounted && (
        <ReactGridLayout
          width={width}
          layout={layout}
          gridConfig={{
            cols: COLUMNS,
            rowHeight: ROW,
            margin: [GAP, GAP],
            containerPadding: [0, 0],
            maxRows: Infinity,
          }}
          dragConfig={{ enabled: true, bounded: false, handle: '.tile-grip', threshold: 3 }}
          resizeConfig={{ enabled: true, handles: ['se'] }}
          compactor={verticalCompactor}
          onDragStop={(next) => tell(next)}
          onResizeStop={(next) => tell(next)}>
          {tiles.map((tile) => (
            <Box
              key={tile.id}
              onClickCapture={() => onSelect(tile.id)}
              sx={{
                ...(selected === tile.id
                  ? { outline: `2px dashed ${paint.kelp}`, outlineOffset: 3, borderRadius: 1.5 }
                  : {}),
                '& > .react-resizable-handle': { zIndex: 4 },
              }}>
              {children(tile)}
              <ButtonBase
                className="tile-grip"
                aria-label={t('tile.move', { tile: tile.title })}
                title={t('tile.move.how')}
                onKeyDown={byKey(tile.id)}
                sx={{
                  position: 'absolute',
                  right: 42,
                  top: 6,
                  p: 0.75,
                  borderRadius: 1,
                  cursor: 'grab',
                  zIndex: 5,
                  color: 'text.secondary',
                  bgcolor: paint.sheet,
                  border: `1px solid ${paint.line}`,
                }}>
                <OpenWith sx={{ fontSize: 17 }} />
              </ButtonBase>
            </Box>
          ))}
        </ReactGridLayout>
      )}
    </div>
  )
}
