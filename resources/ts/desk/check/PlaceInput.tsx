import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useRef, useState } from 'react'
import { ApiError, sentences } from '../../shared/api'
import { readPlace, type Spot } from '../../shared/form/coordinates'
import { measure, shapeOf, shownArea, shownLength } from '../../shared/form/geodesic'
import { TextInput } from '../../shared/parts/Labelled'
import { t } from '../../shared/texts'
import type { GeometryKind } from '../../shared/types'
import { isPoint, type Placing } from './placing'
import { sayPlace } from '../queries/records'

type Props = {
  kind: GeometryKind
  placing: Placing
  /** `typed` asks the map to go there; a tap is in view already. */
  onPlacing: (placing: Placing, typed: boolean) => void
}

/** Where the record is: tapped on the map or typed; a line or an area corner by corner. */
export function PlaceInput({ kind, placing, onPlacing }: Props) {
  if (isPoint(kind))
    return (
      <SpotInput
        label={t('check.place')}
        hint={t('check.place.hint')}
        spot={placing.spot}
        onSpot={(spot, typed) => onPlacing({ ...placing, spot }, typed)}
      />
    )
  const { corners } = placing
  const shape = shapeOf(kind, corners, placing.holes)
  const { length, area } = measure(shape)
  const put = (next: typeof corners) => onPlacing({ ...placing, corners: next }, false)
  return (
    <Box sx={{ display: 'grid', gap: 2 }}>
      <SpotInput
        label={t(`draw.${kind}`)}
        hint={t('draw.hint')}
        spot={null}
        onSpot={(spot) => onPlacing({ ...placing, corners: [...corners, [spot.lon, spot.lat]] }, true)}
      />
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
        <Button
          size="small"
          variant="outlined"
          disabled={corners.length === 0}
          onClick={() => put(corners.slice(0, -1))}>
          {t('draw.back')}
        </Button>
        <Button size="small" variant="outlined" disabled={corners.length === 0} onClick={() => put([])}>
          {t('draw.anew')}
        </Button>
        <Typography variant="body2" role="status" sx={{ fontVariantNumeric: 'tabular-nums' }}>
          {t('draw.corners', { n: corners.length })}
          {length !== null && (
            <>
              {' '}
              · <b>{area === null ? shownLength(length) : shownArea(area)}</b>
            </>
          )}
        </Typography>
      </Box>
    </Box>
  )
}

/**
 * What was typed is taken at once, so that whoever saves next saves it, however slow the line is. The server is only
 * asked to say in words how it was understood, or why not.
 */
function SpotInput({
  label,
  hint,
  spot,
  onSpot,
}: {
  label: string
  hint: string
  spot: Spot | null
  onSpot: (spot: Spot, typed: boolean) => void
}) {
  const shown = spot ? `${spot.lat.toFixed(5)}, ${spot.lon.toFixed(5)}` : ''
  const [typed, setTyped] = useState<string | null>(null)
  const [said, setSaid] = useState<string | null>(null)
  const [error, setError] = useState<string | null>(null)
  // An answer counts only for what was asked last.
  const asked = useRef(0)
  const explain = async (text: string, taken: boolean) => {
    const turn = ++asked.current
    try {
      const place = await sayPlace(text)
      if (turn === asked.current) setSaid(place.said)
    } catch (e) {
      // A server that is away knows no better than what has been said already.
      if (turn === asked.current && !taken && e instanceof ApiError && e.problems.length)
        setError(sentences(e)[0] ?? null)
    }
  }
  const read = () => {
    if (typed === null || typed.trim() === '') return setTyped(null)
    const place = readPlace(typed)
    setError(place ? null : t('place.typed.bad', { hint: t('place.typed.hint') }))
    if (place) {
      onSpot(place, true)
      setTyped(null)
    }
    void explain(typed, place !== null)
  }
  return (
    <TextInput
      label={label}
      hint={said ?? hint}
      needed
      error={error}
      value={typed ?? shown}
      onChange={(text) => {
        asked.current++
        setTyped(text)
        setError(null)
        setSaid(null)
      }}
      onBlur={read}
      onKeyDown={(e) => {
        if (e.key === 'Enter') {
          e.preventDefault()
          read()
        }
      }}
      inputProps={{ autoComplete: 'off' }}
    />
  )
}
