import Box from '@mui/material/Box'
import Paper from '@mui/material/Paper'
import Tab from '@mui/material/Tab'
import Tabs from '@mui/material/Tabs'
import { useQuery } from '@tanstack/react-query'
import { useId, useState } from 'react'
import { Problems } from '../../../shared/parts/Problems'
import { t } from '../../../shared/texts'
import type { LayerOnMap, MapViewLayer } from '../../../shared/types'
import { layerOf } from '../../queries/layers'
import { CardPart } from './CardPart'
import { DrawingPart } from './DrawingPart'
import { LabelPart } from './LabelPart'
import { LookPart } from './LookPart'

const PARTS = ['look', 'label', 'card', 'drawing'] as const

type Props = {
  part: LayerOnMap
  view: MapViewLayer | undefined
  /** Why its look was proposed, where nobody has chosen yet. */
  why: string | undefined
  /** Marks that can hardly be told apart. */
  warnings: string[]
  /** Where the map stands. */
  zoom: number | null
  /** The middle of where the map opens. */
  lat: number
  onChange: (change: Partial<LayerOnMap>, now?: boolean) => void
}

/** What can be set of one layer of a map: its marks, labels, card, and how it is drawn. */
export function PartSettings({ part, view, why, warnings, zoom, lat, onChange }: Props) {
  const [shown, setShown] = useState<(typeof PARTS)[number]>('look')
  const id = useId()
  const layer = useQuery(layerOf(part.layer))
  const title = part.title ?? view?.title ?? part.called
  return (
    <Paper variant="outlined" component="section" aria-label={title} sx={{ minWidth: 0 }}>
      <Tabs
        value={shown}
        variant="fullWidth"
        aria-label={t('map.parts', { layer: title })}
        onChange={(_, value: (typeof PARTS)[number]) => setShown(value)}
        sx={{ borderBottom: '1px solid', borderColor: 'divider', '& .MuiTab-root': { minWidth: 0, px: 1 } }}>
        {PARTS.map((one) => (
          <Tab
            key={one}
            value={one}
            id={`${id}-${one}`}
            aria-controls={`${id}-panel`}
            label={t(`map.part.${one}`)}
          />
        ))}
      </Tabs>
      <Box role="tabpanel" id={`${id}-panel`} aria-labelledby={`${id}-${shown}`} sx={{ p: 4 }}>
        <Problems error={layer.error} />
        {layer.data && shown === 'look' && (
          <LookPart
            layer={layer.data}
            look={part.look}
            slice={part.slice}
            lat={lat}
            photos={part.card.photos}
            legend={view?.legend}
            sizes={view?.sizes}
            why={why}
            warnings={warnings}
            onChange={(look, now) => onChange({ look }, now)}
          />
        )}
        {layer.data && shown === 'label' && (
          <LabelPart
            layer={layer.data}
            fields={layer.data.design.fields}
            label={part.label}
            tallied={part.look.kind === 'inside'}
            onChange={(label, now) => onChange({ label }, now)}
          />
        )}
        {layer.data && shown === 'card' && (
          <CardPart
            layer={layer.data}
            card={part.card}
            tallied={part.look.kind === 'inside'}
            onChange={(card, now) => onChange({ card }, now)}
          />
        )}
        {/* Of a layer that is not there, or not theirs, nothing can be set: it could not be kept. */}
        {layer.data && shown === 'drawing' && <DrawingPart part={part} zoom={zoom} onChange={onChange} />}
      </Box>
    </Paper>
  )
}
