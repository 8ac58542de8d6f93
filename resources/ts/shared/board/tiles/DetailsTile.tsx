import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useQuery } from '@tanstack/react-query'
import { api, ApiError } from '../../api'
import { CardBody } from '../../parts/RecordCard'
import { t } from '../../texts'
import type { CardView } from '../../types'
import { shownIn } from '../crews'
import { usePicking } from '../picks'
import type { TileProps } from './shared'

/** The only layer of the map that stands for it (App\\Boards\\TileMap). */
const PART = 'l0000000'

/** What there is of the record that is picked in a list or on a map. */
export function DetailsTile({ tile, base, query, today }: TileProps<'details'>) {
  const { picks, show } = usePicking()
  const { tile: from, record } = shownIn(picks) ?? { tile: null, record: null }
  const address = `${base}/tiles/${tile.id}`
  const open = base.startsWith('/open/')
  const asked = [query, from ? new URLSearchParams({ from }).toString() : ''].filter(Boolean).join('&')
  const card = useQuery({
    queryKey: ['tile-details', address, record, asked, today] as const,
    queryFn: () => api<CardView>('GET', `${address}/layers/${PART}/records/${record}?${asked}`),
    enabled: record !== null && tile.answer.may_show,
    refetchInterval: 10_000,
    networkMode: 'always',
    retry: false,
  })
  const hint = (words: string) => <Box sx={{ color: 'text.secondary', mt: 2 }}>{words}</Box>
  if (!tile.answer.may_show) return hint(t('details.closed'))
  if (record === null || from === null) return hint(t('details.pick', { layer: tile.answer.of }))
  if (card.error instanceof ApiError && card.error.status === 404)
    return hint(t('details.other', { layer: tile.answer.of }))
  if (card.error) return hint(t('board.away'))
  if (!card.data) return null
  return (
    <Box sx={{ mx: -3, mt: 1, minHeight: 0 }}>
      <CardBody
        key={card.data.id}
        card={card.data}
        photo={(id) => (open ? `/api/v1${address}/photos/${id}/view` : `/api/v1/attachments/${id}/view`)}
      />
      <Button size="small" variant="outlined" sx={{ mx: 4, mb: 2 }} onClick={() => show(from, null)}>
        {t('details.leave')}
      </Button>
    </Box>
  )
}
