import PlaceOutlined from '@mui/icons-material/PlaceOutlined'
import Box from '@mui/material/Box'
import ButtonBase from '@mui/material/ButtonBase'
import OutlinedInput from '@mui/material/OutlinedInput'
import { useLiveQuery } from 'dexie-react-hooks'
import { useDeferredValue, useMemo, useState } from 'react'
import { useNavigate } from 'react-router'
import { PegMark } from '../../shared/parts/PegMark'
import { t } from '../../shared/texts'
import type { Peg } from '../../shared/types'
import { db, type PackLayer, type PhoneRecord } from '../db'
import { foremost, placesNamed, reader, search, usePlaces, type FoundPlace } from '../finding'
import { openAtPlace } from '../map/view'
import { useRecords } from '../records'
import { bearing, compassPoint, farAway, metres, usePosition } from '../position'
import { Head } from './Head'

const SHOWN = 40

/** Records, the nearest first, found by any of their words. */
export function ListScreen() {
  const navigate = useNavigate()
  const { position } = usePosition()
  const [text, setText] = useState('')
  const layers = useLiveQuery(async () => new Map((await db.packs.toArray()).flatMap((p) => p.layers).map((l) => [l.id, l])))
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
  const show = async (place: FoundPlace) => {
    openAtPlace(place)
    await navigate('/field')
  }
  return (
    <>
      <Head title={t('list.title')} under={records && t('list.count', { n: hits.length })} />
      <Box sx={{ p: 3 }}><OutlinedInput fullWidth value={text} onChange={(e) => setText(e.target.value)} placeholder={t('list.search')} inputProps={{ 'aria-label': t('list.search'), enterKeyHint: 'search' }} /></Box>
      <Box component="ul" sx={{ flex: 1, overflow: 'auto', listStyle: 'none', m: 0, p: 0 }}>
        {named.map((place) => (
          <Box component="li" key={`${place.name} ${place.lon} ${place.lat}`} sx={{ borderBottom: '1px solid', borderColor: 'divider' }}>
            <ButtonBase onClick={() => void show(place)} sx={{ width: '100%', minHeight: 64, px: 4, py: 2, gap: 3, justifyContent: 'flex-start', textAlign: 'left', fontSize: '1rem' }}>
              <PlaceOutlined sx={{ width: 28 }} />
              <Box sx={{ flex: 1, minWidth: 0 }}><b>{place.name}</b><Box sx={{ color: 'text.secondary', fontSize: '0.88rem' }}>{place.of ? t('find.place.of', { of: place.of }) : t('find.place')}</Box></Box>
              {position && <Box sx={{ textAlign: 'right', fontVariantNumeric: 'tabular-nums' }}><b>{farAway(metres(position, place))}</b><Box sx={{ color: 'text.secondary', fontSize: '0.85rem' }}>{t(`compass.${compassPoint(bearing(position, place))}`)}</Box></Box>}
            </ButtonBase>
          </Box>
        ))}
        {found.map(({ r, d }) => {
          const layer = layers?.get(r.layer)
          const peg = pegOf(r, layer)
          return (
            <Box component="li" key={r.id} sx={{ borderBottom: '1px solid', borderColor: 'divider' }}>
              <ButtonBase onClick={() => void navigate(`/field/record/${r.id}`)} sx={{ width: '100%', minHeight: 64, px: 4, py: 2, gap: 3, justifyContent: 'flex-start', textAlign: 'left', fontSize: '1rem' }}>
                {peg && <PegMark head={peg.head} colour={peg.colour} size={28} />}
                <Box sx={{ flex: 1, minWidth: 0 }}>
                  <b>{r.name ?? t('record.unnamed')}</b>
                  <Box sx={{ color: 'text.secondary', fontSize: '0.88rem' }}>{peg?.label ?? layer?.title}{r.local && ` · ${t(`list.${r.local}`)}`}</Box>
                </Box>
                {d !== null && position && <Box sx={{ textAlign: 'right', fontVariantNumeric: 'tabular-nums' }}><b>{farAway(d)}</b><Box sx={{ color: 'text.secondary', fontSize: '0.85rem' }}>{t(`compass.${compassPoint(bearing(position, r))}`)}</Box></Box>}
              </ButtonBase>
            </Box>
          )
        })}
        {hits.length > SHOWN && <Box component="li" sx={{ p: 4, color: 'text.secondary' }}>{t('list.more', { n: hits.length - SHOWN })}</Box>}
      </Box>
    </>
  )
}

/** The nearest first, or the newest where it is not known where one stands; only as many as are shown are put in order. */
function nearestFirst(records: PhoneRecord[], position: { lon: number; lat: number } | null): { r: PhoneRecord; d: number | null }[] {
  if (!position) return foremost(records, (r) => -Date.parse(r.collected_at), SHOWN).map((r) => ({ r, d: null }))
  // For the order a flat earth does, within a programme; the distance is measured for those that are shown.
  const narrow = Math.cos((position.lat * Math.PI) / 180)
  const apart = (r: PhoneRecord) => (((((r.lon - position.lon + 540) % 360) - 180) * narrow) ** 2 + (r.lat - position.lat) ** 2)
  return foremost(records, apart, SHOWN).map((r) => ({ r, d: metres(position, r) })).sort((a, b) => a.d - b.d)
}

export function pegOf(record: PhoneRecord, layer: PackLayer | undefined): (Peg & { label: string | null }) | null {
  if (!layer) return null
  const { look } = layer
  if (look.kind === 'single') return { ...look.peg, label: null }
  const code = record.values[look.field]
  const label = layer.design.fields.find((f) => f.key === look.field)?.choices?.find((c) => c.code === code)?.label ?? null
  return { ...(look.classes.find((c) => c.code === code) ?? look.other), label }
}
