import Box from '@mui/material/Box'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Typography from '@mui/material/Typography'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { isByNumbers } from '../../../shared/map/classes'
import { Labelled } from '../../../shared/parts/Labelled'
import { Legend } from '../../../shared/parts/Legend'
import { Problems } from '../../../shared/parts/Problems'
import { t } from '../../../shared/texts'
import type { Layer, LegendLine, Look, MapViewLayer } from '../../../shared/types'
import { layerOf } from '../../queries/layers'
import {
  beginClasses,
  beginCrossed,
  beginDensity,
  beginInside,
  beginShades,
  NothingToShow,
} from './beginLook'
import { CrossedPart } from './CrossedPart'
import { DensityPart } from './DensityPart'
import { GatherPart } from './GatherPart'
import { without } from './lookEdits'
import { NumberClasses } from './NumberClasses'
import { numbersOf } from './numbersOf'
import { PegLegend } from './PegLegend'
import { ShadesPart } from './ShadesPart'
import { SizePart } from './SizePart'
import { StrokePart } from './StrokePart'
import { tallyUnit, TallyPart } from './TallyPart'
import { useLastAnswer, useLatest } from '../../../shared/lateAnswers'

/** By what the marks of a map differ, and what each looks like. */
export function LookPart({
  layer,
  look,
  slice,
  lat,
  legend,
  sizes,
  why,
  warnings,
  photos,
  onChange,
}: {
  layer: Layer
  look: Look
  /** Of which records. */
  slice: number | null
  /** Where the map opens: what is so large on the map is smaller on the ground towards the poles. */
  lat: number
  legend: LegendLine[] | undefined
  sizes: MapViewLayer['sizes'] | undefined
  /** Why it was proposed, where nobody has chosen yet. */
  why: string | undefined
  /** Marks that can hardly be told apart. */
  warnings: string[]
  /** Whether its card shows photos: only then they may stand for records. */
  photos: boolean
  /** `now`: of one choice, not of typing or dragging. */
  onChange: (look: Look, now?: boolean) => void
}) {
  const client = useQueryClient()
  const [error, setError] = useState<unknown>(null)
  /** Why there is nothing to choose. */
  const [said, setSaid] = useState<string | null>(null)
  const ask = useLastAnswer()
  const latest = useLatest({ look, onChange })
  const choices = layer.design.fields.filter((f) => f.kind === 'one_choice')
  const numbers = numbersOf(layer)
  const by =
    'field' in look && look.field !== null ? layer.design.fields.find((f) => f.key === look.field) : undefined
  const counted = useQuery(layerOf(look.kind === 'inside' ? look.of.layer : null))
  const unit = look.kind === 'inside' ? tallyUnit(look.of, counted.data) : (by?.unit ?? undefined)
  /** By what marks differ changes; how large they are stays, and how they gather where that still says something. */
  const kept = (next: Look, now?: boolean) => {
    const { look: was, onChange: put } = latest.current
    put(
      {
        ...next,
        ...(was.size ? { size: was.size } : {}),
        ...(was.gather && was.gather.tell !== 'share' ? { gather: was.gather } : {}),
        ...(was.width === undefined ? {} : { width: was.width }),
        ...(was.photos ? { photos: true } : {}),
      },
      now,
    )
  }
  const begin = async (made: Promise<Look>) => {
    setError(null)
    setSaid(null)
    const counts = ask()
    try {
      const next = await made
      if (counts()) kept(next, true)
    } catch (e) {
      if (!counts()) return
      if (e instanceof NothingToShow) setSaid(e.message)
      else setError(e)
    }
  }
  const choose = (to: string) => {
    const [kind, field = ''] = to.split(' ')
    if (kind === 'inside') return void begin(beginInside(client, layer))
    if (kind === 'density') return void begin(beginDensity(client, layer, slice))
    if (kind === 'number')
      return void begin(
        look.kind === 'shades' ? beginShades(client, layer, field) : beginClasses(client, layer, field),
      )
    if (kind === 'crossed' && numbers[0] && numbers[1]) {
      const first = numbers.find((f) => f.key === by?.key) ?? numbers[0]
      // What was its size is what they were looked at beside each other by.
      const other = numbers.filter((f) => f.key !== first.key)
      const second = other.find((f) => f.key === look.size?.field) ?? other[0]
      if (second) return void begin(beginCrossed(client, layer, [first, second]))
    }
    ask()
    setSaid(null)
    kept((kind === 'category' ? { kind, field } : { kind: 'single' }) as Look, true)
  }
  return (
    <>
      <Labelled label={t('map.by')} error={said} {...(why ? { hint: why } : {})}>
        {({ id, describedBy }) => (
          <NativeSelect
            id={id}
            inputProps={{ 'aria-describedby': describedBy }}
            fullWidth
            input={<OutlinedInput />}
            value={chosen(look)}
            onChange={(e) => choose(e.target.value)}>
            <option value="">{t('map.by.none')}</option>
            {choices.length > 0 && (
              <optgroup label={t('map.by.choice')}>
                {choices.map((f) => (
                  <option key={f.key} value={`category ${f.key}`}>
                    {f.label}
                  </option>
                ))}
              </optgroup>
            )}
            {numbers.length > 0 && (
              <optgroup label={t('map.by.number')}>
                {numbers.map((f) => (
                  <option key={f.key} value={`number ${f.key}`}>
                    {f.label}
                  </option>
                ))}
                {numbers.length > 1 && <option value="crossed">{t('map.by.two')}</option>}
              </optgroup>
            )}
            <optgroup label={t('map.by.many')}>
              <option value="density">{t('map.by.density')}</option>
            </optgroup>
            {layer.design.geometry === 'area' && (
              <optgroup label={t('map.by.inside')}>
                <option value="inside">{t('map.by.inside.layer')}</option>
              </optgroup>
            )}
          </NativeSelect>
        )}
      </Labelled>
      <Problems error={error} />
      {look.kind === 'inside' && <TallyPart layer={layer} look={look} onChange={onChange} />}
      {look.kind === 'density' && (
        <DensityPart layer={layer} look={look} slice={slice} lat={lat} onChange={onChange} />
      )}
      {(look.kind === 'shades' || look.kind === 'classes') && (
        <ShadesPart
          layer={layer}
          look={look}
          onChange={kept}
          onKind={(shaded) =>
            void begin(
              shaded ? beginShades(client, layer, look.field) : beginClasses(client, layer, look.field),
            )
          }
        />
      )}
      {look.kind === 'crossed' && <CrossedPart layer={layer} look={look} numbers={numbers} onChange={kept} />}
      {isByNumbers(look) && (
        <NumberClasses
          layer={layer}
          look={look}
          slice={slice}
          unit={unit ?? null}
          decimals={
            look.kind === 'inside'
              ? look.of.measure === 'count'
                ? 0
                : 2
              : look.kind === 'density' && look.field === null
                ? 0
                : by?.kind === 'whole_number'
                  ? 0
                  : (by?.decimals ?? 2)
          }
          onChange={kept}
        />
      )}
      <Box sx={{ mt: 3 }}>
        {legend &&
          (look.kind === 'shades' || look.kind === 'crossed' ? (
            <Legend lines={legend} single={layer.design.title} />
          ) : (
            <PegLegend
              lines={legend}
              look={look}
              single={layer.design.title}
              unit={unit}
              onChange={onChange}
            />
          ))}
      </Box>
      {numbers.length > 0 && layer.design.geometry !== 'area' && look.kind !== 'density' && (
        <SizePart
          layer={layer}
          look={look}
          numbers={numbers}
          legend={sizes}
          onChange={(size, now) => {
            const { look: was, onChange: put } = latest.current
            put(size ? { ...was, size } : without(was, 'size'), now)
          }}
        />
      )}
      {look.kind !== 'density' && (
        <>
          {layer.design.geometry === 'point' || layer.design.geometry === undefined ? (
            <GatherPart layer={layer} look={look} numbers={numbers} photos={photos} onChange={onChange} />
          ) : (
            <StrokePart layer={layer} look={look} onChange={onChange} />
          )}
        </>
      )}
      {warnings.length > 0 && (
        <Box
          role="status"
          sx={{
            borderLeft: '4px solid',
            borderColor: 'secondary.main',
            pl: 3,
            mt: 3,
            display: 'grid',
            gap: 1,
          }}>
          {warnings.map((sentence) => (
            <Typography key={sentence} variant="body2">
              {sentence}
            </Typography>
          ))}
        </Box>
      )}
    </>
  )
}

/** The choice that a look stands for in the list. */
function chosen(look: Look): string {
  if (look.kind === 'single') return ''
  if (look.kind === 'category') return `category ${look.field}`
  return look.kind === 'classes' || look.kind === 'shades' ? `number ${look.field}` : look.kind
}
