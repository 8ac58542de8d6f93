import Box from '@mui/material/Box'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Typography from '@mui/material/Typography'
import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { Labelled } from '../../../shared/parts/Labelled'
import { Problems } from '../../../shared/parts/Problems'
import { formatNumber, t } from '../../../shared/texts'
import type { DensityLook, InsideLook, Layer, NumberLook } from '../../../shared/types'
import { classesOf } from '../../queries/publish'
import { Histogram } from './Histogram'
import { useLastAnswer, useLatest } from '../../../shared/lateAnswers'

const METHODS = ['natural', 'quantile', 'equal', 'deviation', 'round', 'hand'] as const
export const SCHEMES = ['tide', 'ember', 'dusk', 'shore'] as const

type How = Partial<Pick<NumberLook, 'method' | 'scheme' | 'breaks'>> & { count?: number }

const onlyColours = (how: How) => how.scheme && how.method === undefined && how.count === undefined

/** How the numbers lie, and where their classes part. */
export function NumberClasses<L extends NumberLook | InsideLook | DensityLook>({
  layer,
  look,
  slice,
  unit,
  decimals,
  onChange,
}: {
  layer: Layer
  look: L
  /** Of which records, where they are counted in cells. */
  slice: number | null
  unit: string | null
  decimals: number
  onChange: (look: L, now?: boolean) => void
}) {
  const client = useQueryClient()
  const [error, setError] = useState<unknown>(null)
  const asked =
    look.kind === 'inside'
      ? { of: look.of }
      : look.kind === 'density'
        ? { cells: { field: look.field, bits: look.bits, slice } }
        : { field: look.field }
  const words = look.kind === 'inside' ? '.areas' : look.kind === 'density' ? '.cells' : ''
  const count = look.classes.length
  // While a break is dragged it is asked only when it comes to rest.
  const breaks = useResting(look.breaks)
  const shown = useQuery({
    ...classesOf(layer.id, {
      ...asked,
      method: 'hand',
      scheme: 'tide',
      count: Math.max(2, count),
      breaks,
    }),
    placeholderData: keepPreviousData,
  })
  const ask = useLastAnswer()
  const latest = useLatest({ look, onChange, about: JSON.stringify(asked) })
  // Chosen in quick succession, each builds on the one before.
  const wanted = useRef<How>({})
  /** Works the classes out again; names and marks of one's own stay where the class does. */
  const work = async (change: How) => {
    setError(null)
    const counts = ask()
    const about = JSON.stringify(asked)
    const how = (wanted.current = { ...wanted.current, ...change })
    const method = how.method ?? look.method
    try {
      const made = await client.fetchQuery(
        classesOf(layer.id, {
          ...asked,
          method,
          scheme: how.scheme ?? look.scheme,
          count: how.count ?? Math.max(2, count),
          breaks: how.breaks ?? (method === 'hand' || onlyColours(how) ? look.breaks : null),
        }),
      )
      if (!counts()) return
      wanted.current = {}
      const { look: was, onChange: put, about: now } = latest.current
      // By another number meanwhile, its classes are none of these.
      if (now !== about) return
      const next = made.look as L
      const same = next.classes.length === was.classes.length
      put(
        {
          ...next,
          classes: next.classes.map((c, i) => {
            const before = same ? was.classes[i] : undefined
            return {
              ...c,
              ...(before && !how.scheme ? { head: before.head, colour: before.colour } : {}),
              ...(before?.label ? { label: before.label } : {}),
            }
          }),
          other: was.other,
        },
        true,
      )
    } catch (e) {
      if (!counts()) return
      wanted.current = {}
      setError(e)
    }
  }
  const spread = shown.data?.spread
  return (
    <Box sx={{ display: 'grid', gap: 3, mt: 3 }}>
      {spread && spread.bars.length > 0 && spread.least !== null && spread.most !== null && (
        <Histogram
          bars={spread.bars}
          least={spread.least}
          most={spread.most}
          breaks={look.breaks}
          colours={look.classes.map((c) => c.colour)}
          decimals={decimals}
          unit={unit}
          onBreaks={(breaks) =>
            Object.keys(wanted.current).length > 0
              ? void work({ method: 'hand', breaks })
              : onChange({ ...look, method: 'hand', breaks })
          }
        />
      )}
      {spread && (
        <Typography variant="body2" color="text.secondary">
          {spread.count === 0
            ? t(`classes.none${words}`)
            : look.breaks.length === 0
              ? t(words === '.cells' ? 'classes.one.cells' : 'classes.one', { n: spread.count })
              : t('classes.fit', {
                  share: Math.round((shown.data?.fit ?? 0) * 100),
                })}
          {spread.missing > 0 && ` ${t(`classes.missing${words}`, { n: formatNumber(spread.missing) })}`}
        </Typography>
      )}
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 92px', gap: 2 }}>
        <Labelled label={t('classes.method')}>
          {({ id }) => (
            <NativeSelect
              id={id}
              fullWidth
              input={<OutlinedInput size="small" />}
              value={look.method}
              onChange={(e) => void work({ method: e.target.value as NumberLook['method'] })}>
              {METHODS.map((m) => (
                <option key={m} value={m}>
                  {t(`classes.${m}`)}
                </option>
              ))}
            </NativeSelect>
          )}
        </Labelled>
        <Labelled label={t('classes.count')}>
          {({ id }) => (
            <NativeSelect
              id={id}
              fullWidth
              input={<OutlinedInput size="small" />}
              value={count}
              disabled={look.method === 'hand'}
              onChange={(e) => void work({ count: Number(e.target.value) })}>
              {count < 2 && <option value={count}>{count}</option>}
              {[2, 3, 4, 5, 6, 7, 8, 9].map((n) => (
                <option key={n} value={n}>
                  {n}
                </option>
              ))}
            </NativeSelect>
          )}
        </Labelled>
      </Box>
      <Labelled label={t('classes.scheme')}>
        {({ id }) => (
          <NativeSelect
            id={id}
            fullWidth
            input={<OutlinedInput size="small" />}
            value={look.scheme}
            onChange={(e) => void work({ scheme: e.target.value as NumberLook['scheme'] })}>
            {SCHEMES.map((s) => (
              <option key={s} value={s}>
                {t(`scheme.${s}`)}
              </option>
            ))}
          </NativeSelect>
        )}
      </Labelled>
      <Problems error={error ?? shown.error} />
    </Box>
  )
}

function useResting<T>(value: T): T {
  const [resting, setResting] = useState(value)
  useEffect(() => {
    const later = setTimeout(() => setResting(value), 300)
    return () => clearTimeout(later)
  }, [value])
  return resting
}
