import Search from '@mui/icons-material/Search'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import ButtonBase from '@mui/material/ButtonBase'
import InputAdornment from '@mui/material/InputAdornment'
import OutlinedInput from '@mui/material/OutlinedInput'
import { Fragment, useEffect, useRef, useState, type ReactNode } from 'react'
import { paint } from '../../paint'
import { PegMark } from '../../parts/PegMark'
import { Pill } from '../../parts/Pill'
import { age, t } from '../../texts'
import { shownIn } from '../crews'
import { usePicking } from '../picks'
import { Nothing, type TileProps } from './shared'

const NEW_MS = 60_000

/** The latest records. One that has come while the page is open is marked; while one reads, none jumps in. */
export function LatestTile({ tile, base, query }: TileProps<'latest'>) {
  const a = tile.answer
  const { picks, find, show, mayPick, details } = usePicking()
  const open = base.startsWith('/open/')
  // A visitor's lists know records by ids of their own: only details find them.
  const shows = !open || (mayPick && details === true)
  const shown = shownIn(picks)
  const photo = (id: string) =>
    open ? `/api/v1${base}/tiles/${tile.id}/photos/${id}/thumb` : `/api/v1/attachments/${id}/thumb`
  const asked = picks.find[tile.id ?? ''] ?? ''
  const [text, setText] = useState(asked)
  const { records, fresh, waiting, read } = useCalm(tile.answer, query)
  useEffect(() => {
    if (text === asked) return
    const timer = setTimeout(() => find(tile.id ?? '', text.trim()), 300)
    return () => clearTimeout(timer)
  })
  return (
    <>
      {mayPick && (a.n > 5 || asked) && (
        <OutlinedInput
          size="small"
          value={text}
          onChange={(e) => setText(e.target.value)}
          placeholder={t('latest.find')}
          inputProps={{ 'aria-label': t('latest.find.in', { tile: tile.title }), maxLength: 100 }}
          startAdornment={
            <InputAdornment position="start">
              <Search fontSize="small" />
            </InputAdornment>
          }
          sx={{ mt: 1, width: '100%', maxWidth: 320, '& input': { py: 1 } }}
        />
      )}
      {waiting > 0 && (
        <Button size="small" onClick={read.now} sx={{ mt: 1, alignSelf: 'start' }}>
          {t('latest.waiting', { n: waiting })}
        </Button>
      )}
      {records.length === 0 ? (
        <Nothing />
      ) : (
        <Box
          component="ul"
          onPointerEnter={read.begin}
          onPointerLeave={read.end}
          sx={{ listStyle: 'none', m: 0, mt: 1, p: 0 }}>
          {records.map((r) => {
            const peg = a.legend.find((l) => l.code === r.class)
            const details = r.details.filter((d) => d !== null && d !== '')
            const detail = details.length > 0 && <Details of={details} />
            return (
              <Box component="li" key={r.id} sx={{ borderBottom: `1px solid ${paint.rowLine}` }}>
                <Row
                  {...(shows
                    ? {
                        onShow: () => show(tile.id ?? '', r.id),
                        shown: shown?.record === r.id && (!open || shown.tile === tile.id),
                      }
                    : {})}>
                  {a.photo && <Thumb src={r.photo === null ? null : photo(r.photo)} />}
                  {peg && <PegMark {...peg} size={18} />}
                  <Box component="b" sx={NAME}>
                    {r.name === null ? detail || t('record.unnamed') : <bdi>{r.name}</bdi>}
                  </Box>
                  <Box
                    component="span"
                    sx={{
                      color: 'text.secondary',
                      flex: '1 1 6rem',
                      minWidth: 0,
                      whiteSpace: 'nowrap',
                      overflow: 'hidden',
                      textOverflow: 'ellipsis',
                    }}>
                    {r.name !== null && detail}
                  </Box>
                  {fresh.has(r.id) && <Pill tone="soft">{t('latest.new')}</Pill>}
                  <Box
                    component="span"
                    sx={{
                      color: 'text.secondary',
                      fontVariantNumeric: 'tabular-nums',
                      whiteSpace: 'nowrap',
                    }}>
                    {age(r.at)}
                  </Box>
                </Row>
              </Box>
            )
          })}
        </Box>
      )}
      <Box sx={{ color: 'text.secondary', fontSize: '0.82rem', mt: 'auto', pt: 1.5 }}>
        {t(`latest.by.${a.by}`, { n: a.n })}
      </Box>
    </>
  )
}

const ROW = {
  width: '100%',
  display: 'flex',
  alignItems: 'center',
  justifyContent: 'start',
  textAlign: 'left',
  // In a narrow tile what is told beside the name stands below it.
  flexWrap: 'wrap',
  columnGap: 2.5,
  py: 0.9,
  fontSize: '0.93rem',
} as const

/** A name that is too long for the tile is cut, and stays beside its mark. */
const NAME = {
  maxWidth: 'calc(100% - 34px)',
  whiteSpace: 'nowrap',
  overflow: 'hidden',
  textOverflow: 'ellipsis',
} as const

/** What is told of a record, each in the direction of its own script. */
const Details = ({ of }: { of: (string | null)[] }) =>
  of.map((d, i) => (
    <Fragment key={i}>
      {i > 0 && ' · '}
      <bdi>{d}</bdi>
    </Fragment>
  ))

/** The first photo of a record, or that there is none. */
const Thumb = ({ src }: { src: string | null }) => (
  <Box
    component={src ? 'img' : 'span'}
    {...(src ? { src, alt: '', loading: 'lazy' as const } : {})}
    sx={{ width: 44, height: 44, flex: 'none', objectFit: 'cover', borderRadius: 1, bgcolor: paint.sand }}
  />
)

/** A record of the list; at the desk a tap shows it on the map. */
function Row({
  onShow,
  shown = false,
  children,
}: {
  onShow?: () => void
  shown?: boolean
  children: ReactNode
}) {
  return onShow ? (
    <ButtonBase
      onClick={onShow}
      aria-pressed={shown}
      sx={{ ...ROW, bgcolor: shown ? paint.buoyWash : undefined, '&:hover': { bgcolor: paint.pointed } }}>
      {children}
    </ButtonBase>
  ) : (
    <Box sx={ROW}>{children}</Box>
  )
}

type Rec = TileProps<'latest'>['tile']['answer']['records'][number]

/**
 * The list as it is shown: held while it is read, with what has come since it was opened.
 *
 * @param asked what it answers; another answer is no news
 */
function useCalm({ records: now, n }: { records: Rec[]; n: number }, asked: string) {
  const [shown, setShown] = useState(now)
  const [reading, setReading] = useState(false)
  const [fresh, setFresh] = useState<ReadonlySet<string>>(new Set())
  const known = useRef({ asked, n, ids: new Set(now.map((r) => r.id)) })
  useEffect(() => {
    const come = now.filter((r) => !known.current.ids.has(r.id)).map((r) => r.id)
    const same = known.current.asked === asked
    if (same && reading && come.length) return
    // Where there are fewer than before, those that moved up are old.
    const news = same && n > known.current.n ? come : []
    known.current = { asked, n, ids: new Set([...(same ? known.current.ids : []), ...now.map((r) => r.id)]) }
    setShown(now)
    if (!same) setFresh(new Set())
    if (news.length) {
      setFresh((f) => new Set([...f, ...news]))
      setTimeout(() => setFresh((f) => new Set([...f].filter((id) => !news.includes(id)))), NEW_MS)
    }
  }, [now, n, asked, reading])
  return {
    records: shown,
    fresh,
    waiting: reading ? now.filter((r) => !known.current.ids.has(r.id)).length : 0,
    read: { begin: () => setReading(true), end: () => setReading(false), now: () => setReading(false) },
  }
}
