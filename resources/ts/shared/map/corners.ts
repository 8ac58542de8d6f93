import maplibregl, { type Map as MapLibre } from 'maplibre-gl'
import { useEffect } from 'react'
import { paint } from '../paint'
import type { Place } from '../form/geodesic'
import { t } from '../texts'

export type Corners = { kind: 'line' | 'area'; places: Place[]; onChange: (places: Place[]) => void }

/** Pixels that an arrow key moves a corner by; with Shift held down, ten times as many. */
const STEP = 2

/**
 * Corners as buttons on the map: dragged, moved by arrow keys, taken away by Delete or a double tap;
 * the small ones between them become corners when they are used.
 */
export function useCorners(map: React.RefObject<MapLibre | null>, corners: Corners | null) {
  const key = corners ? JSON.stringify([corners.kind, corners.places]) : ''
  useEffect(() => {
    const m = map.current
    if (!m || !corners) return
    const { kind, places, onChange } = corners
    const without = (i: number) => onChange(places.filter((_, j) => j !== i))
    const moved = (i: number, at: Place) => onChange(places.map((p, j) => (j === i ? at : p)))
    const inserted = (i: number, at: Place) => onChange([...places.slice(0, i), at, ...places.slice(i)])
    const handles = places.map((place, i) =>
      handle(
        m,
        place,
        t('draw.corner', { n: i + 1 }),
        16,
        (at) => moved(i, at),
        () => without(i),
      ),
    )
    const pairs = kind === 'area' && places.length > 2 ? places.length : places.length - 1
    for (let i = 0; i < pairs; i++) {
      const [a, b] = [places[i]!, places[(i + 1) % places.length]!]
      const middle: Place = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2]
      handles.push(handle(m, middle, t('draw.between', { n: i + 1 }), 10, (at) => inserted(i + 1, at), null))
    }
    return () => {
      for (const h of handles) h.remove()
    }
    // oxlint-disable-next-line react-hooks/exhaustive-deps -- the key stands for kind and places
  }, [map, key])
}

function handle(
  m: MapLibre,
  at: Place,
  label: string,
  size: number,
  onMove: (at: Place) => void,
  onRemove: (() => void) | null,
): maplibregl.Marker {
  const element = document.createElement('button')
  element.type = 'button'
  Object.assign(element.style, {
    width: '28px',
    height: '28px',
    padding: '0',
    border: '0',
    background: 'none',
    display: 'grid',
    placeItems: 'center',
    cursor: 'grab',
  })
  const dot = document.createElement('span')
  Object.assign(dot.style, {
    width: `${size}px`,
    height: `${size}px`,
    borderRadius: '50%',
    background: onRemove ? paint.buoy : paint.white,
    border: `2px solid ${onRemove ? paint.white : paint.buoy}`,
    boxShadow: `0 0 0 1px ${paint.ink}`,
  })
  element.append(dot)
  const marker = new maplibregl.Marker({ element, draggable: true }).setLngLat(at).addTo(m)
  // The marker names itself a map marker once it is on the map.
  element.setAttribute('aria-label', label)
  element.title = label
  marker.on('dragend', () => {
    const p = marker.getLngLat()
    onMove([p.lng, p.lat])
  })
  element.addEventListener('click', (e) => e.stopPropagation())
  element.addEventListener('dblclick', (e) => {
    e.stopPropagation()
    onRemove?.()
  })
  element.addEventListener('keydown', (e) => {
    const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key]
    if (by) {
      const from = m.project(marker.getLngLat())
      const step = STEP * (e.shiftKey ? 10 : 1)
      const to = m.unproject([from.x + by[0]! * step, from.y + by[1]! * step])
      onMove([to.lng, to.lat])
    } else if ((e.key === 'Delete' || e.key === 'Backspace') && onRemove) onRemove()
    else return
    e.preventDefault()
    e.stopPropagation()
    // The corners are made anew; the one that was held keeps the focus.
    requestAnimationFrame(() => document.querySelector<HTMLElement>(`button[aria-label="${label}"]`)?.focus())
  })
  return marker
}
