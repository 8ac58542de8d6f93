import Alert from '@mui/material/Alert'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useState } from 'react'
import { readPlace, showPlace } from '../../shared/form/coordinates'
import { TextInput } from '../../shared/parts/Labelled'
import { t } from '../../shared/texts'
import type { Fix } from '../db'
import { useFormat } from '../format'
import { bearing, compassPoint, farAway, metres, usePosition } from '../position'

type Props = {
  place: { lon: number; lat: number }
  accuracy: number | null
  /** Where a photo of the record was taken. */ photo?: { lon: number; lat: number } | null
  onPlace: (place: { lon: number; lat: number; fix: Fix; altitude?: number | null }) => void
  onMap: () => void
}

/** Metres from which on a photo is said to have been taken elsewhere. */
const PHOTO_M = 20

/** Where a record is, and the three ways to put it elsewhere: where one stands, on the map, typed. */
export function PlacePart({ place, accuracy, photo = null, onPlace, onMap }: Props) {
  const { position } = usePosition()
  const format = useFormat()
  const [open, setOpen] = useState(false)
  const [typed, setTyped] = useState<string | null>(null)
  const [error, setError] = useState<string | null>(null)
  const stand = () => {
    if (!position) return
    onPlace({
      lon: Number(position.lon.toFixed(7)),
      lat: Number(position.lat.toFixed(7)),
      fix: {
        accuracy: position.accuracy,
        at: new Date(position.at).toISOString(),
        altitude: position.altitude,
        ...(position.satellites ? { satellites: position.satellites } : {}),
        ...(position.type ? { type: position.type } : {}),
      },
      altitude: position.altitude,
    })
    setOpen(false)
  }
  const take = () => {
    const spot = readPlace(typed ?? '')
    if (!spot) return setError(t('place.typed.bad', { hint: t('place.typed.hint') }))
    onPlace({ lon: Number(spot.lon.toFixed(7)), lat: Number(spot.lat.toFixed(7)), fix: null })
    setTyped(null)
    setOpen(false)
  }
  const away = photo ? metres(place, photo) : 0
  return (
    <Box
      sx={{
        mb: 4,
        p: 3,
        border: '2px solid',
        borderColor: 'divider',
        borderRadius: 2,
        display: 'grid',
        gap: 2.5,
      }}>
      <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between', gap: 3 }}>
        <Box sx={{ minWidth: 0 }}>
          <Box sx={{ color: 'text.secondary', fontSize: '0.9rem' }}>{t('record.place')}</Box>
          <Box sx={{ fontVariantNumeric: 'tabular-nums' }}>
            {showPlace(place, format)}
            {accuracy !== null && ` ± ${Math.round(accuracy)} m`}
          </Box>
        </Box>
        <Button variant="outlined" color="inherit" aria-expanded={open} onClick={() => setOpen((o) => !o)}>
          {t('place.move')}
        </Button>
      </Box>
      {photo && away > PHOTO_M && (
        <Alert
          severity="info"
          variant="outlined"
          action={
            <Button size="small" variant="outlined" onClick={() => onPlace({ ...photo, fix: null })}>
              {t('place.photo.take')}
            </Button>
          }>
          {t('place.photo', { far: farAway(away), way: t(`compass.${compassPoint(bearing(place, photo))}`) })}
        </Alert>
      )}
      {open && (
        <Box
          sx={{
            display: 'grid',
            gridTemplateColumns: '1fr 1fr 1fr',
            gap: 2,
            '& button': { minHeight: 52, lineHeight: 1.15, px: 1 },
          }}>
          <Button variant="outlined" color="inherit" disabled={!position} onClick={stand}>
            {t('place.stand')}
          </Button>
          <Button variant="outlined" color="inherit" onClick={onMap}>
            {t('place.map')}
          </Button>
          <Button variant="outlined" color="inherit" onClick={() => setTyped('')}>
            {t('place.type')}
          </Button>
        </Box>
      )}
      {open && typed !== null && (
        <>
          <TextInput
            label={t('place.typed')}
            hint={t('place.typed.hint')}
            error={error}
            value={typed}
            onChange={(text) => {
              setTyped(text)
              setError(null)
            }}
            inputProps={{ autoComplete: 'off', enterKeyHint: 'done' }}
            onKeyDown={(e) => {
              if (e.key === 'Enter') take()
            }}
          />
          <Button disabled={typed.trim() === ''} onClick={take} sx={{ minHeight: 52 }}>
            {t('place.take')}
          </Button>
        </>
      )}
    </Box>
  )
}
