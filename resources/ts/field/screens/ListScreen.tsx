import PlaceOutlined from '@mui/icons-material/PlaceOutlined'
import Box from '@mui/material/Box'
import OutlinedInput from '@mui/material/OutlinedInput'
import { memo, useCallback, useDeferredValue, useMemo, useState } from 'react'
import { useNavigate } from 'react-router'
import { PegMark } from '../../shared/parts/PegMark'
import { pegFor } from '../../shared/map/classes'
import { t } from '../../shared/texts'
import type { Peg } from '../../shared/types'
import type { PackLayer, PhoneRecord } from '../db'
import { useLayers } from '../phoneState'
import { foremost, placesNamed, reader, search, usePlaces, type FoundPlace } from '../recordSearch'
import { openAtPlace } from '../map/lastView'
import { useRecords } from '../records'
import { bearing, compassPoint, farAway, metres, usePosition } from '../position'
import { Head } from './Head'

const SHOWN = 40

/** Records, the nearest first, found by any of their words. */
export function ListScreen() {
  const navigate = useNavigate()
  const { position } = usePosition()
  const [text, setText] = useState('')
  const layers = useLayers()
  const records = useRecords()
  // Typing goes first; what is found follows.
  const asked = useDeferredValue(text)
  const places = usePlaces()
  const named = useMemo(() => placesNamed(places, asked), [places, asked])
  // Texts are made once for all records, not with every letter.
  const readied = useMemo(() => {
    const read = reader(layers ?? new Map())
    return (records ?? []).filter((r) => !r.visited && !r.gone).map((it) => ({ it, text: read(it) }))
  }, [records, layers])
  const hits = useMemo(() => search(readied, asked), [readied, asked])
  const found = useMemo(() => nearestFirst(hits, position), [hits, position])
  const show = useCallback(
    (place: FoundPlace) => {
      openAtPlace(place)
      void navigate('/field')
    },
    [navigate],
  )
  const open = useCallback((id: string) => void navigate(`/field/record/${id}`), [navigate])
  return (
    <>
      <Head title={t('list.title')} under={records && t('list.count', { n: hits.length })} />
      <Box sx={{ p: 3 }}>
        <OutlinedInput
          fullWidth
          value={text}
          onChange={(e) => setText(e.target.value)}
          placeholder={t('list.search')}
          inputProps={{ 'aria-label': t('list.search'), enterKeyHint: 'search' }}
        />
      </Box>
      <Box component="ul" sx={ROWS}>
        {named.map((place) => (
          <PlaceRow
            key={`${place.name} ${place.lon} ${place.lat}`}
            place={place}
            position={position}
            onShow={show}
          />
        ))}
        {found.map(({ r, d }) => (
          <RecordRow
            key={r.id}
            record={r}
            layer={layers?.get(r.layer)}
            away={d}
            position={position}
            onOpen={open}
          />
        ))}
        {hits.length > SHOWN && (
          <Box component="li" sx={{ p: 4, color: 'text.secondary' }}>
            {t('list.more', { n: hits.length - SHOWN })}
          </Box>
        )}
      </Box>
    </>
  )
}

/**
 * Said once for all rows: with every letter forty of them may be new, and styles of their own would take most
 * of the time.
 */
const ROWS = {
  flex: 1,
  overflow: 'auto',
  listStyle: 'none',
  m: 0,
  p: 0,
  '& > li': { borderBottom: '1px solid', borderColor: 'divider' },
  '& button': {
    all: 'unset',
    boxSizing: 'border-box',
    display: 'flex',
    alignItems: 'center',
    gap: 3,
    width: '100%',
    minHeight: 64,
    px: 4,
    py: 2,
    fontSize: '1rem',
    cursor: 'pointer',
    touchAction: 'manipulation',
    '&:active': { bgcolor: 'action.hover' },
    '&:focus-visible': { outline: '3px solid', outlineColor: 'primary.main', outlineOffset: '-3px' },
  },
  '& .what': { flex: 1, minWidth: 0 },
  '& .way': { textAlign: 'right', fontVariantNumeric: 'tabular-nums', flex: 'none' },
  '& small': { display: 'block', color: 'text.secondary', fontSize: '0.88rem' },
} as const

type Here = { lon: number; lat: number } | null

function Way({ from, to, away }: { from: Here; to: { lon: number; lat: number }; away?: number | null }) {
  return (
    from &&
    away !== null && (
      <span className="way">
        <b>{farAway(away ?? metres(from, to))}</b>
        <small>{t(`compass.${compassPoint(bearing(from, to))}`)}</small>
      </span>
    )
  )
}

const PlaceRow = memo(function PlaceRow({
  place,
  position,
  onShow,
}: {
  place: FoundPlace
  position: Here
  onShow: (place: FoundPlace) => void
}) {
  return (
    <li>
      <button type="button" onClick={() => onShow(place)}>
        <PlaceOutlined sx={{ width: 28 }} />
        <span className="what">
          <b>{place.name}</b>
          <small>{place.of ? t('find.place.of', { of: place.of }) : t('find.place')}</small>
        </span>
        <Way from={position} to={place} />
      </button>
    </li>
  )
})

type RowProps = {
  record: PhoneRecord
  layer: PackLayer | undefined
  away: number | null
  position: Here
  onOpen: (id: string) => void
}

const RecordRow = memo(function RecordRow({ record, layer, away, position, onOpen }: RowProps) {
  const peg = pegOf(record, layer)
  return (
    <li>
      <button type="button" onClick={() => onOpen(record.id)}>
        {peg && <PegMark head={peg.head} colour={peg.colour} size={28} />}
        <span className="what">
          <b>{record.name ?? t('record.unnamed')}</b>
          <small>
            {peg?.label ?? layer?.title}
            {record.local && ` · ${t(`list.${record.local}`)}`}
          </small>
        </span>
        <Way from={position} to={record} away={away} />
      </button>
    </li>
  )
})

/**
 * The nearest first, or the newest where it is not known where one stands; only as many as are shown are put
 * in order.
 */
function nearestFirst(
  records: PhoneRecord[],
  position: { lon: number; lat: number } | null,
): { r: PhoneRecord; d: number | null }[] {
  if (!position)
    return foremost(records, (r) => -Date.parse(r.collected_at), SHOWN).map((r) => ({ r, d: null }))
  // For the order a flat earth does, within a programme; the distance is measured for those that are shown.
  const narrow = Math.cos((position.lat * Math.PI) / 180)
  const apart = (r: PhoneRecord) =>
    ((((r.lon - position.lon + 540) % 360) - 180) * narrow) ** 2 + (r.lat - position.lat) ** 2
  return foremost(records, apart, SHOWN)
    .map((r) => ({ r, d: metres(position, r) }))
    .sort((a, b) => a.d - b.d)
}

export function pegOf(
  record: PhoneRecord,
  layer: PackLayer | undefined,
): (Peg & { label: string | null }) | null {
  if (!layer) return null
  const { look } = layer
  if (look.kind === 'single') return { ...look.peg, label: null }
  if (look.kind !== 'category') return { ...pegFor(look, record.values), label: null }
  const code = record.values[look.field]
  const label =
    layer.design.fields.find((f) => f.key === look.field)?.choices?.find((c) => c.code === code)?.label ??
    null
  return { ...(look.classes.find((c) => c.code === code) ?? look.other), label }
}
