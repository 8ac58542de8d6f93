import Box from '@mui/material/Box'
import ButtonBase from '@mui/material/ButtonBase'
import OutlinedInput from '@mui/material/OutlinedInput'
import { useLiveQuery } from 'dexie-react-hooks'
import { useMemo, useState } from 'react'
import { useNavigate } from 'react-router'
import { PegMark } from '../../shared/parts/PegMark'
import { t } from '../../shared/texts'
import type { Peg } from '../../shared/types'
import { db, type PackLayer, type PhoneRecord } from '../db'
import { bearing, compassPoint, farAway, metres, usePosition } from '../position'
import { Head } from './Head'

const SHOWN = 60

/** Records, the nearest first, found by any of their words. */
export function ListScreen() {
  const navigate = useNavigate()
  const { position } = usePosition()
  const [text, setText] = useState('')
  const layers = useLiveQuery(async () => new Map((await db.packs.toArray()).flatMap((p) => p.layers).map((l) => [l.id, l])))
  const records = useLiveQuery(() => db.records.toArray())
  const found = useMemo(() => {
    const words = text.toLowerCase().split(/\s+/).filter(Boolean)
    const hits = (records ?? []).filter((r) => !r.visited && !r.gone).filter((r) => { const all = wordsOf(r, layers?.get(r.layer)); return words.every((w) => all.includes(w)) })
    return position ? hits.map((r) => ({ r, d: metres(position, r) })).sort((a, b) => a.d - b.d) : hits.sort((a, b) => b.collected_at.localeCompare(a.collected_at)).map((r) => ({ r, d: null }))
  }, [records, layers, text, position])
  return (
    <>
      <Head title={t('list.title')} under={records && t('list.count', { n: found.length })} />
      <Box sx={{ p: 3 }}><OutlinedInput fullWidth value={text} onChange={(e) => setText(e.target.value)} placeholder={t('list.search')} inputProps={{ 'aria-label': t('list.search'), enterKeyHint: 'search' }} /></Box>
      <Box component="ul" sx={{ flex: 1, overflow: 'auto', listStyle: 'none', m: 0, p: 0 }}>
        {found.slice(0, SHOWN).map(({ r, d }) => {
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
        {found.length > SHOWN && <Box component="li" sx={{ p: 4, color: 'text.secondary' }}>{t('list.more', { n: found.length - SHOWN })}</Box>}
      </Box>
    </>
  )
}

function wordsOf(record: PhoneRecord, layer: PackLayer | undefined): string {
  const labels = layer?.design.fields.map((f) => { const v = record.values[f.key]; return f.choices?.find((c) => c.code === v)?.label ?? v ?? '' }) ?? []
  return labels.join(' ').toLowerCase()
}

export function pegOf(record: PhoneRecord, layer: PackLayer | undefined): (Peg & { label: string | null }) | null {
  if (!layer) return null
  const { look } = layer
  if (look.kind === 'single') return { ...look.peg, label: null }
  const code = record.values[look.field]
  const label = layer.design.fields.find((f) => f.key === look.field)?.choices?.find((c) => c.code === code)?.label ?? null
  return { ...(look.classes.find((c) => c.code === code) ?? look.other), label }
}
