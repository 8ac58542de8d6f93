import Box from '@mui/material/Box'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Select, TextInput } from '../../../shared/parts/Labelled'
import { Segments } from '../../../shared/parts/Segments'
import { t } from '../../../shared/texts'
import type { Api, Tile } from '../../../shared/types'
import { measurableOf } from '../../queries/publish'
import { SlicePicker } from '../../slices/SlicePicker'
import { ColumnsForm } from './ColumnsForm'
import { GroupingForm } from './GroupingForm'
import { MeasureForm } from './MeasureForm'
import { PlanForm } from './PlanForm'
import type { Known, Part } from './sentence'
import { TextForm } from './TextForm'
import { asKind, changed } from './tileEdits'

type Props = { part: Part; tile: Tile; known: Known; onChange: (tile: Tile) => void }

/** What a tapped part of the sentence can be instead. */
export function PartForm({ part, tile, known, onChange }: Props) {
  const layer = tile.layer ?? 0
  const put = (change: Parameters<typeof changed>[1]) => onChange(changed(tile, change))
  switch (part) {
    case 'measure':
      return (
        <MeasureForm
          layer={layer}
          measure={tile.measure ?? { of: 'count' }}
          unit={tile.unit}
          decimals={tile.decimals}
          {...(tile.kind === 'spread' ? { only: ['mean' as const] } : {})}
          onChange={({ measure, unit, decimals }) => {
            const adds = ['count', 'sum', 'walked', 'hours'].includes(measure.of)
            // Parts of a whole and running totals are of what adds up.
            put({
              measure,
              unit,
              decimals,
              ...(adds ? {} : { running: undefined, second: undefined, shape: undefined }),
            })
          }}
        />
      )
    case 'up':
      return (
        <MeasureForm
          layer={layer}
          measure={tile.up ?? { of: 'count' }}
          inside
          onChange={({ measure }) => put({ up: measure })}
        />
      )
    case 'layer':
      return <LayerChoice tile={tile} known={known} onChange={onChange} />
    case 'slice':
      return (
        <SlicePicker
          label={t('board.slice')}
          layer={layer}
          mayMake
          size="small"
          value={tile.slice ?? null}
          onChange={(slice) => {
            // A title that was proposed goes on being one; one's own stays.
            const proposed = [
              known.slices.find((s) => s.id === tile.slice)?.name,
              known.layers.find((l) => l.id === layer)?.title,
            ].includes(tile.title)
            put({ slice: slice?.id, ...(proposed && slice ? { title: slice.name } : {}) })
          }}
        />
      )
    case 'by':
      return (
        <GroupingForm
          label={t('part.by')}
          layer={layer}
          value={tile.by}
          fits={tile.kind === 'trend' ? (g) => g.time : () => true}
          onChange={(by) =>
            by && put({ by, ...(by.areas !== undefined ? { second: undefined, shape: undefined } : {}) })
          }
        />
      )
    case 'second':
    case 'lines':
      return (
        <GroupingForm
          label={t(part === 'second' ? 'part.second' : 'part.lines.by')}
          layer={layer}
          value={tile[part]}
          none={t(part === 'second' ? 'part.second.none' : 'part.lines.none')}
          fits={(g) => g.parts}
          onChange={(by) => put({ [part]: by })}
        />
      )
    case 'running':
      return (
        <FormControlLabel
          label={t('part.running.each')}
          control={
            <Checkbox
              checked={tile.running === true}
              onChange={(e) => put({ running: e.target.checked || undefined })}
            />
          }
        />
      )
    case 'shape':
      return <ShapeForm tile={tile} known={known} onChange={onChange} />
    case 'compare':
      return <CompareForm tile={tile} known={known} onChange={onChange} />
    case 'plan':
      return <PlanForm tile={tile} onChange={onChange} />
    case 'bars':
      return (
        <CountSelect
          label={t('part.bars.how')}
          value={tile.bars ?? 10}
          of={[5, 8, 10, 15, 20, 30]}
          onChange={(bars) => put({ bars })}
        />
      )
    case 'count':
      return (
        <CountSelect
          label={t('part.count.how')}
          value={tile.count ?? 12}
          of={[6, 12, 24, 48]}
          onChange={(count) => put({ count })}
        />
      )
    case 'reach':
      return (
        <Box sx={{ display: 'grid', gap: 3 }}>
          <CountSelect
            label={t('part.reach.metres')}
            value={tile.metres ?? 50}
            of={[5, 10, 20, 50, 100, 200, 500]}
            onChange={(metres) => put({ metres })}
          />
          <CountSelect
            label={t('part.reach.days')}
            value={tile.days ?? 7}
            of={[1, 3, 7, 14, 30, 90, 365]}
            onChange={(days) => put({ days })}
          />
        </Box>
      )
    case 'columns':
      return <ColumnsForm tile={tile} onChange={onChange} />
    case 'fields':
      return <FieldsForm tile={tile} known={known} onChange={onChange} />
    case 'order':
      return (
        <Segments
          label={t('part.order.how')}
          value={tile.order === 'arrived' || tile.order === 'name' ? tile.order : 'collected'}
          options={(['collected', 'arrived', 'name'] as const).map((value) => ({
            value,
            label: t(`part.order.${value}`),
          }))}
          onChange={(order) => put({ order })}
        />
      )
    case 'what':
      return (
        <Select
          label={t('part.what')}
          value={tile.map !== undefined ? `m${tile.map}` : `l${layer}`}
          onChange={(v) =>
            v.startsWith('m')
              ? put({ map: Number(v.slice(1)), layer: undefined, slice: undefined, names: undefined })
              : put({ map: undefined, layer: Number(v.slice(1)), slice: undefined })
          }>
          {known.maps.length > 0 && (
            <optgroup label={t('publish.maps')}>
              {known.maps.map((m) => (
                <option key={m.id} value={`m${m.id}`}>
                  {m.title}
                </option>
              ))}
            </optgroup>
          )}
          <optgroup label={t('part.what.layers')}>
            {known.layers.map((l) => (
              <option key={l.id} value={`l${l.id}`}>
                {l.title}
              </option>
            ))}
          </optgroup>
        </Select>
      )
    case 'text':
      return <TextForm tile={tile} layers={known.layers} onChange={onChange} />
    case 'link':
      return <LinkForm tile={tile} onChange={onChange} />
  }
}

/** Another layer has other fields: what was chosen of the old one goes. */
function LayerChoice({ tile, known, onChange }: Omit<Props, 'part'>) {
  const [asked, setAsked] = useState<number | undefined>(undefined)
  const { data } = useQuery(measurableOf(asked))
  if (asked !== undefined && data) {
    const { slice: _, measure: __, by: ___, unit: ____, ...rest } = tile
    queueMicrotask(() => {
      setAsked(undefined)
      onChange(asKind({ ...rest, layer: asked }, tile.kind, data, asked))
    })
  }
  return (
    <Select label={t('check.layer')} value={asked ?? tile.layer ?? ''} onChange={(v) => setAsked(Number(v))}>
      {known.layers.map((l) => (
        <option key={l.id} value={l.id}>
          {l.title}
        </option>
      ))}
    </Select>
  )
}

function CountSelect({
  label,
  value,
  of,
  onChange,
}: {
  label: string
  value: number
  of: number[]
  onChange: (n: number) => void
}) {
  return (
    <Select label={label} value={value} onChange={(v) => onChange(Number(v))}>
      {[...new Set([...of, value])]
        .sort((a, b) => a - b)
        .map((n) => (
          <option key={n} value={n}>
            {n}
          </option>
        ))}
    </Select>
  )
}

function ShapeForm({ tile, known, onChange }: Omit<Props, 'part'>) {
  const adds = !tile.measure || tile.measure.of === 'count' || tile.measure.of === 'sum'
  const whole = known.measurable?.groupings.find(
    (g) => g.by.field === tile.by?.field && g.by.areas === tile.by?.areas,
  )?.whole
  return (
    <Box sx={{ display: 'grid', gap: 3 }}>
      {adds && whole && (
        <Segments
          label={t('part.shape.how')}
          value={tile.shape === 'donut' ? 'donut' : 'bars'}
          options={[
            { value: 'bars', label: t('part.shape.bars') },
            { value: 'donut', label: t('part.shape.donut') },
          ]}
          onChange={(shape) => onChange(changed(tile, { shape: shape === 'donut' ? 'donut' : undefined }))}
        />
      )}
      <Select
        label={t('part.order.groups')}
        value={tile.order === 'most' ? 'most' : 'list'}
        onChange={(v) => onChange(changed(tile, { order: v === 'most' ? 'most' : undefined }))}>
        <option value="list">{t('part.order.list')}</option>
        <option value="most">{t('part.order.most')}</option>
      </Select>
      <Select
        label={t('part.top')}
        value={tile.top ?? ''}
        onChange={(v) => onChange(changed(tile, { top: v === '' ? undefined : Number(v) }))}>
        <option value="">{t('part.top.all')}</option>
        {[3, 5, 8, 10, 15, 20].map((n) => (
          <option key={n} value={n}>
            {t('part.top.n', { n })}
          </option>
        ))}
      </Select>
    </Box>
  )
}

function CompareForm({ tile, known, onChange }: Omit<Props, 'part'>) {
  const dates = known.measurable?.groupings.filter((g) => g.time) ?? []
  const now = tile.compare
  const put = (compare: Api['Comparison'] | undefined) => onChange(changed(tile, { compare }))
  const by = now?.by ?? dates[0]?.by.field ?? 'collected_at'
  const span = now === undefined ? '' : now.since ? 'since' : String(now.days ?? 7)
  return (
    <Box sx={{ display: 'grid', gap: 3 }}>
      <Select
        label={t('compare.span')}
        value={span}
        onChange={(v) =>
          put(
            v === ''
              ? undefined
              : v === 'since'
                ? { by, since: `${new Date().getFullYear()}-01-01`, against: 'year' }
                : { by, days: Number(v), against: now?.against ?? 'before' },
          )
        }>
        <option value="">{t('part.compare.none')}</option>
        {[1, 7, 30, 90].map((n) => (
          <option key={n} value={n}>
            {t('compare.days', { n })}
          </option>
        ))}
        <option value="since">{t('compare.since')}</option>
      </Select>
      {now && (
        <>
          <Select label={t('compare.by')} value={now.by} onChange={(v) => put({ ...now, by: v })}>
            {dates.map((g) => (
              <option key={g.by.field} value={g.by.field}>
                {g.label}
              </option>
            ))}
          </Select>
          {now.since && (
            <TextInput
              label={t('compare.since.day')}
              type="date"
              size="small"
              value={now.since}
              onChange={(since) => since && put({ ...now, since })}
            />
          )}
          <Select
            label={t('compare.against')}
            value={now.against}
            onChange={(v) => put({ ...now, against: v as 'before' | 'year' })}>
            <option value="before">{t('compare.before')}</option>
            <option value="year">{t('compare.year')}</option>
          </Select>
        </>
      )}
    </Box>
  )
}

function FieldsForm({ tile, known, onChange }: Omit<Props, 'part'>) {
  const fields = known.measurable?.quantities.filter((q) => !q.key.startsWith('@')) ?? []
  const chosen = tile.fields ?? []
  return (
    <Box sx={{ display: 'grid' }}>
      {fields.map((f) => (
        <FormControlLabel
          key={f.key}
          label={f.label}
          control={
            <Checkbox
              size="small"
              checked={chosen.includes(f.key)}
              disabled={!chosen.includes(f.key) && chosen.length >= (tile.kind === 'details' ? 40 : 4)}
              onChange={(e) =>
                onChange({
                  ...tile,
                  fields: e.target.checked ? [...chosen, f.key] : chosen.filter((k) => k !== f.key),
                })
              }
            />
          }
        />
      ))}
    </Box>
  )
}

function LinkForm({ tile, onChange }: { tile: Tile; onChange: (tile: Tile) => void }) {
  const [address, setAddress] = useState(tile.address ?? '')
  const fits = /^(https?:\/\/[^\s/]+|\/(?!\/))\S*$/i.test(address)
  return (
    <Box sx={{ display: 'grid', gap: 3 }}>
      <TextInput
        label={t('link.address')}
        size="small"
        value={address}
        error={fits ? null : t('link.bad')}
        onChange={(v) => {
          setAddress(v)
          if (/^(https?:\/\/[^\s/]+|\/(?!\/))\S*$/i.test(v)) onChange({ ...tile, address: v })
        }}
      />
      <TextInput
        label={t('link.text')}
        size="small"
        value={tile.text ?? ''}
        inputProps={{ maxLength: 200 }}
        onChange={(text) => onChange({ ...tile, text })}
      />
    </Box>
  )
}
