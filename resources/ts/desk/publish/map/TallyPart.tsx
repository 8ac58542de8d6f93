import Box from '@mui/material/Box'
import Typography from '@mui/material/Typography'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Select } from '../../../shared/parts/Labelled'
import { Problems } from '../../../shared/parts/Problems'
import { formatNumber, t } from '../../../shared/texts'
import type { Field, InsideLook, Layer, Tally } from '../../../shared/types'
import { layerOf, layersOf } from '../../queries/layers'
import { classesOf } from '../../queries/publish'
import { SlicePicker } from '../../slices/SlicePicker'
import { numbersOf } from './numbersOf'
import { useLastAnswer, useLatest } from '../../../shared/lateAnswers'

const MEASURES = ['count', 'sum', 'mean', 'least', 'most', 'share', 'rate'] as const
const TIMES = [1, 100, 1_000, 10_000, 100_000]
const LEAST = [0, 2, 3, 5, 10, 20, 30, 50, 100]
const OF_A_NUMBER = ['sum', 'mean', 'least', 'most']
/** A few records say little of these. */
const NEEDS_MANY = ['mean', 'least', 'most', 'share', 'rate']

type Props = { layer: Layer; look: InsideLook; onChange: (look: InsideLook, now?: boolean) => void }

/** What of the records in them areas are coloured by; each choice finds the classes anew. */
export function TallyPart({ layer, look, onChange }: Props) {
  const client = useQueryClient()
  const [error, setError] = useState<unknown>(null)
  const [said, setSaid] = useState<string | null>(null)
  // A share is one once it is said of what; until then the map stays as it is.
  const [asked, setAsked] = useState<Tally | null>(null)
  const of = asked ?? look.of
  const layers = useQuery(layersOf(layer.programme))
  const counted = useQuery(layerOf(of.layer))
  const numbers = counted.data ? numbersOf(counted.data) : []
  const sizes = numbersOf(layer)
  const ask = useLastAnswer()
  const latest = useLatest({ look, onChange })
  const put = async (change: Partial<Tally>) => {
    setError(null)
    setSaid(null)
    const counts = ask()
    const next = { ...of, ...change }
    if (OF_A_NUMBER.includes(next.measure) && next.field === null) {
      const first = numbers[0]
      if (!first) return setSaid(t('tally.nonumber', { layer: counted.data?.design.title ?? '' }))
      next.field = first.key
    }
    if (next.measure === 'count' || next.measure === 'share') next.field = null
    if (next.measure === 'share' && next.share === null) return setAsked(next)
    setAsked(next)
    try {
      const made = await client.fetchQuery(
        classesOf(layer.id, {
          of: next,
          method: look.method === 'hand' ? 'natural' : look.method,
          scheme: look.scheme,
          count: Math.max(2, look.classes.length),
          breaks: null,
        }),
      )
      // Chosen in quick succession, each builds on the one before.
      if (!counts()) return
      latest.current.onChange({ ...(made.look as InsideLook), other: latest.current.look.other }, true)
    } catch (e) {
      if (!counts()) return
      setError(e)
    }
    setAsked(null)
  }
  return (
    <Box sx={{ display: 'grid', gap: 3, mt: 3 }}>
      <Select
        label={t('tally.layer')}
        value={of.layer}
        onChange={(v) =>
          void put({ layer: Number(v), measure: 'count', field: null, slice: null, share: null })
        }>
        {!layers.data?.some((l) => l.id === of.layer) && (
          <option value={of.layer}>{counted.data?.design.title ?? t('tally.elsewhere')}</option>
        )}
        {layers.data
          ?.filter((l) => l.id !== layer.id)
          .map((l) => (
            <option key={l.id} value={l.id}>
              {l.title}
            </option>
          ))}
      </Select>
      <SlicePicker
        label={t('map.layer.which')}
        layer={of.layer}
        mayMake
        value={of.slice}
        onChange={(slice) => void put({ slice: slice?.id ?? null })}
      />
      <Select
        label={t('tally.measure')}
        value={of.measure}
        error={said}
        onChange={(v) => void put({ measure: v as Tally['measure'], field: null })}>
        {MEASURES.map((m) => (
          <option key={m} value={m}>
            {t(`tally.measure.${m}`)}
          </option>
        ))}
      </Select>
      {OF_A_NUMBER.includes(of.measure) && (
        <Select label={t('tally.field')} value={of.field ?? ''} onChange={(field) => void put({ field })}>
          <Fields fields={numbers} />
        </Select>
      )}
      {of.measure === 'share' && (
        <SlicePicker
          label={t('tally.share.of')}
          layer={of.layer}
          mayMake
          value={of.share}
          everything={t('tally.share.choose')}
          onChange={(slice) => void put({ share: slice?.id ?? null })}
        />
      )}
      {of.measure === 'rate' && (
        <>
          <Select
            label={t('tally.rate.of')}
            value={of.field ?? ''}
            onChange={(v) => void put({ field: v === '' ? null : v })}>
            <option value="">{t('tally.rate.records')}</option>
            <Fields fields={numbers} />
          </Select>
          <Box sx={{ display: 'grid', gridTemplateColumns: of.by === null ? '1fr' : '116px 1fr', gap: 2 }}>
            {of.by !== null && (
              <Select
                label={t('tally.rate.per')}
                value={of.times}
                onChange={(v) => void put({ times: Number(v) })}>
                {TIMES.map((n) => (
                  <option key={n} value={n}>
                    {formatNumber(n)}
                  </option>
                ))}
              </Select>
            )}
            <Select
              label={t(of.by === null ? 'tally.rate.per' : 'tally.rate.by')}
              value={of.by ?? ''}
              onChange={(v) =>
                void put(v === '' ? { by: null, times: 1 } : { by: v, times: of.by ? of.times : 100_000 })
              }>
              <option value="">{t('tally.rate.ground')}</option>
              <Fields fields={sizes} />
            </Select>
          </Box>
        </>
      )}
      {NEEDS_MANY.includes(of.measure) && (
        <Select
          label={t('tally.least.label')}
          value={of.least}
          onChange={(v) => void put({ least: Number(v) })}>
          {[...new Set([...LEAST, of.least])]
            .toSorted((a, b) => a - b)
            .map((n) => (
              <option key={n} value={n}>
                {t('tally.least.n', { n })}
              </option>
            ))}
        </Select>
      )}
      {asked?.measure === 'share' && asked.share === null && (
        <Typography variant="body2" color="text.secondary" role="status">
          {t('tally.share.missing')}
        </Typography>
      )}
      <Problems error={error} />
    </Box>
  )
}

/** What follows a number of it; the server says the same (App\Maps\Tallies\TallyText). */
export const tallyUnit = (of: Tally, counted: Layer | undefined): string | undefined =>
  of.measure === 'share'
    ? '%'
    : OF_A_NUMBER.includes(of.measure)
      ? (counted?.design.fields.find((f) => f.key === of.field)?.unit ?? undefined)
      : undefined

const Fields = ({ fields }: { fields: Field[] }) =>
  fields.map((f) => (
    <option key={f.key} value={f.key}>
      {f.label}
    </option>
  ))
