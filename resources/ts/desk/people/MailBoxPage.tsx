import Box from '@mui/material/Box'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { Problems } from '../../shared/parts/Problems'
import { Empty, Sheet } from '../../shared/parts/Sheet'
import { formatInstant, t } from '../../shared/texts'
import type { Me } from '../../shared/types'
import { TopBar } from '../TopBar'
import { mailBox } from '../queries/programmes'

/** What would have been mailed, in the demo; addresses in it can be followed. */
export function MailBoxPage({ me }: { me: Me }) {
  const mails = useQuery({ ...mailBox(), refetchInterval: 5_000 })
  return (
    <>
      <TopBar me={me} />
      <Box
        component="main"
        sx={{
          p: { xs: 3, md: 5 },
          display: 'grid',
          gap: 4,
          maxWidth: 860,
          gridTemplateColumns: 'minmax(0,1fr)',
        }}>
        <Box>
          <Typography variant="h1">{t('mailbox.title')}</Typography>
          <Typography color="text.secondary">{t('mailbox.lead')}</Typography>
        </Box>
        <Problems error={mails.error} />
        {mails.data?.length === 0 && <Empty title={t('mailbox.empty')}>{t('mailbox.empty.text')}</Empty>}
        {mails.data?.map((m) => (
          <Sheet key={m.id} title={m.subject}>
            <Typography variant="body2" color="text.secondary">
              {t('mailbox.to', { to: m.to, at: formatInstant(m.sent_at) })}
            </Typography>
            <Box sx={{ whiteSpace: 'pre-wrap', overflowWrap: 'anywhere', mt: 2 }}>
              {m.text.split(/(https?:\/\/\S+)/).map((part, i) =>
                i % 2 ? (
                  <a key={part} href={part}>
                    {part}
                  </a>
                ) : (
                  part
                ),
              )}
            </Box>
          </Sheet>
        ))}
      </Box>
    </>
  )
}
