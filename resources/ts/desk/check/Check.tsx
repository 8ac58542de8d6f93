import Box from '@mui/material/Box'
import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { useSearchParams } from 'react-router'
import { Empty } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import type { Layer, RecordRow } from '../../shared/types'
import { useProgramme } from '../ProgrammePage'
import { keys } from '../queries/keys'
import { layerOf } from '../queries/layers'
import { deleteRecord, readRecord, restoreRecord, undoFill } from '../queries/records'
import { AcceptNotice } from './Accepting'
import { CheckList } from './CheckList'
import { CheckSheet } from './CheckSheet'
import { ExportDialog } from './ExportDialog'
import { FillDialog, type Fill } from './FillDialog'
import type { RecordDraft } from './recordDrafts'
import { DeletedNotice, FillNotice } from './UndoNotices'
import { useAccepting } from './useAccepting'
import { useListed } from './useListed'
import { useWriting } from './useWriting'

/** What has come back, newest first, with its place and photos. */
export function Check() {
  const programme = useProgramme()
  const [search] = useSearchParams()
  const client = useQueryClient()
  const listed = useListed(programme)
  const layer = listed.layer.data
  const [selected, setSelected] = useState<RecordRow | null>(null)
  const writing = useWriting(search.get('add') ? 'new' : null, layer, selected, programme.area)
  const [gone, setGone] = useState<RecordRow | null>(null)
  const [filling, setFilling] = useState(false)
  const [taking, setTaking] = useState(false)
  const [filled, setFilled] = useState<Fill | null>(null)
  const [failed, setFailed] = useState<unknown>(null)

  const { id, asked } = listed
  useEffect(() => {
    // A link from the search opens its record.
    if (asked && id !== undefined)
      void readRecord(id, asked)
        .then(setSelected)
        .catch(() => undefined)
  }, [asked, id])

  const again = async () => {
    await client.invalidateQueries({ queryKey: keys.records(id ?? 0) })
    await client.invalidateQueries({ queryKey: keys.layers(programme.id) })
  }
  const accepting = useAccepting({
    layer: id,
    page: listed.records.data,
    narrowing: listed.narrowing,
    filter: listed.filter,
    selected,
    onSelect: setSelected,
    after: again,
  })
  const done = (record: RecordRow) => {
    // After a visit one is back at the record that was visited.
    if (writing.visiting) void readRecord(id ?? 0, writing.visiting.of.id).then(setSelected)
    else setSelected(record)
    writing.end()
    void again()
  }
  const pick = (record: RecordRow) => {
    writing.end()
    setSelected(record)
  }
  const goOn = async (draft: RecordDraft) => {
    try {
      if (draft.record) {
        setSelected(draft.record)
        writing.begin('change', draft.placing)
      } else if (draft.visited) {
        const visits = await client.fetchQuery(layerOf(draft.layer))
        setSelected(draft.visited)
        writing.begin('new', draft.placing, { layer: visits, of: draft.visited })
      } else {
        setSelected(null)
        writing.begin('new', draft.placing)
      }
    } catch (e) {
      setFailed(e)
    }
  }
  const openVisit = (visits: Layer, visit: RecordRow) => {
    listed.choose(visits.id)
    pick(visit)
  }
  const look = async (record: string) => {
    try {
      pick(await readRecord(id ?? 0, record))
    } catch (e) {
      setFailed(e)
    }
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

  if (listed.layers.data?.length === 0)
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
      <CheckList
        listed={listed}
        writing={writing}
        accepting={accepting}
        selected={selected}
        onSelect={setSelected}
        onPick={pick}
        onGoOn={(draft) => void goOn(draft)}
        onExport={() => setTaking(true)}
        onFill={() => setFilling(true)}
        failed={failed}
      />
      <CheckSheet
        layer={layer}
        zone={programme.time_zone}
        selected={selected}
        writing={writing}
        accepting={accepting}
        onDone={done}
        onDelete={() => void remove()}
        onOpenVisit={openVisit}
        onLook={(record) => void look(record)}
      />
      {taking && layer && (
        <ExportDialog
          layer={layer}
          selected={selected?.id ?? null}
          ticked={listed.ticked}
          shown={listed.narrowing.slice}
          onClose={() => setTaking(false)}
        />
      )}
      {filling && layer && (
        <FillDialog
          layer={layer}
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
