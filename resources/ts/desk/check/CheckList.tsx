import Box from '@mui/material/Box'
import { useMemo } from 'react'
import { Problems } from '../../shared/parts/Problems'
import type { RecordRow } from '../../shared/types'
import { useProgramme } from '../ProgrammePage'
import { AcceptBar } from './Accepting'
import { BegunRecords } from './BegunRecords'
import { CheckHead } from './CheckHead'
import { CheckNotices } from './CheckNotices'
import { NOWHERE } from './placing'
import { columnsOf } from './recordColumns'
import type { RecordDraft } from './recordDrafts'
import { RecordGrid } from './RecordGrid'
import type { useAccepting } from './useAccepting'
import type { useListed } from './useListed'
import type { Writing } from './useWriting'

type Props = {
  listed: ReturnType<typeof useListed>
  writing: Writing
  accepting: ReturnType<typeof useAccepting>
  selected: RecordRow | null
  onSelect: (record: RecordRow | null) => void
  /** Looks at a record instead of what is being written. */
  onPick: (record: RecordRow) => void
  onGoOn: (draft: RecordDraft) => void
  onExport: () => void
  onFill: () => void
  failed: unknown
}

/** The records that are listed, with what can be done with them and what waits. */
export function CheckList(props: Props) {
  const { listed, writing, accepting, selected } = props
  const programme = useProgramme()
  const layer = listed.layer.data
  const records = listed.records.data
  const columns = useMemo(
    () => (layer ? columnsOf(layer, programme.time_zone) : []),
    [layer, programme.time_zone],
  )
  return (
    <Box
      sx={{
        display: 'flex',
        flexDirection: 'column',
        gap: 3,
        minHeight: 420,
        height: { xs: 640, md: 'auto' },
      }}>
      <CheckHead
        total={records?.total ?? 0}
        layers={listed.layers.data ?? []}
        layer={layer}
        chosen={listed.id}
        ticked={listed.ticked.length}
        slice={listed.slice}
        onSlice={listed.showSlice}
        onChoose={(next) => {
          listed.choose(next)
          props.onSelect(null)
        }}
        onExport={props.onExport}
        onFill={props.onFill}
        onAdd={() => {
          props.onSelect(null)
          writing.begin('new', NOWHERE)
        }}
      />
      <CheckNotices />
      {!writing.editing && layer && listed.id !== undefined && (
        <BegunRecords
          under={listed.id}
          title={layer.design.title}
          zone={programme.time_zone}
          onGoOn={props.onGoOn}
        />
      )}
      <Problems error={props.failed ?? accepting.failed ?? listed.records.error ?? listed.layer.error} />
      {layer?.rights.design && (
        <AcceptBar
          ticked={listed.ticked.length}
          toCheck={records?.to_check ?? 0}
          only={listed.only}
          total={records?.total ?? 0}
          onOnly={listed.showOnly}
          busy={accepting.busy}
          onTicked={() => void accepting.ticked(listed.ticked).then((ok) => ok && listed.setTicked([]))}
          onAll={() => void accepting.all()}
        />
      )}
      <RecordGrid
        key={listed.id}
        columns={columns}
        records={records?.records ?? []}
        total={records?.total ?? 0}
        loading={listed.records.isPending}
        page={listed.page.number}
        onPage={listed.turn}
        ticked={listed.ticked}
        onTicked={listed.setTicked}
        selected={selected?.id}
        onPick={props.onPick}
      />
    </Box>
  )
}
