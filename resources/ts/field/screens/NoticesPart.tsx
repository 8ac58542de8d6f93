import Alert from '@mui/material/Alert'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useLiveQuery } from 'dexie-react-hooks'
import { useNavigate } from 'react-router'
import { ago, t } from '../../shared/texts'
import { db, type PhoneNotice } from '../db'
import { syncNow } from '../sync/sync'

/** What alerts of the programmes told, the newest first; read without signal too. */
export function NoticesPart() {
  const notices = useLiveQuery(() =>
    db.notices
      .filter((n) => n.read_here === undefined)
      .reverse()
      .toArray(),
  )
  return notices?.map((notice) => <OneNotice key={notice.id} notice={notice} />)
}

function OneNotice({ notice }: { notice: PhoneNotice }) {
  const navigate = useNavigate()
  // Of another crew's part, or outside of what this phone took, a record is not here.
  const here = useLiveQuery(
    async () =>
      (await db.records.bulkGet(notice.records.map((r) => r.id)))
        .filter((r) => r && !r.gone)
        .map((r) => r!.id),
    [notice],
  )
  const read = async () => {
    await db.notices.update(notice.id, { read_here: new Date().toISOString() })
    void syncNow()
  }
  return (
    <Alert
      severity="info"
      variant="outlined"
      data-testid="notice"
      sx={{ mb: 3, '& .MuiAlert-message': { flex: 1, minWidth: 0, display: 'grid', gap: 2 } }}>
      <Box sx={{ overflowWrap: 'anywhere' }}>
        <Box sx={{ fontWeight: 650 }}>{notice.text}</Box>
        <Box sx={{ color: 'text.secondary' }}>
          {notice.programme_name}, {ago(notice.at)}
        </Box>
      </Box>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 2, '& button': { minHeight: 48 } }}>
        {notice.records.map((record) =>
          here?.includes(record.id) ? (
            <Button
              key={record.id}
              variant="outlined"
              color="inherit"
              onClick={() => void navigate(`/field/record/${record.id}`)}>
              {record.name ?? t('record.unnamed')}
            </Button>
          ) : (
            <Box key={record.id} sx={{ alignSelf: 'center' }}>
              {record.name ?? t('record.unnamed')}
            </Box>
          ),
        )}
        <Button onClick={() => void read()}>{t('note.read')}</Button>
      </Box>
    </Alert>
  )
}
