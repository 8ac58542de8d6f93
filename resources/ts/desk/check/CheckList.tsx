import Box from '@mui/material/Box'
import { useQueryClient } from '@tanstack/react-query'
import { useMemo } from 'react'
import { Problems } from '../../shared/parts/Problems'
import type { RecordRow } from '../../shared/types'
import { useProgramme } from '../ProgrammePage'
import { keys } from '../queries/keys'
import { AcceptBar, AcceptHint } from './Accepting'
import { BegunRecords } from './BegunRecords'
import { CameFrom } from './CameFrom'
import { CheckHead } from './CheckHead'
import { CheckNotices } from './CheckNotices'
import { FlagReasons } from './FlagReasons'
import { isNarrowed } from './narrowing'
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
  const flagged = records?.flagged?.all ?? 0
  const { narrowing } = listed
  const client = useQueryClient()
  const columns = useMemo(
    () => (layer ? columnsOf(layer, programme.time_zone, flagged > 0) : []),
    [layer, programme.time_zone, flagged],
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
        slice={narrowing.slice}
        onSlice={(slice) => listed.narrow({ slice })}
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
        <>
          <AcceptBar
            ticked={listed.ticked.length}
            toCheck={records?.to_check ?? 0}
            flagged={flagged}
            list={narrowing.list}
            total={records?.total ?? 0}
            onList={(list) => listed.narrow({ list, reason: 'any' })}
            // What is shown while another list comes is not what would be accepted.
            busy={accepting.busy || listed.records.isPlaceholderData}
            onTicked={() => void accepting.ticked(listed.ticked).then((ok) => ok && listed.setTicked([]))}
            onAll={() => void accepting.all()}>
            <CameFrom
              key={layer.id}
              layer={layer.id}
              outings={listed.outings}
              narrowing={narrowing}
              onNarrow={listed.narrow}
            />
          </AcceptBar>
          {narrowing.list === 'flagged' && (
            <FlagReasons
              layer={layer}
              flagged={records?.flagged}
              reason={narrowing.reason}
              onReason={(reason) => listed.narrow({ reason })}
              onSaid={() => void client.invalidateQueries({ queryKey: keys.records(layer.id) })}
            />
          )}
          <AcceptHint list={narrowing.list} total={records?.total ?? 0} narrowed={isNarrowed(narrowing)} />
        </>
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
