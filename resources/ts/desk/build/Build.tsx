import Box from '@mui/material/Box'
import Alert from '@mui/material/Alert'
import Button from '@mui/material/Button'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { PegMark } from '../../shared/parts/PegMark'
import { Pill } from '../../shared/parts/Pill'
import { Problems } from '../../shared/parts/Problems'
import { Empty } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import type { LayerLine } from '../../shared/types'
import { useProgramme } from '../ProgrammePage'
import { ReadyCheck } from '../plan/ReadyCheck'
import { BeginFrom } from './BeginFrom'
import { SharedLists } from './SharedLists'
import { layersOf } from '../queries/layers'

/** Visits stand behind what is visited. */
const inOrder = (layers: LayerLine[]) =>
  layers
    .filter((l) => l.visits_of === null)
    .flatMap((l) => [l, ...layers.filter((v) => v.visits_of === l.id)])

/** The layers of the programme. */
export function Build() {
  const programme = useProgramme()
  const layers = useQuery(layersOf(programme.id))
  const [told, setTold] = useState<string[]>([])
  const make = <BeginFrom layers={layers.data ?? []} onTold={setTold} />
  return (
    <Box sx={{ p: { xs: 3, md: 5 }, maxWidth: 1100, width: '100%', mx: 'auto' }}>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center', mb: 4 }}>
        <Typography variant="h1">{t('build.title')}</Typography>
        <Box sx={{ display: 'flex', gap: 2 }}>
          <Button variant="outlined" component={Link} to="bring">
            {t('bring.title')}
          </Button>
          {Boolean(layers.data?.length) && make}
        </Box>
      </Box>
      {told.length > 0 && (
        <Alert severity="info" variant="outlined" sx={{ mb: 4 }} onClose={() => setTold([])}>
          {told.map((line) => (
            <div key={line}>{line}</div>
          ))}
        </Alert>
      )}
      <Problems error={layers.error} />
      {layers.data?.length === 0 && (
        <Empty title={t('build.empty')} action={make}>
          {t('build.empty.text')}
        </Empty>
      )}
      <Box sx={{ display: 'grid', gap: 3 }}>
        {inOrder(layers.data ?? []).map((layer) => (
          <Paper
            key={layer.id}
            variant="outlined"
            component={Link}
            to={String(layer.id)}
            sx={{
              p: 4,
              ml: layer.visits_of === null ? 0 : 6,
              display: 'flex',
              gap: 4,
              alignItems: 'center',
              color: 'inherit',
              textDecoration: 'none',
              '&:hover': { borderColor: 'text.primary' },
            }}>
            <PegMark
              {...layer.peg}
              size={38}
              {...(layer.geometry === 'point' ? {} : { geometry: layer.geometry })}
            />
            <Box sx={{ flex: 1, minWidth: 0 }}>
              <Typography variant="h2">{layer.title}</Typography>
              <Typography color="text.secondary">{layer.purpose || t('build.nopurpose')}</Typography>
              {layer.visits_of !== null && (
                <Typography variant="body2" color="text.secondary">
                  {t('design.visits_of', {
                    layer: layers.data?.find((l) => l.id === layer.visits_of)?.title ?? '',
                  })}
                </Typography>
              )}
            </Box>
            <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', justifyContent: 'end' }}>
              <Pill>{t('build.fields', { n: layer.fields })}</Pill>
              <Pill tone="info">{t('build.version', { n: layer.design_version })}</Pill>
              <Pill tone="well">{t('board.count', { n: layer.records })}</Pill>
            </Box>
          </Paper>
        ))}
        {Boolean(layers.data?.length) && <SharedLists programme={programme.id} />}
        {Boolean(layers.data?.length) && <ReadyCheck />}
      </Box>
    </Box>
  )
}
