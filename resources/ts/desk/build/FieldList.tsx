import Paper from '@mui/material/Paper'
import { useState } from 'react'
import type { Design, Layer, Problem } from '../../shared/types'
import { AddField } from './AddField'
import { newField } from './design'
import { withCopy, withField, withMoved, without } from './fieldEdits'
import { FieldRow } from './FieldRow'

type Props = {
  design: Design
  saved: Layer | null
  zone: string
  problems: Problem[]
  /** What calculated fields give, by key. */
  results: Record<string, string> | undefined
  /** Place of the field that is open. */
  open: number | null
  onOpen: (i: number | null) => void
  onPut: (next: Design) => void
}

/** The fields of a design in their order, one of them open; moved by drag and by keys. */
export function FieldList({ design, saved, zone, problems, results, open, onOpen: setOpen, onPut }: Props) {
  const [dragged, setDragged] = useState<number | null>(null)
  const locked = saved?.design.fields.map((f) => f.key) ?? []
  const move = (i: number, by: number) => {
    onPut(withMoved(design, i, by))
    setOpen(open === i ? i + by : null)
  }
  const dragOver = (i: number) => {
    if (dragged === null || dragged === i) return
    move(dragged, i - dragged)
    setDragged(i)
  }
  return (
    <>
      {design.fields.length > 0 && (
        <Paper variant="outlined" component="ol" sx={{ m: 0, p: 0, listStyle: 'none', overflow: 'hidden' }}>
          {design.fields.map((field, i) => (
            <FieldRow
              key={i}
              field={field}
              design={design}
              result={results?.[field.key]}
              layer={saved?.id ?? null}
              zone={zone}
              onCopy={() => {
                onPut(withCopy(design, i))
                setOpen(i + 1)
              }}
              drag={{
                onDragStart: () => {
                  setOpen(null)
                  setDragged(i)
                },
                onDragOver: () => dragOver(i),
                onDragEnd: () => setDragged(null),
              }}
              open={open === i}
              locked={locked.includes(field.key)}
              first={i === 0}
              last={i === design.fields.length - 1}
              problems={problems.filter(
                (p) => p.field?.startsWith(`/fields/${i}/`) && (field.label !== '' || open !== i),
              )}
              onOpen={() => setOpen(open === i ? null : i)}
              onChange={(c) => onPut(withField(design, i, c, locked))}
              onMove={(by) => move(i, by)}
              onRemove={() => {
                onPut(without(design, i))
                setOpen(null)
              }}
            />
          ))}
        </Paper>
      )}
      <AddField
        first={design.fields.length === 0}
        onAdd={(kind) => {
          onPut({ ...design, fields: [...design.fields, newField(kind, design.fields)] })
          setOpen(design.fields.length)
        }}
      />
    </>
  )
}
