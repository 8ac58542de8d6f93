import ChevronRight from '@mui/icons-material/ChevronRight'
import Close from '@mui/icons-material/Close'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Link from '@mui/material/Link'
import IconButton from '@mui/material/IconButton'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import { useState, type ReactNode } from 'react'
import { paint } from '../paint'
import { formatDate, formatInstant, fromToday, t } from '../texts'
import type { CardView } from '../types'
import { CardChart } from './CardChart'
import { CardVisits } from './CardVisits'

type Props = {
  card: CardView
  /** The address of a photo. */
  photo: (id: string) => string
  /** Which of those that lie under one tap. */
  place: { n: number; of: number } | null
  onNext: () => void
  /** Leads to the record itself, where there is a way. */
  onOpen?: () => void
  /** Shows only what lies in it, elsewhere too. */
  only?: { on: boolean; toggle: () => void } | null
  onClose: () => void
}

/** What opens over a map when a record is tapped. */
export function RecordCard({ card, photo, place, onNext, onOpen, only, onClose }: Props) {
  return (
    <Paper
      component="section"
      aria-label={card.name ?? t('record.unnamed')}
      sx={{
        position: 'absolute',
        // Above the map's own scale and credits.
        zIndex: 3,
        boxShadow: `0 8px 28px ${paint.ink}40`,
        overflow: 'auto',
        border: `1px solid ${paint.line}`,
        left: { xs: 0, sm: 'auto' },
        right: { xs: 0, sm: 12 },
        bottom: { xs: 0, sm: 'auto' },
        top: { sm: 108 },
        width: { sm: 320 },
        maxHeight: { xs: '62%', sm: 'calc(100% - 150px)' },
      }}>
      <IconButton
        onClick={onClose}
        aria-label={t('close')}
        sx={{
          position: 'absolute',
          right: 8,
          top: 8,
          bgcolor: paint.sheet,
          border: `1px solid ${paint.line}`,
          '&:hover': { bgcolor: paint.page },
        }}>
        <Close fontSize="small" />
      </IconButton>
      <CardBody key={card.id} card={card} photo={photo} onOpen={onOpen} closes>
        {only && (
          <Button
            variant="outlined"
            size="small"
            fullWidth
            aria-pressed={only.on}
            sx={{ mt: 3 }}
            onClick={only.toggle}>
            {t(only.on ? 'card.within.leave' : 'card.within')}
          </Button>
        )}
        {place && (
          <Box
            sx={{
              mt: 3,
              pt: 2,
              borderTop: '1px solid',
              borderColor: 'divider',
              display: 'flex',
              alignItems: 'center',
              justifyContent: 'space-between',
            }}>
            <Typography variant="body2" color="text.secondary">
              {t('card.of', place)}
            </Typography>
            <Button size="small" onClick={onNext} endIcon={<ChevronRight />}>
              {t('card.next')}
            </Button>
          </Box>
        )}
      </CardBody>
    </Paper>
  )
}

type BodyProps = {
  card: CardView
  photo: (id: string) => string
  onOpen?: (() => void) | undefined
  /** Whether a way to close it stands at its upper right corner. */
  closes?: boolean
  children?: ReactNode
}

/** What a card tells, wherever it stands. */
export function CardBody({ card, photo, onOpen, closes = false, children }: BodyProps) {
  return (
    <>
      <Photos card={card} photo={photo} />
      <Box sx={{ p: 4 }}>
        <Typography
          variant="h2"
          sx={{
            pr: !closes || card.photos.some((p) => p.state === 'stored') ? 0 : 9,
            mb: 2,
            overflowWrap: 'anywhere',
          }}>
          {card.name ?? t('record.unnamed')}
        </Typography>
        {onOpen && (
          <Button variant="outlined" fullWidth sx={{ mb: 2, minHeight: 48 }} onClick={onOpen}>
            {t('card.open')}
          </Button>
        )}
        {card.photos.some((p) => p.state === 'on_way') && (
          <Typography variant="body2" sx={{ mb: 2, color: 'info.main' }}>
            {t('record.photo.on_way')}
          </Typography>
        )}
        {card.text.map((pieces, i) => (
          <Typography key={i} sx={{ mb: 2, overflowWrap: 'anywhere' }}>
            {pieces.map((piece, at) => (
              <Piece key={at} piece={piece} />
            ))}
          </Typography>
        ))}
        {card.chart && <CardChart chart={card.chart} />}
        {card.visits && <CardVisits visits={card.visits} />}
        <Box
          component="dl"
          sx={{
            m: 0,
            display: 'grid',
            gridTemplateColumns: 'minmax(0, max-content) minmax(45%, 1fr)',
            columnGap: 4,
            rowGap: 1,
            '& dt': { color: 'text.secondary', fontSize: '0.9rem' },
            '& dd': { m: 0, fontWeight: 600, overflowWrap: 'anywhere' },
          }}>
          {card.values
            .filter((v) => v.text !== card.name)
            .map((v) => (
              <Box key={v.label} sx={{ display: 'contents' }}>
                <dt>{v.label}</dt>
                <dd>{v.kind === 'date' ? formatDate(v.text) : <Linked text={v.text} />}</dd>
              </Box>
            ))}
          {card.collected_at && (
            <>
              <dt>{t('record.collected')}</dt>
              <dd>{formatInstant(card.collected_at)}</dd>
            </>
          )}
        </Box>
        {children}
      </Box>
    </>
  )
}

/** Words as they are, values so that they stand out, what is missing so that it does not. */
function Piece({ piece: { is, text } }: { piece: CardView['text'][number][number] }) {
  if (is === 'words') return text
  if (is === 'missing')
    return (
      <Box component="i" sx={{ color: 'text.secondary' }}>
        {text}
      </Box>
    )
  return (
    <Box component="b" sx={{ fontWeight: 650 }}>
      {is === 'date'
        ? formatDate(text)
        : is === 'moment'
          ? formatInstant(text)
          : is === 'ago'
            ? fromToday(text)
            : text}
    </Box>
  )
}

/** The photos of a record, one after the other by a tap. */
function Photos({ card, photo }: Pick<Props, 'card' | 'photo'>) {
  const [index, setIndex] = useState(0)
  const photos = card.photos.filter((p) => p.state === 'stored')
  const shown = photos[index % Math.max(1, photos.length)]
  if (!shown) return null
  return (
    <Box
      component="button"
      type="button"
      onClick={() => setIndex((i) => i + 1)}
      disabled={photos.length < 2}
      aria-label={t('card.photo', { n: (index % photos.length) + 1, of: photos.length })}
      sx={{
        display: 'block',
        border: 0,
        p: 0,
        width: '100%',
        cursor: photos.length > 1 ? 'pointer' : 'default',
        bgcolor: paint.sand,
      }}>
      <img
        src={photo(shown.id)}
        alt={t('record.photo', { name: card.name ?? '' })}
        style={{ display: 'block', width: '100%', height: 190, objectFit: 'cover' }}
      />
    </Box>
  )
}

/** An address of the web leads there. */
function Linked({ text }: { text: string }) {
  return /^https?:\/\/\S+$/.test(text) ? (
    <Link href={text} target="_blank" rel="noopener noreferrer nofollow">
      {text}
    </Link>
  ) : (
    text
  )
}
