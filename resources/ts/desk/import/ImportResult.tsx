import Alert from '@mui/material/Alert'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { useMemo, useRef, useState } from 'react'
import { Link } from 'react-router'
import { paint } from '../../shared/paint'
import { sentences } from '../../shared/api'
import { LazyMap } from '../../shared/map/LazyMap'
import { BenchShowing } from '../../shared/parts/BenchShowing'
import { Pill } from '../../shared/parts/Pill'
import { Sheet } from '../../shared/parts/Sheet'
import { formatInstant, formatNumber, t } from '../../shared/texts'
import { useProgramme } from '../ProgrammePage'
import { BringButton } from './ImportList'
import type { Candidate, Import, WaitingRow } from './import'
import { AreaFieldOffer } from './AreaFieldOffer'
import { RejectedCell } from './RejectedCell'
import { findPlaces, mendRow, undoImport, waitingRows, retryRows } from '../queries/imports'

type Spot = { lon: number; lat: number }

/**
 * What became of a file: how many rows landed, which wait and why; each can be mended here, on the map, or as
 * a file.
 */
export function Result({ found, onChanged }: { found: Import; onChanged: (next: Import) => void }) {
  const programme = useProgramme()
  const [page, setPage] = useState(0)
  const [open, setOpen] = useState<number | null>(null)
  const [said, setSaid] = useState<string[]>([])
  const [told, setTold] = useState<string | null>(null)
  const [round, setRound] = useState(0)
  const waiting = useQuery({
    queryKey: ['waiting', found.id, page, round],
    queryFn: () => waitingRows(found.id, page),
    enabled: found.state === 'done',
    placeholderData: (old, before) => (before?.queryKey[1] === found.id ? old : undefined),
  })
  // One after the other: rows are tried again only when everything that was typed has been kept.
  const queue = useRef<Promise<unknown>>(Promise.resolve())
  const counts = found.counts ?? {}
  const undone = counts.undo
  const row = waiting.data?.find((r) => r.row === open) ?? null
  const shown: [number, number][] = useMemo(
    () => [
      ...(row?.place?.candidates ?? []).map((c): [number, number] => [c.lon, c.lat]),
      ...(row?.place?.chosen ? [[row.place.chosen.lon, row.place.chosen.lat] as [number, number]] : []),
    ],
    [row],
  )
  const layers = useMemo(
    () => [
      {
        source: 'maybe',
        layers: [
          {
            id: 'maybe',
            type: 'circle',
            source: 'maybe',
            paint: {
              'circle-radius': 7,
              'circle-color': paint.buoy,
              'circle-stroke-color': paint.white,
              'circle-stroke-width': 2,
            },
          },
        ],
        data: {
          type: 'FeatureCollection' as const,
          features: shown.map((coordinates) => ({
            type: 'Feature' as const,
            properties: {},
            geometry: { type: 'Point' as const, coordinates },
          })),
        },
      },
    ],
    [shown],
  )
  const names = found.reading?.columns.map((c) => c.name) ?? []
  const isPhotos = found.source?.kind === 'photos'

  const inTurn = <T,>(work: () => Promise<T>): Promise<T> => {
    const mine = queue.current.then(work)
    queue.current = mine.catch(() => undefined)
    return mine
  }
  const attempt = async (work: () => Promise<void>) => {
    try {
      await inTurn(work)
      setSaid([])
    } catch (e) {
      setSaid(sentences(e))
    }
    setRound((n) => n + 1)
  }
  const retry = (rows: number[] | null, match?: number) =>
    attempt(async () => {
      const done = await retryRows(found.id, rows, match)
      setTold(t('bring.retried', { n: done.landed, waiting: done.waiting }))
      onChanged({ ...found, ...done.import })
    })
  const mend = async (r: WaitingRow, cells: Record<number, string>, place: Spot | null) => {
    try {
      await inTurn(() => mendRow(found.id, r.row, { cells, place }))
    } catch (e) {
      setSaid(sentences(e))
      throw e
    }
    setRound((n) => n + 1)
  }
  const settle = (r: WaitingRow, place: Spot) =>
    mend(r, {}, place).then(
      async () => {
        await retry([r.row])
        setOpen(null)
      },
      () => undefined,
    )
  const undo = () =>
    attempt(async () => {
      const done = await undoImport(found.id)
      onChanged({ ...found, ...done.import })
    })
  return (
    <BenchShowing
      benchWidth="minmax(0,2fr)"
      bench={
        <Box sx={{ display: 'grid', gap: 3, gridTemplateColumns: 'minmax(0,1fr)' }}>
          <Box
            sx={{
              display: 'flex',
              justifyContent: 'space-between',
              alignItems: 'end',
              gap: 3,
              flexWrap: 'wrap',
            }}>
            <Box>
              <Typography variant="body2" color="text.secondary">
                <Link to={`/desk/p/${programme.id}/build/bring`} style={{ color: 'inherit' }}>
                  {t('bring.title')}
                </Link>{' '}
                › {found.files[0]?.name}
              </Typography>
              <Typography variant="h1">
                {found.state === 'undone'
                  ? t('bring.undone')
                  : t('bring.done', { layer: found.layer_title ?? '' })}
              </Typography>
            </Box>
            <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
              {found.state === 'done' && (
                <Button variant="outlined" onClick={() => void undo()}>
                  {t('bring.undo')}
                </Button>
              )}
              {found.state === 'done' && (
                <BringButton programme={programme.id} like={found.id} label={t('bring.again')} />
              )}
              {found.state === 'done' && found.layer !== null && (
                <Button component={Link} to={`/desk/p/${programme.id}/check?layer=${found.layer}`}>
                  {t('bring.see')}
                </Button>
              )}
            </Box>
          </Box>
          <Box role="status" sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
            <Pill>{t('bring.read', { n: formatNumber(counts.read ?? 0) })}</Pill>
            <Pill tone="well">{t('bring.placed', { n: formatNumber(counts.made ?? 0) })}</Pill>
            {Boolean(counts.changed) && (
              <Pill tone="info">{t('bring.changes.changed', { n: counts.changed ?? 0 })}</Pill>
            )}
            {Boolean(counts.unchanged) && (
              <Pill>{t('bring.changes.same', { n: counts.unchanged ?? 0 })}</Pill>
            )}
            {Boolean(counts.waiting) && (
              <Pill tone="soft">{t('bring.wait', { n: formatNumber(counts.waiting ?? 0) })}</Pill>
            )}
            {(['swapped', 'sign', 'matched', 'outside', 'emptied'] as const)
              .filter((k) => (counts[k] ?? 0) > 0)
              .map((k) => (
                <Pill key={k} tone="info">
                  {t(`bring.corrected.${k}`, { n: counts[k] ?? 0 })}
                </Pill>
              ))}
          </Box>
          {told && (
            <Alert severity="success" variant="outlined" onClose={() => setTold(null)}>
              {told}
            </Alert>
          )}
          {said.map((line) => (
            <Alert key={line} severity="error" variant="outlined">
              {line}
            </Alert>
          ))}
          {undone && (
            <Alert severity={undone.kept ? 'warning' : 'success'} variant="outlined">
              {t('bring.undid', { deleted: undone.deleted, restored: undone.restored })}{' '}
              {undone.kept > 0 && t('bring.kept', { n: undone.kept, names: undone.names.join(', ') })}{' '}
              {undone.layer_binned && t('bring.binned')}
            </Alert>
          )}
          {found.state === 'done' && (counts.waiting ?? 0) === 0 && !waiting.data?.length && (
            <Sheet>
              <Typography>{t('bring.allin')}</Typography>
            </Sheet>
          )}
          {Boolean(waiting.data?.length) && (
            <Sheet
              title={t('bring.waiting')}
              action={
                <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
                  <Button
                    size="small"
                    variant="outlined"
                    component="a"
                    href={`/api/v1/imports/${found.id}/waiting.csv`}>
                    {t('bring.csv')}
                  </Button>
                  {waiting.data!.some((r) => r.place?.candidates?.length) && (
                    <Button size="small" variant="outlined" onClick={() => void retry(null, 0.7)}>
                      {t('bring.takebest')}
                    </Button>
                  )}
                  <Button size="small" onClick={() => void retry(null)}>
                    {t('bring.retry')}
                  </Button>
                </Box>
              }>
              <Typography color="text.secondary" sx={{ mb: 2 }}>
                {t('bring.waiting.lead')}
              </Typography>
              <Box sx={{ overflowX: 'auto' }}>
                <Box
                  component="table"
                  aria-label={t('bring.waiting')}
                  sx={{
                    borderCollapse: 'collapse',
                    fontSize: '0.9rem',
                    minWidth: '100%',
                    '& th, & td': {
                      textAlign: 'left',
                      p: 1,
                      borderBottom: '1px solid',
                      borderColor: 'divider',
                      verticalAlign: 'top',
                    },
                  }}>
                  <thead>
                    <tr>
                      <th scope="col">{t('bring.row')}</th>
                      <th scope="col">{t('bring.why')}</th>
                      {isPhotos && <th scope="col">{t('record.photos')}</th>}
                      {names.map((n) => (
                        <th key={n} scope="col">
                          {n}
                        </th>
                      ))}
                    </tr>
                  </thead>
                  <tbody>
                    {waiting.data!.map((r) => (
                      <Box
                        component="tr"
                        key={r.row}
                        onFocus={() => setOpen(r.row)}
                        onClick={() => setOpen(r.row)}
                        sx={{ bgcolor: r.row === open ? paint.picked : undefined }}>
                        <td>
                          <Button
                            size="small"
                            variant="text"
                            aria-pressed={r.row === open}
                            onClick={() => setOpen(r.row)}>
                            {r.row}
                          </Button>
                        </td>
                        <Box
                          component="td"
                          sx={{ minWidth: 200, maxWidth: 300, whiteSpace: 'normal', color: paint.buoyDark }}>
                          {r.place?.chosen
                            ? t('bring.chosen')
                            : r.problems.map((p) => <div key={p.code + p.field}>{p.message}</div>)}
                        </Box>
                        {isPhotos && (
                          <td>
                            <img
                              src={`/api/v1/imports/${found.id}/photos/${r.row}`}
                              alt={r.cells[0] ?? ''}
                              width={96}
                              style={{ borderRadius: 4, display: 'block' }}
                            />
                          </td>
                        )}
                        {names.map((n, i) => (
                          <td key={n}>
                            <RejectedCell
                              row={r.row}
                              column={n}
                              value={r.cells[i] ?? ''}
                              bad={r.problems.some(
                                (p) => p.field !== null && p.field === found.settings?.columns[i]?.key,
                              )}
                              onKeep={(text) => mend(r, { [i]: text }, null)}
                            />
                          </td>
                        ))}
                      </Box>
                    ))}
                  </tbody>
                </Box>
              </Box>
              {(page > 0 || waiting.data!.length === 100) && (
                <Box sx={{ display: 'flex', gap: 2, mt: 2 }}>
                  <Button
                    size="small"
                    variant="outlined"
                    disabled={page === 0}
                    onClick={() => setPage(page - 1)}>
                    {t('bring.before')}
                  </Button>
                  <Button
                    size="small"
                    variant="outlined"
                    disabled={waiting.data!.length < 100}
                    onClick={() => setPage(page + 1)}>
                    {t('bring.next')}
                  </Button>
                </Box>
              )}
            </Sheet>
          )}
          {found.state === 'done' &&
            found.layer !== null &&
            found.source?.wkt &&
            found.reading?.geometry === 'area' && (
              <AreaFieldOffer programme={programme.id} title={found.layer_title ?? ''} />
            )}
          <Sheet title={t('bring.source')}>
            <Box component="ul" sx={{ m: 0, pl: 4 }}>
              {found.files.slice(0, 6).map((f) => (
                <li key={f.name} style={{ overflowWrap: 'anywhere' }}>
                  {t('bring.source.file', {
                    name: f.name,
                    kb: formatNumber(Math.ceil(f.bytes / 1024)),
                    hash: f.sha256?.slice(0, 16) ?? '–',
                  })}
                </li>
              ))}
            </Box>
            <Typography color="text.secondary" sx={{ mt: 1 }}>
              {t('bring.by', { by: found.by ?? '–', at: formatInstant(found.at, programme.time_zone) })}
            </Typography>
          </Sheet>
        </Box>
      }
      showing={
        <Box sx={{ m: -4, display: 'flex', flexDirection: 'column', minHeight: '100%' }}>
          <Box sx={{ height: 420, flex: 'none' }}>
            <LazyMap
              label={t('bring.where')}
              extent={[...programme.area]}
              layers={layers}
              {...(row ? { onTap: (spot: Spot) => void settle(row, spot) } : {})}
            />
          </Box>
          <Box sx={{ p: 4, display: 'grid', gap: 2 }}>
            {row ? (
              <>
                <Typography variant="h2">{t('bring.rowwhere', { row: row.row })}</Typography>
                <Typography>{t('bring.tap')}</Typography>
                <PlaceSearch programme={programme.id} onTake={(spot) => void settle(row, spot)} />
                {row.place?.candidates?.map((c) => (
                  <CandidateLine key={`${c.lon} ${c.lat}`} candidate={c} onTake={() => void settle(row, c)} />
                ))}
              </>
            ) : (
              <Typography color="text.secondary">
                {t(found.state === 'done' && waiting.data?.length ? 'bring.pickrow' : 'bring.nothingopen')}
              </Typography>
            )}
          </Box>
        </Box>
      }
    />
  )
}

function CandidateLine({ candidate, onTake }: { candidate: Candidate; onTake: () => void }) {
  return (
    <Box
      sx={{
        display: 'flex',
        justifyContent: 'space-between',
        gap: 2,
        alignItems: 'center',
        bgcolor: 'background.paper',
        border: '1px solid',
        borderColor: 'divider',
        borderRadius: 1.5,
        p: 2,
      }}>
      <Box>
        <b>{candidate.name}</b>
        {candidate.of && (
          <Typography variant="body2" color="text.secondary">
            {candidate.of}
          </Typography>
        )}
      </Box>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center' }}>
        <span>{t('bring.likeness', { n: Math.round(candidate.score * 100) })}</span>
        <Button size="small" onClick={onTake}>
          {t('bring.take')}
        </Button>
      </Box>
    </Box>
  )
}

function PlaceSearch({ programme, onTake }: { programme: number; onTake: (spot: Spot) => void }) {
  const [text, setText] = useState('')
  const [places, setPlaces] = useState<Candidate[] | null>(null)
  return (
    <Box
      component="form"
      onSubmit={(e) => {
        e.preventDefault()
        void findPlaces(programme, text).then(setPlaces)
      }}
      sx={{ display: 'grid', gap: 1.5 }}>
      <Box sx={{ display: 'flex', gap: 2 }}>
        <Box
          component="input"
          value={text}
          onChange={(e: React.ChangeEvent<HTMLInputElement>) => setText(e.target.value)}
          aria-label={t('bring.search')}
          placeholder={t('bring.search')}
          sx={{
            font: 'inherit',
            flex: 1,
            minWidth: 0,
            border: `1px solid ${paint.frame}`,
            borderRadius: 1.5,
            p: 1.5,
            bgcolor: paint.sheet,
          }}
        />
        <Button type="submit" variant="outlined">
          {t('bring.find')}
        </Button>
      </Box>
      {places?.length === 0 && <Typography role="status">{t('bring.noplace')}</Typography>}
      {places?.slice(0, 5).map((c) => (
        <CandidateLine key={`${c.lon} ${c.lat}`} candidate={c} onTake={() => onTake(c)} />
      ))}
    </Box>
  )
}
