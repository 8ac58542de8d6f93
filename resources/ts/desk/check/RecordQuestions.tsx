import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import MuiLink from '@mui/material/Link'
import Typography from '@mui/material/Typography'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { TextInput } from '../../shared/parts/Labelled'
import { Problems } from '../../shared/parts/Problems'
import { ago, t } from '../../shared/texts'
import { useProgramme } from '../ProgrammePage'
import type { Api } from '../../shared/types'
import { keys } from '../queries/keys'
import { askBack, askedAbout, askedIn, closeQuestion } from '../queries/records'

export type AskedRow = Api['AskedRow']

/** What was asked about one record, and a line to ask more. */
export function AskedOf({
  layer,
  record,
  author,
  mayAsk,
}: {
  layer: number
  record: string
  author: string | null
  mayAsk: boolean
}) {
  const client = useQueryClient()
  const key = keys.asked(layer, record)
  const found = useQuery({
    queryKey: key,
    queryFn: () => askedAbout(layer, record),
    refetchInterval: 10_000,
  })
  const [text, setText] = useState('')
  const [error, setError] = useState<unknown>(null)
  const ask = async () => {
    try {
      await askBack(layer, record, { text })
      setText('')
      setError(null)
      await client.invalidateQueries({ queryKey: key })
    } catch (e) {
      setError(e)
    }
  }
  if (!mayAsk && !found.data?.length) return null
  return (
    <Box component="section" aria-label={t('asked.title')} sx={{ display: 'grid', gap: 2 }}>
      <Typography variant="h3">{t('asked.title')}</Typography>
      {found.data?.map((a) => (
        <Line
          key={a.id}
          asked={a}
          mayClose={mayAsk}
          onClosed={() => void client.invalidateQueries({ queryKey: key })}
        />
      ))}
      <Problems error={error ?? found.error} />
      {mayAsk && (
        <>
          <TextInput
            label={t('asked.text', { to: author ?? '–' })}
            hint={t('asked.hint')}
            value={text}
            onChange={setText}
            inputProps={{ maxLength: 500 }}
          />
          <Box>
            <Button size="small" variant="outlined" disabled={text.trim() === ''} onClick={() => void ask()}>
              {t('asked.send')}
            </Button>
          </Box>
        </>
      )}
    </Box>
  )
}

/** All that was asked back in a programme and is not closed; what was answered comes first. */
export function AskedAll() {
  const programme = useProgramme()
  const client = useQueryClient()
  const key = keys.askedOpen(programme.id)
  const found = useQuery({
    queryKey: key,
    queryFn: () => askedIn(programme.id),
    refetchInterval: 10_000,
  })
  const closed = async () => {
    await client.invalidateQueries({ queryKey: key })
    await client.invalidateQueries({ queryKey: keys.programme(programme.id) })
  }
  return (
    <Box sx={{ p: { xs: 3, md: 5 }, display: 'grid', gap: 4, alignContent: 'start', maxWidth: 760 }}>
      <Typography variant="h1">{t('asked.title')}</Typography>
      <Problems error={found.error} />
      {found.data?.length === 0 && <Typography>{t('asked.none')}</Typography>}
      {found.data?.map((a) => (
        <Box key={a.id}>
          <MuiLink component={Link} to={`/desk/p/${programme.id}/check?layer=${a.layer}&record=${a.record}`}>
            {a.name ?? t('record.unnamed')}
          </MuiLink>
          <Line asked={a} mayClose onClosed={() => void closed()} />
        </Box>
      ))}
    </Box>
  )
}

function Line({ asked, mayClose, onClosed }: { asked: AskedRow; mayClose: boolean; onClosed: () => void }) {
  const closing = useMutation({ mutationFn: () => closeQuestion(asked.id), onSuccess: onClosed })
  return (
    <Box sx={{ borderLeft: '3px solid', borderColor: 'divider', pl: 3, display: 'grid', gap: 1 }}>
      <Typography variant="body2" color="text.secondary">
        {t('asked.by', { by: asked.by ?? '–', to: asked.to ?? '–', ago: ago(asked.at) })}
        {asked.closed_at && ` · ${t('asked.closed')}`}
      </Typography>
      <Box>{asked.text}</Box>
      {asked.answer !== null && asked.answered_at ? (
        <Box>
          <Typography variant="body2" color="text.secondary">
            {t('asked.answer', { to: asked.to ?? '–', ago: ago(asked.answered_at) })}
          </Typography>
          <b>{asked.answer}</b>
        </Box>
      ) : (
        <Typography variant="body2" color="text.secondary">
          {t('asked.waiting')}
        </Typography>
      )}
      {mayClose && !asked.closed_at && (
        <Box>
          <Button
            size="small"
            variant="outlined"
            color="inherit"
            disabled={closing.isPending}
            onClick={() => closing.mutate()}>
            {t('asked.close')}
          </Button>
        </Box>
      )}
      <Problems error={closing.error} />
    </Box>
  )
}
