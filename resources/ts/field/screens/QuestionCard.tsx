import Alert from '@mui/material/Alert'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useState } from 'react'
import { TextInput } from '../../shared/parts/Labelled'
import { t } from '../../shared/texts'
import { db, type RecordQuestion } from '../db'
import { syncNow } from '../sync/sync'

/** A question from the desk, and the answer; both without signal. */
export function QuestionCard({ asked, children }: { asked: RecordQuestion; children?: React.ReactNode }) {
  const [answer, setAnswer] = useState('')
  const send = async () => {
    await db.asked.update(asked.id, { answer: answer.trim(), answered_here: new Date().toISOString() })
    void syncNow()
  }
  return (
    <Alert
      severity="info"
      variant="outlined"
      sx={{ mb: 3, '& .MuiAlert-message': { flex: 1, display: 'grid', gap: 2 } }}>
      <Box>
        {t('asked.phone', { by: asked.by ?? '–', name: asked.name ?? t('record.unnamed') })}
        <Box sx={{ fontSize: '1.1rem', fontWeight: 650 }}>{asked.text}</Box>
      </Box>
      {asked.answered_here ? (
        <Box>
          {asked.answer}
          <Box sx={{ color: 'text.secondary' }}>{t('asked.phone.sent')}</Box>
        </Box>
      ) : (
        <>
          <TextInput
            label={t('asked.phone.answer')}
            value={answer}
            onChange={setAnswer}
            multiline
            minRows={2}
            inputProps={{ maxLength: 1000 }}
          />
          <Box sx={{ display: 'flex', gap: 2, '& button': { minHeight: 48 } }}>
            <Button disabled={answer.trim() === ''} onClick={() => void send()}>
              {t('asked.phone.send')}
            </Button>
            {children}
          </Box>
        </>
      )}
    </Alert>
  )
}
