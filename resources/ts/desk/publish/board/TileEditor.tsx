import DeleteOutline from '@mui/icons-material/DeleteOutline'
import NotificationsNone from '@mui/icons-material/NotificationsNone'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Select, TextInput } from '../../../shared/parts/Labelled'
import { Sheet } from '../../../shared/parts/Sheet'
import { t } from '../../../shared/texts'
import type { LayerLine, MapDoc, Tile, TileKind } from '../../../shared/types'
import { AlertDialog } from '../../alerts/AlertDialog'
import { alertOf } from '../../alerts/alertOf'
import { layerOf } from '../../queries/layers'
import { measurableOf } from '../../queries/publish'
import { slicesOf } from '../../queries/slices'
import { TileSentence } from './TileSentence'
import { asKind, changed, kindsFor } from './tileEdits'

type Props = {
  tile: Tile
  layers: LayerLine[]
  maps: MapDoc[]
  pages: string[]
  onChange: (tile: Tile) => void
  onRemove: () => void
}

/** The tile that is being made: its title, its sentence, as what it is shown, where it stands. */
export function TileEditor({ tile, layers, maps, pages, onChange, onRemove }: Props) {
  const layer = tile.layer ?? layers[0]?.id
  const measurable = useQuery(measurableOf(layer))
  const slices = useQuery({ ...slicesOf(layer ?? 0), enabled: layer !== undefined })
  const design = useQuery(layerOf(layer))
  const m = measurable.data
  const known = { layers, maps, slices: slices.data ?? [], measurable: m }
  const alerts = alertOf(tile)
  const [alerting, setAlerting] = useState(false)
  const kinds = m ? kindsFor(m, design.data?.design.photos.allowed ?? false) : [tile.kind]
  return (
    <Sheet tone="warn">
      <Box sx={{ display: 'grid', gap: 3 }}>
        <TextInput
          label={t('tile.title')}
          value={tile.title}
          error={tile.title.trim() ? null : t('save.title')}
          inputProps={{ maxLength: 120 }}
          onChange={(title) => onChange({ ...tile, title })}
        />
        <TileSentence key={tile.id} tile={tile} known={known} onChange={onChange} />
        <Box sx={{ display: 'grid', gridTemplateColumns: pages.length > 1 ? '1fr 1fr' : '1fr', gap: 2 }}>
          <Select
            label={t('board.kind')}
            value={tile.kind}
            onChange={(kind) =>
              m && layer !== undefined && onChange(asKind(tile, kind as TileKind, m, layer))
            }>
            {[...new Set([...kinds, tile.kind])].map((kind) => (
              <option key={kind} value={kind}>
                {t(`tile.${kind}`)}
              </option>
            ))}
          </Select>
          {pages.length > 1 && (
            <Select
              label={t('board.onpage')}
              value={Math.min(tile.page ?? 0, pages.length - 1)}
              onChange={(v) =>
                onChange(changed(tile, { page: Number(v) || undefined, x: undefined, y: undefined }))
              }>
              {pages.map((title, i) => (
                <option key={i} value={i}>
                  {title || t('board.page', { n: i + 1 })}
                </option>
              ))}
            </Select>
          )}
        </Box>
        <Box>
          {(tile.kind === 'latest' || tile.kind === 'details') && design.data?.design.photos.allowed && (
            <FormControlLabel
              label={t('tile.photo')}
              control={
                <Checkbox
                  size="small"
                  checked={tile.photo === true}
                  onChange={(e) => onChange(changed(tile, { photo: e.target.checked || undefined }))}
                />
              }
            />
          )}
          {(tile.kind === 'latest' ||
            tile.kind === 'details' ||
            tile.kind === 'photos' ||
            (tile.kind === 'map' && tile.map === undefined)) && (
            <FormControlLabel
              label={t('tile.names')}
              control={
                <Checkbox
                  size="small"
                  checked={tile.names === true}
                  onChange={(e) => onChange(changed(tile, { names: e.target.checked || undefined }))}
                />
              }
            />
          )}
          {tile.kind === 'crews' && (
            <FormControlLabel
              label={t('tile.open')}
              control={
                <Checkbox
                  size="small"
                  checked={tile.open === true}
                  onChange={(e) => onChange(changed(tile, { open: e.target.checked || undefined }))}
                />
              }
            />
          )}
          <FormControlLabel
            label={t('tile.onphone')}
            control={
              <Checkbox
                size="small"
                checked={tile.on_phone !== false}
                onChange={(e) => onChange(changed(tile, { on_phone: e.target.checked ? undefined : false }))}
              />
            }
          />
        </Box>
        <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 2 }}>
          {alerts && (
            <Button
              variant="outlined"
              color="inherit"
              startIcon={<NotificationsNone />}
              onClick={() => setAlerting(true)}>
              {t('tile.alert')}
            </Button>
          )}
          <Button variant="outlined" color="secondary" startIcon={<DeleteOutline />} onClick={onRemove}>
            {t('tile.remove')}
          </Button>
        </Box>
        {alerting && alerts && <AlertDialog rule={alerts} onClose={() => setAlerting(false)} />}
      </Box>
    </Sheet>
  )
}
