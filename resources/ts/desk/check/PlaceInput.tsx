import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useState } from 'react'
import { api, sentences } from '../../shared/api'
import { measure, shapeOf, shownArea, shownLength } from '../../shared/form/geodesic'
import { TextInput } from '../../shared/parts/Labelled'
import { t } from '../../shared/texts'
import type { GeometryKind } from '../../shared/types'
import { isPoint, type Placing } from './placing'

type Spot = { lon: number; lat: number }
type Props = {
  kind: GeometryKind
  placing: Placing
  /** `typed` asks the map to go there; a tap is in view already. */ onPlacing: (
    placing: Placing,
    typed: boolean,
  ) => void
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

/** What was typed is read by the server, which says how it understood it. */
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
  const read = async () => {
    if (typed === null || typed.trim() === '') return setTyped(null)
    try {
      const place = await api<Spot & { said: string }>('POST', '/places/read', { text: typed })
      onSpot({ lon: place.lon, lat: place.lat }, true)
      setSaid(place.said)
      setError(null)
      setTyped(null)
    } catch (e) {
      setError(sentences(e)[0] ?? null)
    }
  }
  return (
    <TextInput
      label={label}
      hint={said ?? hint}
      needed
      error={error}
      value={typed ?? shown}
      onChange={(text) => {
        setTyped(text)
        setError(null)
        setSaid(null)
      }}
      onBlur={() => void read()}
      onKeyDown={(e) => {
        if (e.key === 'Enter') {
          e.preventDefault()
          void read()
        }
      }}
      inputProps={{ autoComplete: 'off' }}
    />
  )
}
