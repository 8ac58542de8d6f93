import ArrowUpward from '@mui/icons-material/ArrowUpward'
import DeleteOutline from '@mui/icons-material/DeleteOutline'
import Box from '@mui/material/Box'
import FormControlLabel from '@mui/material/FormControlLabel'
import IconButton from '@mui/material/IconButton'
import Switch from '@mui/material/Switch'
import Typography from '@mui/material/Typography'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Select } from '../../../shared/parts/Labelled'
import { Problems } from '../../../shared/parts/Problems'
import { Segments } from '../../../shared/parts/Segments'
import { Sheet } from '../../../shared/parts/Sheet'
import { fieldsOf } from '../../../shared/map/classes'
import { t } from '../../../shared/texts'
import type { Layer, LayerOnMap, MapTable, MapViewLayer } from '../../../shared/types'
import { layerOf } from '../../queries/layers'
import { useLastAnswer } from '../../../shared/lateAnswers'

const MOST_COLUMNS = 12
const TO_BEGIN_WITH = 5

type Props = {
  table: MapTable | null
  parts: LayerOnMap[]
  views: MapViewLayer[]
  onChange: (table: MapTable | null) => void
}

/** The table beside the map: of which layer, with which columns, in which order. */
export function BesidePart({ table, parts, views, onChange }: Props) {
  const part = parts.find((p) => p.id === table?.part) ?? null
  const asked = part ?? parts[0] ?? null
  const layer = useQuery(layerOf(asked?.layer))
  const client = useQueryClient()
  const [error, setError] = useState<unknown>(null)
  const titleOf = (p: LayerOnMap) => p.title ?? views.find((v) => v.id === p.id)?.title ?? p.called
  const ask = useLastAnswer()
  const choose = async (id: string) => {
    const other = parts.find((p) => p.id === id)
    if (!other) return
    setError(null)
    const counts = ask()
    try {
      // Columns are those of its layer.
      const of = await client.fetchQuery({ ...layerOf(other.layer), networkMode: 'always' })
      if (counts()) onChange(proposed(other, of))
    } catch (e) {
      if (counts()) setError(e)
    }
  }
  return (
    <Sheet title={t('beside.title')}>
      <FormControlLabel
        label={t('beside.on')}
        disabled={asked === null || !layer.data}
        control={
          <Switch
            checked={table !== null && part !== null}
            onChange={(e) =>
              onChange(e.target.checked && asked && layer.data ? proposed(asked, layer.data) : null)
            }
          />
        }
      />
      {table && part && layer.data && (
        <Box sx={{ display: 'grid', gap: 3, mt: 2 }}>
          {parts.length > 1 && (
            <Select label={t('beside.layer')} value={part.id} onChange={(chosen) => void choose(chosen)}>
              {parts.map((p) => (
                <option key={p.id} value={p.id}>
                  {titleOf(p)}
                </option>
              ))}
            </Select>
          )}
          <Problems error={error} />
          <Columns table={table} part={part} layer={layer.data} onChange={onChange} />
          <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 3 }}>
            <Typography sx={{ fontWeight: 650, fontSize: '0.92rem', width: '100%', mb: -2 }}>
              {t('beside.opens')}
            </Typography>
            <Segments
              label={t('table.which')}
              value={table.all ? 'all' : 'view'}
              onChange={(v) => onChange({ ...table, all: v === 'all' })}
              options={[
                { value: 'view', label: t('table.view') },
                { value: 'all', label: t('table.all') },
              ]}
            />
            {part.look.kind !== 'single' && (
              <Segments
                label={t('table.as')}
                value={table.chart ? 'chart' : 'table'}
                onChange={(v) => onChange({ ...table, chart: v === 'chart' })}
                options={[
                  { value: 'table', label: t('table.table') },
                  { value: 'chart', label: t('table.chart') },
                ]}
              />
            )}
          </Box>
        </Box>
      )}
    </Sheet>
  )
}

/** Its name, what it is coloured by, and what its card tells. */
function proposed(part: LayerOnMap, layer: Layer): MapTable {
  const keys = columnsOf(part, layer).map((c) => c.key)
  const name = layer.design.name_field ?? layer.design.fields.find((f) => f.kind === 'short_text')?.key
  const look = part.look.kind === 'inside' ? ['@tally'] : fieldsOf(part.look)
  const columns = [...new Set([name, ...look, part.look.size?.field, ...part.card.fields])]
    .filter((k): k is string => k !== undefined && keys.includes(k))
    .slice(0, TO_BEGIN_WITH)
  return {
    part: part.id,
    columns: columns.length > 0 ? columns : ['@collected'],
    sort: columns[0] ?? '@collected',
    down: false,
    all: false,
    chart: false,
  }
}

const columnsOf = (part: LayerOnMap, layer: Layer) => [
  ...(part.look.kind === 'inside' ? [{ key: '@tally', label: t('map.label.tally') }] : []),
  ...layer.design.fields.filter((f) => f.kind !== 'heading').map((f) => ({ key: f.key, label: f.label })),
  { key: '@collected', label: t('table.collected') },
]

function Columns({
  table,
  part,
  layer,
  onChange,
}: {
  table: MapTable
  part: LayerOnMap
  layer: Layer
  onChange: (table: MapTable) => void
}) {
  const known = columnsOf(part, layer)
  const labelOf = (key: string) => known.find((c) => c.key === key)?.label ?? key
  const left = known.filter((c) => !table.columns.includes(c.key))
  const put = (columns: string[]) =>
    onChange({ ...table, columns, sort: columns.includes(table.sort) ? table.sort : columns[0]! })
  return (
    <Box>
      <Typography sx={{ fontWeight: 650, fontSize: '0.92rem', mb: 1 }}>{t('beside.columns')}</Typography>
      <Box component="ol" sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {table.columns.map((key, i) => (
          <Box component="li" key={key} sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
            <Box sx={{ flex: 1, minWidth: 0, overflowWrap: 'anywhere' }}>{labelOf(key)}</Box>
            <IconButton
              size="small"
              disabled={i === 0}
              aria-label={t('beside.up', { column: labelOf(key) })}
              onClick={() => {
                const next = [...table.columns]
                next.splice(i - 1, 0, ...next.splice(i, 1))
                put(next)
              }}>
              <ArrowUpward fontSize="small" />
            </IconButton>
            <IconButton
              size="small"
              disabled={table.columns.length === 1}
              aria-label={t('beside.out', { column: labelOf(key) })}
              onClick={() => put(table.columns.filter((k) => k !== key))}>
              <DeleteOutline fontSize="small" />
            </IconButton>
          </Box>
        ))}
      </Box>
      <Box sx={{ display: 'grid', gap: 3, mt: 2 }}>
        <Select
          label={t('beside.add')}
          disabled={left.length === 0 || table.columns.length >= MOST_COLUMNS}
          value=""
          onChange={(chosen) => put([...table.columns, chosen])}>
          <option value="" disabled />
          {left.map((c) => (
            <option key={c.key} value={c.key}>
              {c.label}
            </option>
          ))}
        </Select>
        <Select
          label={t('beside.sort')}
          value={`${table.down ? '1' : '0'}${table.sort}`}
          onChange={(chosen) => onChange({ ...table, down: chosen.startsWith('1'), sort: chosen.slice(1) })}>
          {table.columns.flatMap((key) => [
            <option key={`0${key}`} value={`0${key}`}>
              {t('beside.sort.up', { column: labelOf(key) })}
            </option>,
            <option key={`1${key}`} value={`1${key}`}>
              {t('beside.sort.down', { column: labelOf(key) })}
            </option>,
          ])}
        </Select>
      </Box>
    </Box>
  )
}
