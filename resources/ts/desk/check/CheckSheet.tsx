import Box from '@mui/material/Box'
import Typography from '@mui/material/Typography'
import useMediaQuery from '@mui/material/useMediaQuery'
import type { Theme } from '@mui/material/styles'
import { useEffect, useRef } from 'react'
import { LazyMap } from '../../shared/map/LazyMap'
import { Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import type { Layer, RecordRow } from '../../shared/types'
import { NOWHERE, placingOf, spotOf } from './placing'
import { RecordEditor } from './RecordEditor'
import { RecordPanel } from './RecordPanel'
import type { useAccepting } from './useAccepting'
import type { Writing } from './useWriting'

type Props = {
  /** The layer whose list stands beside it. */
  layer: Layer | undefined
  zone: string
  selected: RecordRow | null
  writing: Writing
  accepting: ReturnType<typeof useAccepting>
  /** A record was saved, or is as it was before. */
  onDone: (record: RecordRow) => void
  onDelete: () => void
  onOpenVisit: (visits: Layer, visit: RecordRow) => void
  /** Another record of the layer, by its id. */
  onLook: (record: string) => void
}

/** Beside the list: where the picked record is, and what it says; or the form that it is written with. */
export function CheckSheet(props: Props) {
  const { selected, writing } = props
  const sheet = useRef<HTMLDivElement>(null)
  const about = writing.editing
    ? `${writing.editing}-${selected?.id}-${writing.visiting?.of.id}`
    : selected?.id
  const narrow = useMediaQuery<Theme>((theme) => theme.breakpoints.down('md'))
  // Where the list stands above it, what was picked or begun comes into view.
  useEffect(() => {
    if (narrow && about) sheet.current?.scrollIntoView({ block: 'start' })
  }, [narrow, about])
  return (
    <Sheet
      ref={sheet}
      sx={{ p: 0, overflow: 'hidden', alignSelf: 'stretch', display: 'flex', flexDirection: 'column' }}>
      <Box sx={{ height: 260, flex: 'none' }}>
        <LazyMap label={t('check.where')} {...writing.map} />
      </Box>
      <Box
        sx={
          writing.editing
            ? { flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column' }
            : { p: 4, overflow: 'auto' }
        }>
        {writing.editing && writing.into ? (
          <Form {...props} into={writing.into} />
        ) : selected && props.layer ? (
          <Panel {...props} layer={props.layer} record={selected} />
        ) : (
          <Typography color="text.secondary">{t('check.pick')}</Typography>
        )}
      </Box>
    </Sheet>
  )
}

function Form({ layer, zone, selected, writing, into, onDone }: Props & { into: Layer }) {
  const changed = writing.editing === 'change' ? selected : null
  return (
    <RecordEditor
      key={`${into.id}-${changed ? changed.id : 'new'}-${writing.visiting?.of.id}`}
      under={layer?.id ?? into.id}
      layer={into}
      zone={zone}
      record={changed}
      visited={writing.visiting?.of ?? null}
      placing={writing.placing}
      onPlacing={writing.place}
      onDone={onDone}
      onCancel={writing.end}
    />
  )
}

function Panel({
  layer,
  record,
  zone,
  writing,
  accepting,
  onDone,
  onDelete,
  onOpenVisit,
  onLook,
}: Props & { layer: Layer; record: RecordRow }) {
  return (
    <RecordPanel
      key={record.id}
      record={record}
      layer={layer}
      zone={zone}
      onRestored={onDone}
      onDelete={onDelete}
      onEdit={() => writing.begin('change', placingOf(record))}
      onVisit={(visits) =>
        writing.begin('new', { ...NOWHERE, spot: spotOf(record) }, { layer: visits, of: record })
      }
      onOpenVisit={onOpenVisit}
      onLook={onLook}
      accepting={accepting.busy}
      onAccept={() => void accepting.one(record)}
      onTakeBack={() => void accepting.takeBack(record)}
    />
  )
}
