import Box from '@mui/material/Box'
import Radio from '@mui/material/Radio'
import Typography from '@mui/material/Typography'
import { paint } from '../../shared/paint'
import { formatInstant, t } from '../../shared/texts'
import { clashLabel, isLate, sideInWords, type Conflict, type Side } from './conflict'

/** What both say beside each other, to decide between; and what of one alone goes in beside it. */
export function ConflictSides({
  d,
  zone,
  choose,
  fixed,
  onChoose,
}: {
  d: Conflict
  zone: string
  choose: Record<string, Side>
  fixed: boolean
  onChoose: (key: string, side: Side) => void
}) {
  const merged = d.values.filter((v) => !d.clashes.some((c) => c.key === v.key))
  return (
    <>
      <Box
        component="table"
        sx={{
          width: '100%',
          borderCollapse: 'collapse',
          '& th, & td': {
            textAlign: 'left',
            verticalAlign: 'top',
            p: 3,
            borderBottom: '1px solid',
            borderColor: 'divider',
            fontWeight: 400,
          },
          '& thead th': { color: 'text.secondary', fontSize: '0.88rem', fontWeight: 650 },
          '& tbody th': { fontWeight: 700 },
        }}>
        <thead>
          <tr>
            <th scope="col" />
            <th scope="col">{t('decide.before')}</th>
            <th scope="col">
              {d.theirs_by
                ? t('decide.who', { who: d.theirs_by, at: formatInstant(d.theirs_at ?? d.received_at, zone) })
                : t('decide.there')}
            </th>
            <th scope="col">
              {t('decide.who', { who: d.by ?? '', at: formatInstant(d.captured_at, zone) })}
              {isLate(d) && (
                <>
                  <br />
                  {t('decide.late', { at: formatInstant(d.received_at, zone) })}
                </>
              )}
            </th>
          </tr>
        </thead>
        <tbody>
          {d.clashes.map((c) => (
            <tr key={c.key}>
              <th scope="row">{clashLabel(c)}</th>
              <td>{sideInWords(c, 'was')}</td>
              {(['theirs', 'mine'] as const).map((side) => (
                <td key={side}>
                  <Box
                    component="label"
                    sx={{
                      display: 'inline-flex',
                      alignItems: 'center',
                      pr: 3,
                      border: '2px solid',
                      borderColor: choose[c.key] === side ? 'primary.main' : 'divider',
                      bgcolor: choose[c.key] === side ? paint.kelpWash : 'background.paper',
                      borderRadius: 1.5,
                      fontWeight: choose[c.key] === side ? 700 : 400,
                      cursor: fixed ? 'default' : 'pointer',
                    }}>
                    <Radio
                      size="small"
                      name={`clash-${d.id}-${c.key}`}
                      checked={choose[c.key] === side}
                      disabled={fixed}
                      onChange={() => onChoose(c.key, side)}
                      inputProps={{ 'aria-label': `${clashLabel(c)}: ${sideInWords(c, side)}` }}
                    />
                    {sideInWords(c, side)}
                  </Box>
                </td>
              ))}
            </tr>
          ))}
          {merged.map((v) => (
            <tr key={v.key}>
              <th scope="row">{v.label}</th>
              <td>{v.was ?? '–'}</td>
              <td>
                <Typography variant="body2" color="text.secondary">
                  {t('decide.unchanged')}
                </Typography>
              </td>
              <td>{v.value ?? '–'}</td>
            </tr>
          ))}
        </tbody>
      </Box>
      <Typography variant="body2" color="text.secondary" sx={{ p: 3 }}>
        {t(merged.length > 0 ? 'decide.note.merged' : 'decide.note', {
          what: merged.map((v) => v.label).join(', '),
        })}
      </Typography>
    </>
  )
}
