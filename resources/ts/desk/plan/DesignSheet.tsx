import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { paint } from '../../shared/paint'
import { Problems } from '../../shared/parts/Problems'
import { t } from '../../shared/texts'
import { HEAD_FONT } from '../../shared/theme'
import type { Design, Field } from '../../shared/types'
import { useProgramme } from '../ProgrammePage'
import { designSheetOf } from '../queries/plan'

/** All layers as a diagram and as a data dictionary: to agree on, to print, to hand over as an open file. */
export function DesignSheet() {
  const programme = useProgramme()
  const address = `/programmes/${programme.id}/designs.json`
  const sheet = useQuery(designSheetOf(programme.id))
  if (sheet.error)
    return (
      <Box sx={{ p: 5 }}>
        <Problems error={sheet.error} />
      </Box>
    )
  if (!sheet.data) return null
  // Visits stand behind what is visited.
  const layers = sheet.data.layers
    .filter((l) => !l.visits_of)
    .flatMap((l) => [l, ...sheet.data.layers.filter((v) => v.visits_of === l.title)])
  const table = () => {
    const url = URL.createObjectURL(new Blob([`\uFEFF${asCsv(layers)}`], { type: 'text/csv' }))
    Object.assign(document.createElement('a'), {
      href: url,
      download: `${programme.name}-designs.csv`,
    }).click()
    setTimeout(() => URL.revokeObjectURL(url), 10_000)
  }
  return (
    <Box sx={{ p: { xs: 3, md: 5 }, overflow: 'auto' }}>
      <Box
        sx={{
          display: 'flex',
          justifyContent: 'space-between',
          alignItems: 'end',
          gap: 3,
          mb: 4,
          flexWrap: 'wrap',
        }}>
        <Box>
          <Typography variant="h1">
            {t('sheet.title')}: {sheet.data.programme}
          </Typography>
          <Typography color="text.secondary">{sheet.data.purpose || t('sheet.lead')}</Typography>
        </Box>
        <Box className="no-print" sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
          <Button variant="outlined" onClick={() => window.print()}>
            {t('sheet.print')}
          </Button>
          <Button variant="outlined" onClick={table} disabled={layers.length === 0}>
            {t('sheet.table')}
          </Button>
          <Button
            variant="outlined"
            component="a"
            href={`/api/v1/programmes/${programme.id}/designs.xlsx`}
            download>
            {t('sheet.xlsx')}
          </Button>
          <Button component="a" href={`/api/v1${address}`} download>
            {t('sheet.file')}
          </Button>
        </Box>
      </Box>
      {layers.length === 0 && <Typography>{t('sheet.none')}</Typography>}
      <Box sx={{ display: 'flex', gap: 4, flexWrap: 'wrap', mb: 5 }}>
        {layers.map((layer) => (
          <Paper key={layer.title} variant="outlined" sx={{ width: 260, overflow: 'hidden' }}>
            <Box
              sx={{
                bgcolor: paint.kelp,
                color: paint.white,
                px: 3,
                py: 1.5,
                fontFamily: HEAD_FONT,
                fontWeight: 700,
              }}>
              {layer.title}
              <Box component="span" sx={{ display: 'block', fontSize: '0.82rem', fontWeight: 500 }}>
                {layer.visits_of
                  ? t('sheet.visits', { layer: layer.visits_of })
                  : t(`sheet.geometry.${layer.geometry}`)}
              </Box>
            </Box>
            <Box
              component="dl"
              sx={{
                m: 0,
                px: 3,
                py: 2,
                display: 'grid',
                gridTemplateColumns: '1fr auto',
                gap: 0.75,
                fontSize: '0.88rem',
                '& dd': { m: 0, color: 'text.secondary' },
              }}>
              {layer.fields
                .filter((f) => f.kind !== 'heading')
                .map((f) => (
                  <Box key={f.key} sx={{ display: 'contents' }}>
                    <dt>{f.label}</dt>
                    <dd>{t(`kind.${f.kind}`).toLowerCase()}</dd>
                  </Box>
                ))}
            </Box>
          </Paper>
        ))}
      </Box>
      {layers.map((layer) => (
        <Box key={layer.title} sx={{ mb: 5, breakInside: 'avoid-page' }}>
          <Typography variant="h2">{layer.title}</Typography>
          <Typography color="text.secondary" sx={{ mb: 2 }}>
            {layer.purpose}
          </Typography>
          <Box sx={{ overflowX: 'auto' }}>
            <Box
              component="table"
              sx={{
                width: '100%',
                borderCollapse: 'collapse',
                bgcolor: 'background.paper',
                fontSize: '0.92rem',
                '& th, & td': {
                  border: `1px solid ${paint.line}`,
                  p: 1.75,
                  textAlign: 'left',
                  verticalAlign: 'top',
                },
                '& th': { bgcolor: paint.sand },
              }}>
              <thead>
                <tr>
                  {(['field', 'key', 'kind', 'rule', 'values'] as const).map((h) => (
                    <th key={h} scope="col">
                      {t(`sheet.${h}`)}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {layer.fields.map((f) =>
                  f.kind === 'heading' ? (
                    <tr key={f.key}>
                      <td colSpan={5}>
                        <b>{f.label}</b>
                      </td>
                    </tr>
                  ) : (
                    <tr key={f.key}>
                      <td>
                        <b>{f.label}</b>
                        {f.hint && <div>{f.hint}</div>}
                      </td>
                      <td>
                        <code>{f.key}</code>
                      </td>
                      <td>{t(`kind.${f.kind}`)}</td>
                      <td>{rules(f).join('; ')}</td>
                      <td>{values(f)}</td>
                    </tr>
                  ),
                )}
              </tbody>
            </Box>
          </Box>
          <Typography variant="body2" sx={{ mt: 1 }}>
            {[
              layer.visits_of
                ? t('sheet.visits', { layer: layer.visits_of })
                : t(`sheet.geometry.${layer.geometry}`),
              layer.altitude && t('sheet.altitude', { unit: layer.altitude.unit }),
              ...(layer.slots ?? []).map((slot) => `${slot.label}: ${t(`slots.kind.${slot.kind}`)}`),
            ]
              .filter(Boolean)
              .join(' · ')}
          </Typography>
          {layer.photos.allowed && (
            <Typography variant="body2" sx={{ mt: 1 }}>
              {t('sheet.photos', { least: layer.photos.least, most: layer.photos.most })}
            </Typography>
          )}
        </Box>
      ))}
    </Box>
  )
}

function rules(f: Field): string[] {
  const { lowest, highest, outside } = f.limits ?? {}
  return [
    f.required ? t('sheet.needed') : '',
    f.require_when ? t('sheet.neededwhen', { when: f.require_when }) : '',
    f.show_when ? t('sheet.shown', { when: f.show_when }) : '',
    lowest !== undefined || highest !== undefined
      ? t('sheet.between', { lowest: lowest ?? '…', highest: highest ?? '…' }) +
        (outside === 'ask' ? ` (${t('sheet.asks')})` : '')
      : '',
    f.unit ?? '',
    f.shape ?? '',
    f.formula ? `= ${f.formula}` : '',
  ].filter(Boolean)
}

const values = (f: Field) => f.choices?.map((c) => `${c.code} ${c.label}`).join('; ') ?? ''

/**
 * RFC 4180, with heads that can be read back; a cell that a spreadsheet would take for a formula is kept from
 * it.
 */
function asCsv(layers: Design[]): string {
  const cell = (text: string) => `"${(/^[=+\-@\t\r]/.test(text) ? `'${text}` : text).replaceAll('"', '""')}"`
  const rows = layers.flatMap((l) =>
    l.fields.map((f) => [
      l.title,
      f.label,
      f.key,
      t(`kind.${f.kind}`),
      f.required ? 'yes' : '',
      f.unit ?? '',
      String(f.limits?.lowest ?? ''),
      String(f.limits?.highest ?? ''),
      f.limits?.outside ?? '',
      f.most ? String(f.most) : '',
      f.shape ?? '',
      f.show_when ?? '',
      f.require_when ?? '',
      f.formula ?? '',
      f.choices?.map((c) => `${c.code} = ${c.label}`).join('; ') ?? '',
      f.hint ?? '',
    ]),
  )
  return [
    [
      'Layer',
      'Field',
      'Key',
      'Kind',
      'Required',
      'Unit',
      'Lowest',
      'Highest',
      'Outside',
      'Most characters',
      'Written as',
      'Shown when',
      'Needed when',
      'Formula',
      'Choices',
      'Hint',
    ],
    ...rows,
  ]
    .map((r) => r.map(cell).join(','))
    .join('\r\n')
}
