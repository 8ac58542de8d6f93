import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Typography from '@mui/material/Typography'
import { paint } from '../../../shared/paint'
import { Labelled } from '../../../shared/parts/Labelled'
import { Problems } from '../../../shared/parts/Problems'
import { Segments } from '../../../shared/parts/Segments'
import { t } from '../../../shared/texts'
import type { AudienceOf, AudienceRule, SeenLayer } from '../../queries/audiences'
import { PlaceMap } from './PlaceMap'
import {
  fieldsShown,
  FEWEST,
  FIRST_LEAST,
  FIRST_METRES,
  goesOut,
  isShown,
  lacks,
  narrows,
  ruleOf,
  some,
  tellsMore,
  titleOf,
  unsaidOf,
} from './rule'

type Props = {
  layer: SeenLayer
  audience: AudienceOf
  /** The layer of the visits to its records. */
  visits: SeenLayer | null
  rule: AudienceRule
  /** Whether it is to be what goes without saying. */
  unsaid: boolean
  changed: boolean
  saving: boolean
  error: unknown
  onChange: (rule: AudienceRule) => void
  onUnsay: () => void
  onSave: () => void
  onUndo: () => void
}

/** What an audience may see of one layer. Nothing changes for anybody before it is saved. */
export function RulePanel(props: Props) {
  const { layer, audience, visits, rule, unsaid, changed, saving, error } = props
  const put = (next: Partial<AudienceRule>) => props.onChange({ ...rule, ...next })
  const problem = lacks(layer, rule)
  const of = { layer: layer.title, audience: titleOf(audience) }
  const stands = ruleOf(layer, audience.name)
  const visiting = visits && ruleOf(visits, audience.name)
  return (
    <Box component="section" aria-label={t('seen.panel', of)} sx={{ display: 'grid', gap: 4 }}>
      <Box>
        <Typography variant="h2">{t('seen.panel', of)}</Typography>
        {audience.people && (
          <Typography variant="body2" color="text.secondary">
            {audience.people.length === 0
              ? t('seen.people.none')
              : t('seen.people', { n: audience.people.length, names: some(audience.people) })}
          </Typography>
        )}
      </Box>
      <RowsPart {...{ layer, audience, rule, unsaid }} onChange={put} onUnsay={props.onUnsay} />
      {!unsaid && isShown(rule) && rule.rows !== 'own' && (
        <>
          <AcceptedPart layer={layer} rule={rule} onChange={put} />
          {audience.kind !== 'makers' && <HowPart rule={rule} problem={problem} onChange={put} />}
          {rule.least === null ? (
            <PlacePart layer={layer} rule={rule} problem={problem} onChange={put} />
          ) : (
            <LiePart rule={rule} onChange={put} />
          )}
          <FieldsPart layer={layer} rule={rule} onChange={put} />
          {layer.photos && rule.least === null && (
            <FormControlLabel
              control={
                <Checkbox
                  size="small"
                  checked={rule.photos}
                  onChange={(e) => put({ photos: e.target.checked })}
                />
              }
              label={t('seen.photos')}
            />
          )}
        </>
      )}
      {rule.place !== 'exact' &&
        isShown(rule) &&
        visits &&
        visiting &&
        isShown(visiting) &&
        visiting.place === 'exact' && (
          <Typography variant="body2" sx={{ color: paint.buoyDark }}>
            {t('seen.visits', { visits: visits.title, layer: layer.title })}
          </Typography>
        )}
      <Problems error={error} />
      {changed &&
        !unsaid &&
        audience.people &&
        audience.people.length > 0 &&
        narrows(layer, stands, rule) && (
          <Typography variant="body2" sx={{ color: paint.buoyDark }}>
            {t('seen.less', { n: audience.people.length, names: some(audience.people), layer: layer.title })}
          </Typography>
        )}
      {changed && (
        <Box
          sx={{
            display: 'flex',
            gap: 2,
            alignItems: 'center',
            flexWrap: 'wrap',
            position: 'sticky',
            bottom: 0,
            py: 2,
            bgcolor: paint.note,
          }}>
          <Button variant="contained" disabled={problem !== null || saving} onClick={props.onSave}>
            {t('seen.save')}
          </Button>
          <Button variant="outlined" disabled={saving} onClick={props.onUndo}>
            {t('seen.undo')}
          </Button>
          <Typography variant="body2" color="text.secondary">
            {t('seen.unsaved')}
          </Typography>
        </Box>
      )}
    </Box>
  )
}

type PartProps = { layer: SeenLayer; rule: AudienceRule; onChange: (next: Partial<AudienceRule>) => void }

type RowsProps = PartProps & { audience: AudienceOf; unsaid: boolean; onUnsay: () => void }

function RowsPart({ layer, audience, rule, unsaid, onChange, onUnsay }: RowsProps) {
  const value = unsaid ? 'unsaid' : rule.rows === 'slice' ? String(rule.slice) : rule.rows
  const without = unsaidOf(audience)
  const choose = (next: string) => {
    if (next === 'unsaid') return onUnsay()
    onChange(
      next === 'none' || next === 'own'
        ? { rows: next, slice: null, accepted: false, least: null }
        : {
            ...(next === 'all'
              ? { rows: 'all' as const, slice: null }
              : { rows: 'slice' as const, slice: Number(next) }),
            // What was shown of nothing is no choice: it begins carefully.
            ...(rule.rows === 'none' || rule.rows === 'own'
              ? {
                  place: 'cell' as const,
                  metres: rule.metres ?? FIRST_METRES,
                  areas: null,
                  fields: null,
                  photos: false,
                }
              : {}),
          },
    )
  }
  return (
    <Labelled label={t('seen.rows')}>
      {({ id }) => (
        <NativeSelect id={id} value={value} onChange={(e) => choose(e.target.value)} sx={{ width: '100%' }}>
          {without && <option value="unsaid">{without}</option>}
          <option value="none">{t('seen.rows.none')}</option>
          {goesOut(audience) && <option value="own">{t('seen.rows.own')}</option>}
          <option value="all">{t('seen.rows.all')}</option>
          {layer.slices.map((s) => (
            <option key={s.id} value={s.id}>
              {t('seen.rows.slice', { slice: s.name })}
            </option>
          ))}
          {rule.slice !== null && !layer.slices.some((s) => s.id === rule.slice) && (
            <option value={rule.slice}>{t('seen.rows.lost')}</option>
          )}
        </NativeSelect>
      )}
    </Labelled>
  )
}

/** Whether records wait until somebody has looked at them. */
function AcceptedPart({ layer, rule, onChange }: PartProps) {
  return (
    <Box>
      <FormControlLabel
        control={
          <Checkbox
            size="small"
            checked={rule.accepted}
            onChange={(e) => onChange({ accepted: e.target.checked })}
          />
        }
        label={t('seen.accepted')}
      />
      {rule.accepted && (
        <Typography variant="body2" color="text.secondary">
          {t('seen.accepted.hint')}
          {layer.to_check > 0 && ` ${t('seen.accepted.left', { n: layer.to_check })}`}
        </Typography>
      )}
    </Box>
  )
}

/** Whether records are shown one by one, or told in numbers of many. */
function HowPart({ rule, problem, onChange }: Omit<PartProps, 'layer'> & { problem: string | null }) {
  return (
    <Box sx={{ display: 'grid', gap: 2.5 }}>
      <Typography variant="h3">{t('seen.how')}</Typography>
      <Segments
        label={t('seen.how')}
        value={rule.least === null ? 'single' : 'figures'}
        options={(['single', 'figures'] as const).map((v) => ({ value: v, label: t(`seen.how.${v}`) }))}
        onChange={(how) =>
          onChange(
            how === 'single'
              ? { least: null }
              : {
                  least: rule.least ?? FIRST_LEAST,
                  photos: false,
                  place: rule.place === 'exact' ? 'exact' : 'none',
                  metres: null,
                  areas: null,
                },
          )
        }
      />
      {rule.least !== null && (
        <Labelled label={t('seen.least')} hint={problem ?? t('seen.least.hint')} error={problem}>
          {({ id, describedBy }) => (
            <OutlinedInput
              id={id}
              size="small"
              type="number"
              error={problem !== null}
              value={Number.isFinite(rule.least) ? rule.least : ''}
              onChange={(e) => onChange({ least: e.target.value === '' ? NaN : Number(e.target.value) })}
              inputProps={{ 'aria-describedby': describedBy, min: FEWEST, step: 1 }}
              sx={{ width: 120 }}
            />
          )}
        </Labelled>
      )}
    </Box>
  )
}

/** Of numbers: whether they are told of the areas that the records lie in. */
function LiePart({ rule, onChange }: Omit<PartProps, 'layer'>) {
  return (
    <Box sx={{ display: 'grid', gap: 2.5 }}>
      <Typography variant="h3">{t('seen.lie')}</Typography>
      <Segments
        label={t('seen.lie')}
        value={rule.place === 'exact' ? 'exact' : 'none'}
        options={(['exact', 'none'] as const).map((p) => ({ value: p, label: t(`seen.lie.${p}`) }))}
        onChange={(place) => onChange({ place, metres: null, areas: null })}
      />
    </Box>
  )
}

function PlacePart({ layer, rule, problem, onChange }: PartProps & { problem: string | null }) {
  return (
    <Box sx={{ display: 'grid', gap: 2.5 }}>
      <Typography variant="h3">{t('seen.place')}</Typography>
      <Segments
        label={t('seen.place')}
        value={rule.place}
        options={(['exact', 'cell', 'area', 'none'] as const).map((p) => ({
          value: p,
          label: t(`seen.place.${p}`),
        }))}
        onChange={(place) =>
          onChange({
            place,
            metres: place === 'cell' ? (rule.metres ?? FIRST_METRES) : null,
            areas: place === 'area' ? (rule.areas ?? layer.areas[0]?.id ?? null) : null,
          })
        }
      />
      {rule.place === 'cell' && (
        <>
          <Labelled
            label={t('seen.metres')}
            hint={problem ?? t(layer.points ? 'seen.metres.hint' : 'seen.metres.shapes')}
            error={problem}>
            {({ id, describedBy }) => (
              <OutlinedInput
                id={id}
                size="small"
                type="number"
                error={problem !== null}
                value={Number.isFinite(rule.metres) ? rule.metres : ''}
                onChange={(e) => onChange({ metres: e.target.value === '' ? null : Number(e.target.value) })}
                endAdornment="m"
                inputProps={{ 'aria-describedby': describedBy, min: 10, step: 10 }}
                sx={{ width: 150 }}
              />
            )}
          </Labelled>
          {problem === null && (
            <PlaceMap layer={layer.id} points={layer.points} metres={rule.metres ?? FIRST_METRES} />
          )}
        </>
      )}
      {rule.place === 'area' && <AreasPart {...{ layer, rule, problem, onChange }} />}
    </Box>
  )
}

/** By the areas of which layer a place is told. */
function AreasPart({ layer, rule, problem, onChange }: PartProps & { problem: string | null }) {
  if (layer.areas.length === 0 && rule.areas === null)
    return <Typography variant="body2">{t('seen.areas.none')}</Typography>
  const known = layer.areas.some((a) => a.id === rule.areas)
  return (
    <>
      <Labelled label={t('seen.areas')} hint={t('seen.areas.hint')} error={problem}>
        {({ id, describedBy }) => (
          <NativeSelect
            id={id}
            value={rule.areas ?? ''}
            onChange={(e) => onChange({ areas: Number(e.target.value) })}
            inputProps={{ 'aria-describedby': describedBy }}
            sx={{ width: '100%' }}>
            {!known && <option value={rule.areas ?? ''}>{t('seen.areas.lost')}</option>}
            {layer.areas.map((a) => (
              <option key={a.id} value={a.id}>
                {a.title}
              </option>
            ))}
          </NativeSelect>
        )}
      </Labelled>
      {known && rule.areas !== null && <PlaceMap layer={layer.id} points={layer.points} areas={rule.areas} />}
    </>
  )
}

function FieldsPart({ layer, rule, onChange }: PartProps) {
  const shown = fieldsShown(layer, rule).map((f) => f.key)
  const chosen = rule.fields ?? layer.fields.map((f) => f.key)
  return (
    <Box component="fieldset" sx={{ border: 0, p: 0, m: 0, display: 'grid', gap: 1 }}>
      <Typography component="legend" variant="h3" sx={{ mb: 1.5 }}>
        {t('seen.which')}
      </Typography>
      <FormControlLabel
        control={
          <Checkbox
            size="small"
            checked={rule.fields === null}
            onChange={(e) => onChange({ fields: e.target.checked ? null : chosen })}
          />
        }
        label={t('seen.which.all')}
      />
      {rule.fields !== null &&
        layer.fields.map((f) => {
          const hidden = tellsMore(f, rule)
          return (
            <FormControlLabel
              key={f.key}
              sx={{ ml: 3 }}
              control={
                <Checkbox
                  size="small"
                  disabled={hidden}
                  checked={shown.includes(f.key)}
                  onChange={(e) =>
                    onChange({
                      fields: e.target.checked ? [...chosen, f.key] : chosen.filter((key) => key !== f.key),
                    })
                  }
                />
              }
              label={hidden ? t('seen.tells', { field: f.label }) : f.label}
            />
          )
        })}
    </Box>
  )
}
