import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Link from '@mui/material/Link'
import Typography from '@mui/material/Typography'
import { useInfiniteQuery } from '@tanstack/react-query'
import { Link as RouterLink } from 'react-router'
import { Problems } from '../../shared/parts/Problems'
import { Sheet } from '../../shared/parts/Sheet'
import { formatInstant, t } from '../../shared/texts'
import { useProgramme } from '../ProgrammePage'
import { auditOf } from '../queries/programmes'
import { auditText } from './auditText'

/** What was done about rights, links, files and sign-ins, newest first. */
export function AuditPage() {
  const programme = useProgramme()
  const pages = useInfiniteQuery(auditOf(programme.id))
  const entries = pages.data?.pages.flatMap((p) => p.entries) ?? []
  return (
    <Box sx={{ p: { xs: 3, md: 5 }, display: 'grid', gap: 4, maxWidth: 1000 }}>
      <Box>
        <Typography variant="caption" sx={{ fontWeight: 600 }}>
          <Link component={RouterLink} to={`/desk/p/${programme.id}/people`}>
            {t('people.title')}
          </Link>
        </Typography>
        <Typography variant="h1">{t('audit.title')}</Typography>
        <Typography color="text.secondary">{t('audit.lead')}</Typography>
      </Box>
      <Problems error={pages.error} />
      {pages.data && (
        <Sheet>
          {entries.length === 0 && <Typography color="text.secondary">{t('audit.none')}</Typography>}
          <Box component="ol" sx={{ m: 0, p: 0, listStyle: 'none' }}>
            {entries.map((e) => (
              <Box
                component="li"
                key={e.id}
                sx={{
                  display: 'grid',
                  gridTemplateColumns: { xs: 'minmax(0, 1fr)', sm: '170px minmax(0, 1fr)' },
                  columnGap: 4,
                  py: 2,
                  borderTop: '1px solid',
                  borderColor: 'divider',
                  overflowWrap: 'anywhere',
                  '&:first-of-type': { borderTop: 0 },
                }}>
                <Box component="time" dateTime={e.at} sx={{ color: 'text.secondary', fontSize: '0.9rem' }}>
                  {formatInstant(e.at, programme.time_zone)}
                </Box>
                <span>
                  {e.kind === 'sign_in_failed' ? (
                    auditText(e)
                  ) : (
                    <>
                      <b>{e.who || t('audit.nobody')}</b> {auditText(e)}
                    </>
                  )}
                </span>
              </Box>
            ))}
          </Box>
          {pages.hasNextPage && (
            <Button
              variant="outlined"
              sx={{ mt: 3 }}
              disabled={pages.isFetchingNextPage}
              onClick={() => void pages.fetchNextPage()}>
              {t('audit.more')}
            </Button>
          )}
        </Sheet>
      )}
    </Box>
  )
}
