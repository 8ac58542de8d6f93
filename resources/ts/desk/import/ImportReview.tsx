import Alert from '@mui/material/Alert'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import FormControlLabel from '@mui/material/FormControlLabel'
import Switch from '@mui/material/Switch'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { Link, useNavigate } from 'react-router'
import { paint } from '../../shared/paint'
import { sentences } from '../../shared/api'
import { BenchShowing } from '../../shared/parts/BenchShowing'
import { TextInput } from '../../shared/parts/Labelled'
import { Pill } from '../../shared/parts/Pill'
import { Sheet } from '../../shared/parts/Sheet'
import { formatDate, formatNumber, t } from '../../shared/texts'
import { useProgramme } from '../ProgrammePage'
import { Choose } from './Choose'
import { Changes } from './UpdateChanges'
import { ColumnHead } from './ColumnHead'
import { ID_KEY, type Import, type Settings } from './import'
import { LocationPart } from './LocationPart'
import { useImportSettings } from './useImportSettings'
import { layerOf, layersOf } from '../queries/layers'
import { cancelImport, landImport, settingsInto } from '../queries/imports'

/**
 * The file as it will arrive: every column with what it was taken for, doubts marked in place, and where the
 * rows will fall.
 */
export function ImportReview({
  found,
  begun,
  onChanged,
}: {
  found: Import
  /** What was chosen while it was being read. */ begun: Settings | null
  onChanged: (next: Import, settings: Settings | null) => void
}) {
  const programme = useProgramme()
  const navigate = useNavigate()
  const { settings, setSettings, review, said, setSaid, busy } = useImportSettings(found, begun, onChanged)
  const columns = found.reading!.columns
  const layers = useQuery(layersOf(programme.id))
  const into = useQuery({
    ...layerOf(settings.layer),
    enabled: settings.mode !== 'new' && settings.layer !== null,
  })

  const change = (part: Partial<Settings>) => setSettings((s) => ({ ...s, ...part }))
  const column = (i: number, part: Partial<Settings['columns'][number]>) =>
    change({ columns: settings.columns.map((c, j) => (j === i ? { ...c, ...part } : c)) })
  const target = async (value: string) => {
    if (value === 'new')
      return change({
        mode: 'new',
        layer: null,
        key_column: null,
        title: found.settings!.title,
        columns: settings.columns.map((c, i) => ({
          ...c,
          key: found.settings!.columns[i]?.key ?? c.key,
          kind: columns[i]?.kind ?? c.kind,
          take: true,
        })),
      })
    const proposed = await settingsInto(found.id, value, {})
    setSettings({ ...proposed, layer: Number(value) })
  }
  const land = async () => {
    try {
      onChanged(await landImport(found.id), null)
    } catch (e) {
      setSaid(sentences(e))
    }
  }
  const leave = async () => {
    onChanged(await cancelImport(found.id), null)
    await navigate(`/desk/p/${programme.id}/build/bring`)
  }
  const rows = found.reading!.rows
  const sampled = review !== null && review.tried < rows
  const ready = review ? (sampled ? rows : review.ready) : 0
  const open = review?.undecided ?? []
  const tables = (found.source?.tables ?? []).filter((x) => x.rows > 0)
  const corrected = review
    ? (['swapped', 'sign', 'matched', 'outside', 'emptied', 'clock'] as const).filter(
        (k) => review.corrections[k] > 0,
      )
    : []
  return (
    <BenchShowing
      benchWidth="minmax(0,2.1fr)"
      bench={
        <Box sx={{ display: 'grid', gap: 3, gridTemplateColumns: 'minmax(0,1fr)' }}>
          <Box
            sx={{
              display: 'flex',
              justifyContent: 'space-between',
              alignItems: 'end',
              gap: 3,
              flexWrap: 'wrap',
            }}>
            <Box sx={{ minWidth: 0 }}>
              <Typography variant="body2" color="text.secondary" sx={{ overflowWrap: 'anywhere' }}>
                <Link to={`/desk/p/${programme.id}/build/bring`} style={{ color: 'inherit' }}>
                  {t('bring.title')}
                </Link>{' '}
                › {found.files[0]?.name}
                {found.files.length > 1 ? ` +${found.files.length - 1}` : ''} ·{' '}
                {t('bring.rows', { n: formatNumber(rows) })}
              </Typography>
              <Typography variant="h1">{t('bring.check')}</Typography>
            </Box>
            <Box sx={{ display: 'flex', gap: 2 }}>
              <Button variant="outlined" onClick={() => void leave()}>
                {t('bring.leaveit')}
              </Button>
              <Button disabled={busy || said.length > 0 || open.length > 0} onClick={() => void land()}>
                {settings.mode === 'attach'
                  ? t('bring.land.attach', { n: review?.placed ?? 0 })
                  : settings.mode === 'update' && review?.update
                    ? t('bring.update', { n: review.update.changed + review.update.added })
                    : rows === 0
                      ? t('bring.land.empty')
                      : t(settings.mode === 'new' ? 'bring.land.new' : 'bring.land.into', {
                          n: formatNumber(ready),
                          count: ready,
                        })}
              </Button>
            </Box>
          </Box>
          <Box role="status" sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
            {review && (
              <Pill tone="well">
                {t('bring.ready', { n: formatNumber(review.ready), count: review.ready })}
              </Pill>
            )}
            {Boolean(review?.waiting) && (
              <Pill tone="soft">
                {t('bring.willwait', { n: formatNumber(review!.waiting), count: review!.waiting })}
              </Pill>
            )}
            {sampled && <Pill>{t('bring.sampled', { n: formatNumber(review.tried) })}</Pill>}
            {corrected.map((k) => (
              <Pill key={k} tone="info">
                {t(`bring.corrected.${k}`, { n: review!.corrections[k] })}
                {sampled && ` ${t('bring.corrected.sampled', { n: formatNumber(review!.tried) })}`}
              </Pill>
            ))}
            <Pill>{settings.zone}</Pill>
          </Box>
          {said.map((line) => (
            <Alert key={line} severity="error" variant="outlined">
              {line}
            </Alert>
          ))}
          {open.map((i) => (
            <AskOrder
              key={i}
              column={columns[i]?.name ?? ''}
              sample={columns[i]?.samples[0] ?? ''}
              onChoose={(order) => column(i, { order })}
            />
          ))}
          {found.reading!.notes.length > 0 && (
            <Alert severity="info" variant="outlined" sx={{ py: 0 }}>
              {found.reading!.notes.map((line) => (
                <div key={line}>{line}</div>
              ))}
            </Alert>
          )}
          <Sheet
            sx={{
              display: 'grid',
              gap: 3,
              gridTemplateColumns: { xs: 'minmax(0,1fr)', sm: 'repeat(auto-fit, minmax(240px, 1fr))' },
              alignItems: 'end',
            }}>
            <Choose
              label={t('bring.target')}
              value={settings.mode === 'new' ? 'new' : String(settings.layer)}
              onChange={(v) => void target(v)}
              options={[
                ['new', t('bring.target.new')],
                ...(layers.data ?? [])
                  .filter((l) => l.visits_of === null)
                  .map((l): [string, string] => [String(l.id), t('bring.target.into', { layer: l.title })]),
              ]}
            />
            {settings.mode === 'new' ? (
              <TextInput
                label={t('bring.name')}
                value={settings.title}
                onChange={(title) => change({ title })}
              />
            ) : (
              <Choose
                label={t('bring.how')}
                value={settings.mode}
                onChange={(mode) =>
                  change({
                    mode: mode as Settings['mode'],
                    key_column:
                      mode === 'update'
                        ? settings.columns.findIndex((c) => c.key === ID_KEY || c.take)
                        : null,
                  })
                }
                options={[
                  ['append', t('bring.how.append')],
                  ['update', t('bring.how.update')],
                  ...(found.source?.kind === 'photos'
                    ? [['attach', t('bring.how.attach')] as [string, string]]
                    : []),
                ]}
              />
            )}
            {settings.mode === 'attach' && (
              <TextInput
                label={t('bring.within')}
                type="number"
                value={settings.within}
                onChange={(v) => change({ within: Number(v) || 1 })}
              />
            )}
            {settings.mode === 'update' && (
              <Choose
                label={t('bring.key')}
                value={String(settings.key_column ?? '')}
                onChange={(v) => change({ key_column: Number(v) })}
                options={settings.columns.flatMap((c, i): [string, string][] =>
                  c.key === ID_KEY
                    ? [[String(i), t('bring.key.id')]]
                    : c.take
                      ? [[String(i), columns[i]?.name ?? c.label]]
                      : [],
                )}
              />
            )}
            {settings.mode === 'update' && (
              <Choose
                label={t('bring.empties')}
                value={settings.empties ?? 'leave'}
                onChange={(v) => change({ empties: v as Settings['empties'] })}
                options={[
                  ['leave', t('bring.empties.leave')],
                  ['clear', t('bring.empties.clear')],
                ]}
              />
            )}
            {settings.mode === 'update' && (
              <Choose
                label={t('bring.conflicts')}
                value={settings.conflicts ?? 'wait'}
                onChange={(v) => change({ conflicts: v as Settings['conflicts'] })}
                options={[
                  ['wait', t('bring.conflicts.wait')],
                  ['take', t('bring.conflicts.take')],
                ]}
              />
            )}
            {tables.length > 1 && (
              <Choose
                label={t('bring.sheet')}
                value={found.source?.table ?? ''}
                onChange={(table) => change({ table, head_row: 1 })}
                options={tables.map((x) => [x.name, x.name])}
              />
            )}
          </Sheet>
          {Object.entries(review?.new_choices ?? {}).map(([key, labels]) => (
            <Alert key={key} severity="warning" variant="outlined">
              {t('bring.newchoices', {
                field: into.data?.design.fields.find((f) => f.key === key)?.label ?? key,
                labels: labels.slice(0, 8).join(', '),
                n: labels.length,
              })}
              <FormControlLabel
                sx={{ display: 'block', ml: 0 }}
                control={
                  <Switch checked={settings.new_choices} onChange={(_, on) => change({ new_choices: on })} />
                }
                label={t('bring.newchoices.take')}
              />
            </Alert>
          ))}
          {review?.update ? <Changes update={review.update} /> : null}
          <Box
            sx={{
              overflowX: 'auto',
              bgcolor: 'background.paper',
              border: '1px solid',
              borderColor: 'divider',
              borderRadius: 1.5,
              opacity: busy ? 0.75 : 1,
            }}>
            <Box
              component="table"
              aria-label={t('bring.table')}
              sx={{
                borderCollapse: 'collapse',
                fontSize: '0.9rem',
                fontVariantNumeric: 'tabular-nums',
                minWidth: '100%',
                '& th, & td': {
                  textAlign: 'left',
                  px: 2,
                  py: 1.25,
                  borderBottom: '1px solid',
                  borderRight: '1px solid',
                  borderColor: 'divider',
                  verticalAlign: 'top',
                  whiteSpace: 'nowrap',
                  maxWidth: 240,
                  overflow: 'hidden',
                  textOverflow: 'ellipsis',
                },
                '& th': { bgcolor: paint.band, fontWeight: 400 },
              }}>
              <thead>
                <tr>
                  {columns.map((c, i) => (
                    <ColumnHead
                      key={c.name}
                      found={c}
                      index={i}
                      settings={settings}
                      unfit={review?.unfit[i]?.count ?? 0}
                      undecided={open.includes(i)}
                      into={settings.mode === 'new' ? null : (into.data?.design ?? null)}
                      onChange={(part) => column(i, part)}
                    />
                  ))}
                </tr>
              </thead>
              <tbody>
                {(review?.rows ?? []).slice(0, 14).map((row) => (
                  <tr key={row.row}>
                    {columns.map((c, i) => {
                      const place =
                        settings.location.columns.includes(i) &&
                        row.place === null &&
                        settings.location.way !== 'none'
                      const bad =
                        row.bad[i] ??
                        (place ? row.problems.find((p) => p.field === 'place')?.message : undefined)
                      const left =
                        !settings.columns[i]?.take &&
                        !settings.location.columns.includes(i) &&
                        !settings.columns.some((x) => x.take && x.with === i)
                      return (
                        <Box
                          component="td"
                          key={c.name}
                          title={bad ?? undefined}
                          sx={{
                            ...(bad
                              ? { bgcolor: paint.buoyWash, color: paint.buoyDark, fontWeight: 700 }
                              : {}),
                            ...(left ? { color: 'text.disabled' } : {}),
                          }}>
                          {row.cells[i]}
                          {bad && <span className="visually-hidden"> ({bad})</span>}
                        </Box>
                      )
                    })}
                  </tr>
                ))}
              </tbody>
            </Box>
          </Box>
          {Boolean(review?.why.length) && (
            <Box
              sx={{ display: 'grid', gap: 3, gridTemplateColumns: { xs: 'minmax(0,1fr)', sm: '1fr 1fr' } }}>
              {review!.why.slice(0, 6).map((w) => (
                <Sheet key={w.code} tone="warn">
                  <b>{t('bring.whyrows', { n: w.count })}</b>
                  <Typography>{w.message}</Typography>
                </Sheet>
              ))}
            </Box>
          )}
          <FormControlLabel
            control={
              <Switch
                checked={settings.unfit === 'empty'}
                onChange={(_, on) => change({ unfit: on ? 'empty' : 'wait' })}
              />
            }
            label={t('bring.unfit')}
          />
        </Box>
      }
      showing={<LocationPart found={found} settings={settings} review={review} onChange={change} />}
    />
  )
}

/** 03/04 is two days; nobody but the person who brings it in knows which. */
function AskOrder({
  column,
  sample,
  onChoose,
}: {
  column: string
  sample: string
  onChoose: (order: 'dmy' | 'mdy') => void
}) {
  const [a = '', b = '', c = ''] = /^(\d{1,2})\D(\d{1,2})\D(\d{2,4})/.exec(sample)?.slice(1) ?? []
  const year = c.length === 2 ? `20${c}` : c
  const shown = (day: string, month: string) =>
    a && Number(month) <= 12 ? formatDate(`${year}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`) : null
  return (
    <Alert severity="warning" variant="outlined" sx={{ alignItems: 'center' }}>
      {t('bring.order.question', { column, sample })}
      <Box sx={{ display: 'flex', gap: 2, mt: 1 }}>
        <Button size="small" onClick={() => onChoose('dmy')}>
          {shown(a, b) ?? t('bring.order.dmy')}
        </Button>
        <Button size="small" onClick={() => onChoose('mdy')}>
          {shown(b, a) ?? t('bring.order.mdy')}
        </Button>
      </Box>
    </Alert>
  )
}
