import Star from '@mui/icons-material/Star'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import ButtonBase from '@mui/material/ButtonBase'
import Dialog from '@mui/material/Dialog'
import DialogActions from '@mui/material/DialogActions'
import DialogContent from '@mui/material/DialogContent'
import DialogTitle from '@mui/material/DialogTitle'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { useDeferredValue, useState } from 'react'
import { paint } from '../../../shared/paint'
import { TextInput } from '../../../shared/parts/Labelled'
import { Pill } from '../../../shared/parts/Pill'
import { Problems } from '../../../shared/parts/Problems'
import { t } from '../../../shared/texts'
import type { LayerOnMap } from '../../../shared/types'
import { addableTo } from '../../queries/publish'
import { newPartId } from './mapEdits'

type Props = {
  map: number
  parts: LayerOnMap[]
  onAdd: (part: LayerOnMap, geometry: string) => void
  onClose: () => void
}

/** One search over all layers that one sees; several can be added one after the other. */
export function AddLayerDialog({ map, parts, onAdd, onClose }: Props) {
  const [text, setText] = useState('')
  const asked = useDeferredValue(text)
  const found = useQuery(addableTo(map, asked))
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>{t('map.layers.add')}</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 3, alignContent: 'start', minHeight: 380 }}>
        <TextInput
          label={t('map.layers.find')}
          hint={t('map.layers.find.hint')}
          value={text}
          autoFocus
          onChange={setText}
        />
        <Problems error={found.error} />
        <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0, display: 'grid' }}>
          {found.data?.layers.map((layer) => {
            const here = parts.some((p) => p.layer === layer.id)
            return (
              <li key={layer.id}>
                <ButtonBase
                  // A double click adds it once.
                  onClick={(e) => e.detail < 2 && onAdd({ ...layer.part, id: newPartId() }, layer.geometry)}
                  sx={{
                    width: '100%',
                    justifyContent: 'flex-start',
                    textAlign: 'left',
                    gap: 3,
                    px: 2,
                    py: 1.75,
                    borderRadius: 1.5,
                    '&:hover': { bgcolor: paint.page },
                  }}>
                  <Box sx={{ flex: 1, minWidth: 0 }}>
                    <Box sx={{ fontWeight: 650, overflowWrap: 'anywhere' }}>{layer.title}</Box>
                    <Typography variant="body2" color="text.secondary">
                      {[
                        layer.programme,
                        t(`map.layers.${layer.geometry}s`),
                        t('map.layer.records', { n: layer.records }),
                      ].join(' · ')}
                    </Typography>
                  </Box>
                  {layer.starred && (
                    <Star titleAccess={t('map.layer.starred')} color="secondary" fontSize="small" />
                  )}
                  {here && <Pill>{t('map.layers.on')}</Pill>}
                </ButtonBase>
              </li>
            )
          })}
        </Box>
        {found.data?.layers.length === 0 && (
          <Typography color="text.secondary">{t('map.layers.found.none')}</Typography>
        )}
        {(found.data?.more ?? 0) > 0 && (
          <Typography variant="body2" color="text.secondary">
            {t('map.layers.more', { n: found.data?.more ?? 0 })}
          </Typography>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{t('map.layers.done')}</Button>
      </DialogActions>
    </Dialog>
  )
}
