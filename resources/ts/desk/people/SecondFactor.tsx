import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState, type FormEvent } from 'react'
import { TextInput } from '../../shared/parts/Labelled'
import { Pill } from '../../shared/parts/Pill'
import { Problems } from '../../shared/parts/Problems'
import { QrCode } from '../../shared/parts/QrCode'
import { Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import type { Api } from '../../shared/types'
import { keys } from '../queries/keys'
import { beginSecondFactor, confirmSecondFactor, endSecondFactor, whoAmI } from '../queries/programmes'

/** A code of an authenticator app beside the password: set up, proved, and ended again. */
export function SecondFactor() {
  const client = useQueryClient()
  const me = useQuery({ queryKey: keys.me, queryFn: whoAmI })
  const [begun, setBegun] = useState<Api['SecondBegun'] | null>(null)
  const [codes, setCodes] = useState<string[] | null>(null)
  const [typed, setTyped] = useState('')
  const [error, setError] = useState<unknown>(null)
  const [busy, setBusy] = useState(false)
  const on = me.data?.second_factor === true
  const run = async (work: () => Promise<void>) => {
    if (busy) return
    setBusy(true)
    setError(null)
    await work().then(() => setTyped(''), setError)
    setBusy(false)
  }
  const submit = (e: FormEvent) => {
    e.preventDefault()
    void run(async () => {
      if (on) {
        await endSecondFactor(typed)
        setCodes(null)
      } else if (begun) {
        setCodes((await confirmSecondFactor(typed)).codes)
        setBegun(null)
      } else {
        setBegun(await beginSecondFactor(typed))
        return
      }
      await client.invalidateQueries({ queryKey: keys.me })
    })
  }
  return (
    <Sheet
      title={t('second.title')}
      action={<Pill tone={on ? 'well' : 'plain'}>{t(on ? 'second.on' : 'second.off')}</Pill>}>
      <Box component="form" onSubmit={submit} sx={{ display: 'grid', gap: 3 }}>
        <Typography variant="body2" color="text.secondary">
          {t(on ? 'second.on.what' : begun ? 'second.begun.what' : 'second.off.what')}
        </Typography>
        {codes && <Codes codes={codes} />}
        {begun && <Secret begun={begun} />}
        {begun ? (
          <TextInput
            label={t('second.code')}
            value={typed}
            onChange={setTyped}
            needed
            autoFocus
            inputProps={{ autoComplete: 'one-time-code', inputMode: 'numeric', maxLength: 12 }}
          />
        ) : (
          <TextInput
            label={t('account.current')}
            type="password"
            value={typed}
            onChange={setTyped}
            needed
            inputProps={{ autoComplete: 'current-password' }}
          />
        )}
        <Problems error={error} />
        <Button
          type="submit"
          variant={on ? 'outlined' : 'contained'}
          color={on ? 'inherit' : 'primary'}
          disabled={!typed || busy}>
          {t(on ? 'second.end' : begun ? 'second.confirm' : 'second.begin')}
        </Button>
      </Box>
    </Sheet>
  )
}

function Secret({ begun }: { begun: Api['SecondBegun'] }) {
  return (
    <Box sx={{ display: 'flex', gap: 3, flexWrap: 'wrap', alignItems: 'start' }}>
      <QrCode value={begun.address} size={148} title={t('second.qr')} />
      <Box sx={{ flex: '1 1 160px', minWidth: 0 }}>
        <Typography variant="body2" color="text.secondary">
          {t('second.byhand')}
        </Typography>
        <Box component="code" data-testid="secret" sx={{ wordBreak: 'break-all' }}>
          {begun.secret.replace(/(.{4})(?=.)/g, '$1 ')}
        </Box>
      </Box>
    </Box>
  )
}

function Codes({ codes }: { codes: string[] }) {
  return (
    <Box role="status" sx={{ border: '1px solid', borderColor: 'secondary.main', borderRadius: 1, p: 3 }}>
      <Typography sx={{ fontWeight: 650 }}>{t('second.codes')}</Typography>
      <Box
        component="ul"
        sx={{
          listStyle: 'none',
          m: 0,
          mt: 2,
          p: 0,
          display: 'grid',
          gridTemplateColumns: 'repeat(auto-fill, minmax(150px, 1fr))',
          gap: 1,
        }}>
        {codes.map((c) => (
          <Box component="li" key={c} sx={{ fontFamily: 'monospace', fontSize: '1rem' }}>
            {c}
          </Box>
        ))}
      </Box>
    </Box>
  )
}
