import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useMemo, useState } from 'react'
import { useLastAnswer } from '../../shared/lateAnswers'
import { LazyMap } from '../../shared/map/LazyMap'
import { paint } from '../../shared/paint'
import { Problems } from '../../shared/parts/Problems'
import { t } from '../../shared/texts'
import { useProgramme } from '../ProgrammePage'
import { findPlaces } from '../queries/imports'
import type { Candidate, WaitingRow } from './import'

export type Spot = { lon: number; lat: number }

/** Where a row that found no place could belong: on the map, among the places that its words may mean, by another name. */
export function RejectedPlace({
  row,
  some,
  onSettle,
}: {
  row: WaitingRow | null
  /** Whether there are rows to pick from. */ some: boolean
  onSettle: (row: WaitingRow, spot: Spot) => void
}) {
  const programme = useProgramme()
  const shown: [number, number][] = useMemo(
    () => [
      ...(row?.place?.candidates ?? []).map((c): [number, number] => [c.lon, c.lat]),
      ...(row?.place?.chosen ? [[row.place.chosen.lon, row.place.chosen.lat] as [number, number]] : []),
    ],
    [row],
  )
  const layers = useMemo(
    () => [
      {
        source: 'maybe',
        layers: [
          {
            id: 'maybe',
            type: 'circle',
            source: 'maybe',
            paint: {
              'circle-radius': 7,
              'circle-color': paint.buoy,
              'circle-stroke-color': paint.white,
              'circle-stroke-width': 2,
            },
          },
        ],
        data: {
          type: 'FeatureCollection' as const,
          features: shown.map((coordinates) => ({
            type: 'Feature' as const,
            properties: {},
            geometry: { type: 'Point' as const, coordinates },
          })),
        },
      },
    ],
    [shown],
  )
  return (
    <Box sx={{ m: -4, display: 'flex', flexDirection: 'column', minHeight: '100%' }}>
      <Box sx={{ height: 420, flex: 'none' }}>
        <LazyMap
          label={t('bring.where')}
          extent={[...programme.area]}
          layers={layers}
          {...(row ? { onTap: (spot: Spot) => onSettle(row, spot) } : {})}
        />
      </Box>
      <Box sx={{ p: 4, display: 'grid', gap: 2 }}>
        {row ? (
          <>
            <Typography variant="h2">{t('bring.rowwhere', { row: row.row })}</Typography>
            <Typography>{t('bring.tap')}</Typography>
            <PlaceSearch key={row.row} programme={programme.id} onTake={(spot) => onSettle(row, spot)} />
            {row.place?.candidates?.map((c) => (
              <CandidateLine
                key={`${c.name} ${c.lon} ${c.lat}`}
                candidate={c}
                onTake={() => onSettle(row, c)}
              />
            ))}
          </>
        ) : (
          <Typography color="text.secondary">{t(some ? 'bring.pickrow' : 'bring.nothingopen')}</Typography>
        )}
      </Box>
    </Box>
  )
}

function CandidateLine({ candidate, onTake }: { candidate: Candidate; onTake: () => void }) {
  return (
    <Box
      sx={{
        display: 'flex',
        justifyContent: 'space-between',
        gap: 2,
        alignItems: 'center',
        bgcolor: 'background.paper',
        border: '1px solid',
        borderColor: 'divider',
        borderRadius: 1.5,
        p: 2,
      }}>
      <Box>
        <b>{candidate.name}</b>
        {candidate.of && (
          <Typography variant="body2" color="text.secondary">
            {candidate.of}
          </Typography>
        )}
      </Box>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center' }}>
        <span>{t('bring.likeness', { n: Math.round(candidate.score * 100) })}</span>
        <Button size="small" onClick={onTake}>
          {t('bring.take')}
        </Button>
      </Box>
    </Box>
  )
}

function PlaceSearch({ programme, onTake }: { programme: number; onTake: (spot: Spot) => void }) {
  const [text, setText] = useState('')
  const [places, setPlaces] = useState<Candidate[] | null>(null)
  const [error, setError] = useState<unknown>(null)
  const ask = useLastAnswer()
  const find = async () => {
    const counts = ask()
    try {
      const found = await findPlaces(programme, text)
      if (!counts()) return
      setPlaces(found)
      setError(null)
    } catch (e) {
      if (counts()) setError(e)
    }
  }
  return (
    <Box
      component="form"
      onSubmit={(e) => {
        e.preventDefault()
        void find()
      }}
      sx={{ display: 'grid', gap: 1.5 }}>
      <Box sx={{ display: 'flex', gap: 2 }}>
        <Box
          component="input"
          value={text}
          onChange={(e: React.ChangeEvent<HTMLInputElement>) => setText(e.target.value)}
          aria-label={t('bring.search')}
          placeholder={t('bring.search')}
          sx={{
            font: 'inherit',
            flex: 1,
            minWidth: 0,
            border: `1px solid ${paint.frame}`,
            borderRadius: 1.5,
            p: 1.5,
            bgcolor: paint.sheet,
          }}
        />
        <Button type="submit" variant="outlined">
          {t('bring.find')}
        </Button>
      </Box>
      <Problems error={error} />
      {places?.length === 0 && <Typography role="status">{t('bring.noplace')}</Typography>}
      {places?.slice(0, 5).map((c) => (
        <CandidateLine key={`${c.name} ${c.lon} ${c.lat}`} candidate={c} onTake={() => onTake(c)} />
      ))}
    </Box>
  )
}
