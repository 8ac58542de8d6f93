import AssignmentOutlined from '@mui/icons-material/AssignmentOutlined'
import DarkMode from '@mui/icons-material/DarkMode'
import GpsFixed from '@mui/icons-material/GpsFixed'
import Inventory from '@mui/icons-material/Inventory2Outlined'
import LayersOutlined from '@mui/icons-material/LayersOutlined'
import LightMode from '@mui/icons-material/LightMode'
import LocationSearching from '@mui/icons-material/LocationSearching'
import Timeline from '@mui/icons-material/Timeline'
import Box from '@mui/material/Box'
import { useNavigate } from 'react-router'
import { t } from '../../shared/texts'
import { useLight } from '../colours'
import { startTrail, stopTrail } from '../trail'
import { Tool } from './MapTools'

/** What the map shows, and the ways to other screens. */
export function ScreenTools({ outings, onLayers }: { outings: boolean; onLayers: () => void }) {
  const navigate = useNavigate()
  const { light, setLight } = useLight()
  return (
    <Box sx={{ position: 'absolute', right: 12, top: 12, zIndex: 3, display: 'grid', gap: 2 }}>
      {outings && (
        <Tool label={t('outing.mine')} onClick={() => void navigate('/field/outings')}>
          <AssignmentOutlined />
        </Tool>
      )}
      <Tool label={t('field.layers')} onClick={onLayers}>
        <LayersOutlined />
      </Tool>
      <Tool label={t('field.packs')} onClick={() => void navigate('/field/packs')}>
        <Inventory />
      </Tool>
      <Tool
        label={t(light === 'sun' ? 'field.night' : 'field.sun')}
        onClick={() => setLight(light === 'sun' ? 'night' : 'sun')}>
        {light === 'sun' ? <DarkMode /> : <LightMode />}
      </Tool>
    </Box>
  )
}

/** Where one stands and has been. */
export function PlaceTools({
  programme,
  trail,
  crosshair,
  placed,
  onCrosshair,
  onHere,
}: {
  programme: number
  /** Whether a trail is being kept. */
  trail: boolean
  crosshair: boolean
  placed: boolean
  onCrosshair: () => void
  onHere: () => void
}) {
  return (
    <Box sx={{ position: 'absolute', right: 12, bottom: 44, zIndex: 3, display: 'grid', gap: 2 }}>
      <Tool
        label={t(trail ? 'trail.stop' : 'trail.start')}
        pressed={trail}
        onClick={() => void (trail ? stopTrail() : startTrail(programme))}>
        <Timeline />
      </Tool>
      <Tool label={t('field.crosshair')} pressed={crosshair} onClick={onCrosshair}>
        <LocationSearching />
      </Tool>
      <Tool label={t('field.here')} disabled={!placed} onClick={onHere}>
        <GpsFixed />
      </Tool>
    </Box>
  )
}
