import CollectionsOutlined from '@mui/icons-material/CollectionsOutlined'
import Gesture from '@mui/icons-material/Gesture'
import PhotoCamera from '@mui/icons-material/PhotoCameraOutlined'
import Straighten from '@mui/icons-material/Straighten'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Drawer from '@mui/material/Drawer'
import FormControlLabel from '@mui/material/FormControlLabel'
import Switch from '@mui/material/Switch'
import Typography from '@mui/material/Typography'
import { useNavigate } from 'react-router'
import { Legend } from '../../shared/parts/Legend'
import { PegMark } from '../../shared/parts/PegMark'
import { Searches } from '../../shared/parts/Searches'
import { t } from '../../shared/texts'
import type { Box as Extent, LegendLine, Viewpoint } from '../../shared/types'
import { setMeta, type PackSearch } from '../db'
import type { pegsOf } from './legend'
import { ViewpointsPart } from './ViewpointsPart'

/** What the map draws: a layer, or a part of a map. */
export type SheetLine = {
  id: string
  title: string
  on: boolean
  pegs: ReturnType<typeof pegsOf>
  /** What its marks mean, where that is no list of pegs. */
  legend?: LegendLine[] | null
  /** What else there is to say of it. */
  note?: string | null
  onSwitch: (on: boolean) => void
}

type Props = {
  open: boolean
  lines: SheetLine[]
  /** What can be asked of the map that is shown; how many of its searches no phone can answer. */
  searches: PackSearch[]
  search: string | null
  unasked: number
  onSearch: (search: string | null) => void
  /** Of the map that is shown, or of all maps. */
  viewpoints: Viewpoint[]
  grid: boolean
  /** What the map shows now. */
  view: Extent | null
  onGo: (extent: Extent) => void
  onPicture: () => void
  onClose: () => void
}

/** Where to go on the map, what its marks mean, and which layers are on it; kept on this phone. */
export function LayersSheet(props: Props) {
  const { open, lines, viewpoints, grid, view, onGo, onPicture, onClose } = props
  const navigate = useNavigate()
  return (
    <Drawer
      anchor="bottom"
      open={open}
      onClose={onClose}
      slotProps={{
        paper: { sx: { maxHeight: '80dvh', maxWidth: 640, mx: 'auto', p: 4, display: 'grid', gap: 3 } },
      }}>
      <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between', gap: 3 }}>
        <Typography variant="h2">{t('field.layers')}</Typography>
        <Button
          variant="outlined"
          color="inherit"
          startIcon={<CollectionsOutlined />}
          sx={{ minHeight: 48 }}
          onClick={() => void navigate('/field/gallery')}>
          {t('gallery.title')}
        </Button>
      </Box>
      <Searches list={props.searches} chosen={props.search} onChoose={props.onSearch} />
      {props.unasked > 0 && (
        <Typography variant="body2" color="text.secondary">
          {t('searches.unasked', { n: props.unasked })}
        </Typography>
      )}
      {lines.map((line) => (
        <Box key={line.id} sx={{ borderTop: '1px solid', borderColor: 'divider', pt: 2 }}>
          <FormControlLabel
            label={<b>{line.title}</b>}
            sx={{ minHeight: 48, ml: 0, width: '100%', justifyContent: 'space-between' }}
            labelPlacement="start"
            control={<Switch checked={line.on} onChange={() => line.onSwitch(!line.on)} />}
          />
          {line.note && (
            <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
              {line.note}
            </Typography>
          )}
          {line.on && line.legend && <Legend lines={line.legend} single={line.title} counted={false} />}
          {line.on && (
            <Box
              component="ul"
              sx={{ listStyle: 'none', m: 0, p: 0, display: 'flex', flexWrap: 'wrap', gap: 3 }}>
              {line.pegs.map(({ label, ...peg }) => (
                <Box component="li" key={label} sx={{ display: 'flex', alignItems: 'center', gap: 1.5 }}>
                  <PegMark {...peg} size={24} />
                  {label}
                </Box>
              ))}
            </Box>
          )}
        </Box>
      ))}
      <ViewpointsPart shared={viewpoints} view={view} onGo={onGo} />
      <Box sx={{ borderTop: '1px solid', borderColor: 'divider', pt: 2 }}>
        <FormControlLabel
          label={<b>{t('grid.show')}</b>}
          sx={{ minHeight: 48, ml: 0, width: '100%', justifyContent: 'space-between' }}
          labelPlacement="start"
          control={<Switch checked={grid} onChange={() => void setMeta('grid', !grid)} />}
        />
      </Box>
      <Box sx={{ display: 'grid', gap: 2, '& button': { minHeight: 56, justifyContent: 'flex-start' } }}>
        <Button
          variant="outlined"
          color="inherit"
          startIcon={<Straighten />}
          onClick={() => void navigate('/field/measure')}>
          {t('measure.begin')}
        </Button>
        <Button
          variant="outlined"
          color="inherit"
          startIcon={<Gesture />}
          onClick={() => void navigate('/field/sketch')}>
          {t('sketch.begin')}
        </Button>
        <Button variant="outlined" color="inherit" startIcon={<PhotoCamera />} onClick={onPicture}>
          {t('picture.begin')}
        </Button>
      </Box>
    </Drawer>
  )
}
