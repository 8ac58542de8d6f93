import Box from '@mui/material/Box'
import { useQuery } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import type { FormProps } from '../../../shared/board/formSlot'
import { LazyMap } from '../../../shared/map/LazyMap'
import { Problems } from '../../../shared/parts/Problems'
import { t } from '../../../shared/texts'
import type { Layer, RecordRow } from '../../../shared/types'
import { geometryOf, isPoint, NOWHERE, spotOf, type Placing } from '../../check/placing'
import { RecordEditor } from '../../check/RecordEditor'
import { extentOf, shownAt } from '../../check/whereShown'
import { useProgramme } from '../../ProgrammePage'
import { layerOf } from '../../queries/layers'
import { recordOf } from '../../queries/records'

/** The form of Check, within a tile: its place is tapped on a small map or typed. */
export function DeskForm({ layer: id, visited, ...ends }: FormProps) {
  const layer = useQuery(layerOf(id))
  const of = useQuery({
    ...recordOf(visited?.layer ?? 0, visited?.record ?? ''),
    enabled: visited !== null,
  })
  return layer.data && (visited === null || of.data) ? (
    <Writing layer={layer.data} visited={of.data ?? null} {...ends} />
  ) : (
    <Problems error={layer.error ?? of.error} />
  )
}

type WritingProps = Pick<FormProps, 'onDone' | 'onCancel'> & { layer: Layer; visited: RecordRow | null }

function Writing({ layer, visited, onDone, onCancel }: WritingProps) {
  const programme = useProgramme()
  // A visit is where the record is, until somebody says otherwise.
  const [placing, setPlacing] = useState<Placing>(() =>
    visited ? { ...NOWHERE, spot: spotOf(visited) } : NOWHERE,
  )
  const [centre, setCentre] = useState<{ lon: number; lat: number } | null>(null)
  const kind = layer.design.geometry
  const shown = useMemo(() => {
    const geometry = geometryOf(kind, placing)
    return geometry ? [shownAt(geometry)] : []
  }, [kind, placing])
  const extent = extentOf(centre ?? (visited && spotOf(visited)), null) ?? programme.area
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', mx: -3, minHeight: 0, flex: 1 }}>
      <Box sx={{ height: 190, flex: 'none' }}>
        <LazyMap
          label={t('check.where')}
          extent={[...extent]}
          layers={shown}
          corners={
            isPoint(kind)
              ? null
              : {
                  kind,
                  places: placing.corners,
                  onChange: (corners) => setPlacing((p) => ({ ...p, corners })),
                }
          }
          onTap={(spot) =>
            setPlacing((p) =>
              isPoint(kind) ? { ...p, spot } : { ...p, corners: [...p.corners, [spot.lon, spot.lat]] },
            )
          }
        />
      </Box>
      <RecordEditor
        under={layer.id}
        layer={layer}
        zone={programme.time_zone}
        record={null}
        visited={visited}
        placing={placing}
        onPlacing={(at, typed) => {
          setPlacing(at)
          const last = at.corners.at(-1)
          if (typed) setCentre(isPoint(kind) ? at.spot : last ? { lon: last[0], lat: last[1] } : null)
        }}
        onDone={(record) => onDone(record.id)}
        onCancel={onCancel}
      />
    </Box>
  )
}
