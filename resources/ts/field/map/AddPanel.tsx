import FormatListBulleted from '@mui/icons-material/FormatListBulleted'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import { useNavigate } from 'react-router'
import { t } from '../../shared/texts'
import { setMeta, type PackLayer, type PhoneRecord } from '../db'
import { bearing, compassPoint, farAway, metres, type Position } from '../position'
import { WideButton } from '../screens/WideButton'

/** Below the map: what is nearest, what one adds to, and the one wide button. */
export function AddPanel({
  layers,
  layer,
  place,
  nearest,
  counted,
  crosshair,
  denied,
  position,
  trail,
  onAdd,
}: {
  /** Those that this person may add to. */
  layers: PackLayer[]
  layer: PackLayer | undefined
  /** Where a record would be added. */
  place: { lon: number; lat: number } | null
  nearest: PhoneRecord | null
  /** Whether the phone's records have been read. */
  counted: boolean
  crosshair: boolean
  denied: boolean
  position: Position | null
  trail: boolean
  onAdd: () => void
}) {
  const navigate = useNavigate()
  return (
    <Box
      sx={{
        borderTop: '2px solid',
        borderColor: 'text.primary',
        bgcolor: 'background.paper',
        p: 3.5,
        display: 'grid',
        gap: 2.5,
        flex: 'none',
      }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 3 }}>
        <Box sx={{ flex: 1, minWidth: 0, fontSize: '0.95rem' }}>
          {nearest && place ? (
            <>
              <b>{t('field.nearest')}</b> {nearest.name ?? t('record.unnamed')},{' '}
              {farAway(metres(place, nearest))} {t(`compass.${compassPoint(bearing(place, nearest))}`)}
            </>
          ) : counted ? (
            t('field.norecords')
          ) : null}
        </Box>
        <Button
          variant="outlined"
          color="inherit"
          startIcon={<FormatListBulleted />}
          onClick={() => void navigate('/field/list')}>
          {t('field.list')}
        </Button>
      </Box>
      {layers.length > 1 && (
        <NativeSelect
          input={<OutlinedInput />}
          value={layer?.id ?? ''}
          onChange={(e) => void setMeta('layer', Number(e.target.value))}
          inputProps={{ 'aria-label': t('check.layer') }}>
          {layers.map((l) => (
            <option key={l.id} value={l.id}>
              {l.title}
            </option>
          ))}
        </NativeSelect>
      )}
      <WideButton onClick={onAdd} disabled={!layer || !place}>
        {layer
          ? layer.design.geometry === 'point'
            ? t(crosshair ? 'field.add.cross' : 'field.add.here', { layer: layer.title })
            : t(`draw.begin.${layer.design.geometry}`, { layer: layer.title })
          : t('field.add.none')}
      </WideButton>
      <Box sx={{ textAlign: 'center', fontSize: '0.88rem', color: 'text.secondary' }}>
        {trail && <Box sx={{ color: 'text.primary', fontWeight: 650 }}>{t('trail.on')}</Box>}
        {crosshair
          ? denied
            ? t('field.denied')
            : t('field.cross.hint')
          : t(position?.satellites ? 'field.fix.satellites' : 'field.fix', {
              m: Math.round(position?.accuracy ?? 0),
              n: position?.satellites ?? 0,
            })}
      </Box>
    </Box>
  )
}
