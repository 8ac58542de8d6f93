import Box from '@mui/material/Box'
import Typography from '@mui/material/Typography'
import useMediaQuery from '@mui/material/useMediaQuery'
import type { Theme } from '@mui/material/styles'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useMemo, useRef, useState } from 'react'
import { useSearchParams } from 'react-router'
import { LazyMap } from '../../shared/map/LazyMap'
import type { MapLayer } from '../../shared/map/MapView'
import { Problems } from '../../shared/parts/Problems'
import { Empty, Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import type { Layer, RecordRow } from '../../shared/types'
import { useProgramme } from '../ProgrammePage'
import { FillDialog, type Fill } from './FillDialog'
import { geometryOf, isPoint, NOWHERE, placingOf, spotOf, type Placing } from './placing'
import { AcceptBar, AcceptNotice } from './Accepting'
import { BegunRecords } from './BegunRecords'
import { CheckHead } from './CheckHead'
import { CheckNotices } from './CheckNotices'
import { FIRST, turned, type ListPage } from './listPage'
import { columnsOf } from './recordColumns'
import { extentOf, shownAt, type Spot } from './whereShown'
import type { RecordDraft } from './recordDrafts'
import { RecordEditor } from './RecordEditor'
import { RecordGrid } from './RecordGrid'
import { RecordPanel } from './RecordPanel'
import { DeletedNotice, FillNotice } from './UndoNotices'
import { ExportDialog } from './ExportDialog'
import { useAccepting } from './useAccepting'
import { keys } from '../queries/keys'
import { layerOf, layersOf } from '../queries/layers'
import { deleteRecord, readRecord, recordPageOf, restoreRecord, undoFill } from '../queries/records'

/** What has come back, newest first, with its place and photos. */
export function Check() {
  const programme = useProgramme()
  const [search] = useSearchParams()
  const [chosen, setChosen] = useState<number | null>(Number(search.get('layer')) || null)
  // Each page by the end of the one before it, so that none shows twice what new records pushed down.
  const [page, setPage] = useState<ListPage>(FIRST)
  const [selected, setSelected] = useState<RecordRow | null>(null)
  const [editing, setEditing] = useState<'new' | 'change' | null>(search.get('add') ? 'new' : null)
  const [placing, setPlacing] = useState<Placing>(NOWHERE)
  const [centre, setCentre] = useState<Spot | null>(null)
  const [visiting, setVisiting] = useState<{ layer: Layer; of: RecordRow } | null>(null)
  const [gone, setGone] = useState<RecordRow | null>(null)
  const [filling, setFilling] = useState(false)
  const [taking, setTaking] = useState(false)
  const [ticked, setTicked] = useState<string[]>([])
  const [slice, setSlice] = useState<number | null>(Number(search.get('slice')) || null)
  const [onlyWaiting, setOnly] = useState(search.get('to_check') !== null)
  const [filled, setFilled] = useState<Fill | null>(null)
  const [failed, setFailed] = useState<unknown>(null)
  const client = useQueryClient()
  const layers = useQuery(layersOf(programme.id))
  // The programme's main layer; visits are looked at beside what was visited.
  const id =
    chosen ??
    [...(layers.data ?? [])].sort(
      (a, b) => Number(a.visits_of !== null) - Number(b.visits_of !== null) || b.records - a.records,
    )[0]?.id
  const layer = useQuery(layerOf(id))
  // Whoever accepts nothing has no list of what waits, whatever the address says.
  const only = onlyWaiting && layer.data?.rights.design !== false
  const records = useQuery({
    ...recordPageOf(id, page, slice, only),
    refetchInterval: 10_000,
    placeholderData: (old, before) => (before?.queryKey[1] === id ? old : undefined),
  })
  const columns = useMemo(
    () => (layer.data ? columnsOf(layer.data, programme.time_zone) : []),
    [layer.data, programme.time_zone],
  )
  const writing = visiting?.layer ?? layer.data
  const kind = editing ? (writing?.design.geometry ?? 'point') : (layer.data?.design.geometry ?? 'point')
  const shown: MapLayer[] = useMemo(() => {
    const geometry = editing
      ? geometryOf(kind, placing)
      : selected
        ? (selected.geometry ?? geometryOf('point', placingOf(selected)))
        : null
    return geometry ? [shownAt(geometry)] : []
  }, [editing, kind, placing, selected])
  const corners =
    editing && !isPoint(kind)
      ? {
          kind,
          places: placing.corners,
          onChange: (places: Placing['corners']) => setPlacing((p) => ({ ...p, corners: places })),
        }
      : null
  const tap = (spot: Spot) =>
    setPlacing((p) =>
      isPoint(kind) ? { ...p, spot } : { ...p, corners: [...p.corners, [spot.lon, spot.lat]] },
    )
  const extent =
    extentOf(
      editing
        ? (centre ?? (selected && spotOf(selected)) ?? (visiting ? spotOf(visiting.of) : null))
        : selected && spotOf(selected),
      editing && centre ? null : selected,
    ) ?? programme.area

  const again = async () => {
    await client.invalidateQueries({ queryKey: keys.records(id ?? 0) })
    await client.invalidateQueries({ queryKey: keys.layers(programme.id) })
  }
  const done = (record: RecordRow) => {
    setEditing(null)
    // After a visit one is back at the record that was visited.
    if (visiting) void readRecord(id ?? 0, visiting.of.id).then(setSelected)
    else setSelected(record)
    setVisiting(null)
    void again()
  }
  const accepting = useAccepting({
    layer: id,
    page: records.data,
    slice,
    only,
    selected,
    onSelect: setSelected,
    after: again,
  })
  const begin = (what: 'new' | 'change', at: Placing, of: { layer: Layer; of: RecordRow } | null = null) => {
    setVisiting(of)
    setPlacing(at)
    setCentre(null)
    setEditing(what)
  }
  const goOn = async (draft: RecordDraft) => {
    try {
      if (draft.record) {
        setSelected(draft.record)
        begin('change', draft.placing)
      } else if (draft.visited) {
        const visits = await client.fetchQuery(layerOf(draft.layer))
        setSelected(draft.visited)
        begin('new', draft.placing, { layer: visits, of: draft.visited })
      } else {
        setSelected(null)
        begin('new', draft.placing)
      }
    } catch (e) {
      setFailed(e)
    }
  }
  const openVisit = (visits: Layer, visit: RecordRow) => {
    setChosen(visits.id)
    setSlice(null)
    setPage(FIRST)
    pick(visit)
  }
  const pick = (record: RecordRow) => {
    setEditing(null)
    setVisiting(null)
    setSelected(record)
  }
  const remove = async () => {
    if (!selected || id === undefined) return
    try {
      await deleteRecord(id, selected)
      setGone(selected)
      setSelected(null)
      await again()
    } catch (e) {
      setFailed(e)
    }
  }
  const takeFillBack = async () => {
    if (!filled) return
    setFilled(await undoFill(id ?? 0, filled.id))
    await again()
  }
  const bringBack = async () => {
    if (!gone) return
    const record = await restoreRecord(id ?? 0, gone.id)
    setGone(null)
    done(record)
  }

  // Where the list stands above it, what was picked or begun comes into view.
  const sheet = useRef<HTMLDivElement>(null)
  const about = editing ? `${editing}-${selected?.id}-${visiting?.of.id}` : selected?.id
  const narrow = useMediaQuery<Theme>((theme) => theme.breakpoints.down('md'))
  useEffect(() => {
    if (narrow && about) sheet.current?.scrollIntoView({ block: 'start' })
  }, [narrow, about])

  const asked = search.get('record')
  const wanted = Number(search.get('layer')) || null
  const within = Number(search.get('slice')) || null
  const waiting = search.get('to_check') !== null
  useEffect(() => {
    if (!wanted) return
    setChosen(wanted)
    // A tile of a board leads to the very records that it is of.
    setSlice(within)
    setOnly(waiting)
  }, [wanted, within, waiting, asked])
  useEffect(() => {
    // A link from the search opens its record.
    if (asked && id !== undefined)
      void readRecord(id, asked)
        .then(setSelected)
        .catch(() => undefined)
  }, [asked, id])

  if (layers.data?.length === 0)
    return (
      <Box sx={{ p: 5 }}>
        <Empty title={t('check.empty')}>{t('check.empty.text')}</Empty>
      </Box>
    )
  return (
    <Box
      sx={{
        p: { xs: 3, md: 5 },
        display: 'grid',
        gap: 4,
        gridTemplateColumns: { xs: 'minmax(0,1fr)', md: 'minmax(0,1fr) 360px' },
        // One above the other they have the height that they need, and the page scrolls.
        flex: { xs: 'none', md: 1 },
        minHeight: { md: 0 },
      }}>
      <Box
        sx={{
          display: 'flex',
          flexDirection: 'column',
          gap: 3,
          minHeight: 420,
          height: { xs: 640, md: 'auto' },
        }}>
        <CheckHead
          total={records.data?.total ?? 0}
          layers={layers.data ?? []}
          layer={layer.data}
          chosen={id}
          ticked={ticked.length}
          slice={slice}
          onSlice={(next) => {
            setSlice(next)
            setPage(FIRST)
          }}
          onChoose={(chosenLayer) => {
            setChosen(chosenLayer)
            setSlice(null)
            setPage(FIRST)
            setSelected(null)
            setTicked([])
          }}
          onExport={() => setTaking(true)}
          onFill={() => setFilling(true)}
          onAdd={() => {
            setSelected(null)
            begin('new', NOWHERE)
          }}
        />
        <CheckNotices />
        {!editing && layer.data && id !== undefined && (
          <BegunRecords
            under={id}
            title={layer.data.design.title}
            zone={programme.time_zone}
            onGoOn={(draft) => void goOn(draft)}
          />
        )}
        <Problems error={failed ?? accepting.failed ?? records.error ?? layer.error} />
        {layer.data?.rights.design && (
          <AcceptBar
            ticked={ticked.length}
            toCheck={records.data?.to_check ?? 0}
            only={only}
            total={records.data?.total ?? 0}
            onOnly={(next) => {
              setOnly(next)
              setPage(FIRST)
              setTicked([])
            }}
            busy={accepting.busy}
            onTicked={() => void accepting.ticked(ticked).then((ok) => ok && setTicked([]))}
            onAll={() => void accepting.all()}
          />
        )}
        <RecordGrid
          key={id}
          columns={columns}
          records={records.data?.records ?? []}
          total={records.data?.total ?? 0}
          loading={records.isPending}
          page={page.number}
          onPage={(number) => setPage(turned(page, number, records.data?.next ?? null))}
          ticked={ticked}
          onTicked={setTicked}
          selected={selected?.id}
          onPick={pick}
        />
      </Box>
      <Sheet
        ref={sheet}
        sx={{ p: 0, overflow: 'hidden', alignSelf: 'stretch', display: 'flex', flexDirection: 'column' }}>
        <Box sx={{ height: 260, flex: 'none' }}>
          <LazyMap
            label={t('check.where')}

            extent={[...extent]}
            layers={shown}
            corners={corners}
            {...(editing ? { onTap: tap } : {})}
          />
        </Box>
        <Box
          sx={
            editing
              ? { flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column' }
              : { p: 4, overflow: 'auto' }
          }>
          {editing && writing ? (
            <RecordEditor
              key={`${writing.id}-${editing === 'change' ? selected?.id : 'new'}-${visiting?.of.id}`}
              under={id ?? writing.id}
              layer={writing}
              zone={programme.time_zone}
              record={editing === 'change' ? selected : null}
              visited={visiting?.of ?? null}
              placing={placing}
              onPlacing={(at, typed) => {
                setPlacing(at)
                const last = at.corners.at(-1)
                if (typed) setCentre(isPoint(kind) ? at.spot : last ? { lon: last[0], lat: last[1] } : null)
              }}
              onDone={done}
              onCancel={() => {
                setEditing(null)
                setVisiting(null)
              }}
            />
          ) : selected && layer.data ? (
            <RecordPanel
              key={selected.id}
              record={selected}
              layer={layer.data}
              zone={programme.time_zone}
              onRestored={done}
              onDelete={() => void remove()}
              onEdit={() => begin('change', placingOf(selected))}
              onVisit={(visits) =>
                begin('new', { ...NOWHERE, spot: spotOf(selected) }, { layer: visits, of: selected })
              }
              onOpenVisit={openVisit}
              accepting={accepting.busy}
              onAccept={() => void accepting.one(selected)}
              onTakeBack={() => void accepting.takeBack(selected)}
            />
          ) : (
            <Typography color="text.secondary">{t('check.pick')}</Typography>
          )}
        </Box>
      </Sheet>
      {taking && layer.data && (
        <ExportDialog
          layer={layer.data}
          selected={selected?.id ?? null}
          ticked={ticked}
          shown={slice}
          onClose={() => setTaking(false)}
        />
      )}
      {filling && layer.data && (
        <FillDialog
          layer={layer.data}
          onClose={() => setFilling(false)}
          onDone={(fill) => {
            setFilling(false)
            setFilled(fill)
            void again()
          }}
        />
      )}
      <AcceptNotice
        done={accepting.done}
        busy={accepting.busy}
        onUndo={() => void accepting.undo()}
        onClose={accepting.close}
      />
      <FillNotice fill={filled} onUndo={() => void takeFillBack()} onClose={() => setFilled(null)} />
      <DeletedNotice record={gone} onUndo={() => void bringBack()} onClose={() => setGone(null)} />
    </Box>
  )
}
