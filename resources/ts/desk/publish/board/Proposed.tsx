import Add from '@mui/icons-material/Add'
import Button from '@mui/material/Button'
import { useQuery } from '@tanstack/react-query'
import type { LayerLine, MapDoc, ProposedTile } from '../../../shared/types'
import { measurableOf } from '../../queries/publish'
import { sentenceOf } from './sentence'

/** A tile that could answer a question, as the sentence that it would be. */
export function Proposed({
  proposed,
  layers,
  maps,
  onAdd,
}: {
  proposed: ProposedTile
  layers: LayerLine[]
  maps: MapDoc[]
  onAdd: () => void
}) {
  const { data } = useQuery(measurableOf(proposed.layer))
  const words = sentenceOf({ ...proposed, id: 'x' }, { layers, maps, slices: [], measurable: data })
    .map((p) => (typeof p === 'string' ? p : p.words))
    .join('')
  return (
    <Button
      variant="outlined"
      onClick={onAdd}
      startIcon={<Add />}
      sx={{
        justifyContent: 'start',
        textAlign: 'left',
        fontWeight: 500,
        fontSize: '0.9rem',
        lineHeight: 1.35,
      }}>
      {words}
    </Button>
  )
}
