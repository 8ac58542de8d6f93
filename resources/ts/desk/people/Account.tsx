import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { useState, type FormEvent } from 'react'
import { TextInput } from '../../shared/parts/Labelled'
import { Pill } from '../../shared/parts/Pill'
import { Problems } from '../../shared/parts/Problems'
import { Sheet } from '../../shared/parts/Sheet'
import { ago, t } from '../../shared/texts'
import type { Api, Me } from '../../shared/types'
import { TopBar } from '../TopBar'
import { Mails } from './Mails'
import { OwnLanguage } from './OwnLanguage'
import { OwnName } from './OwnName'
import { SecondFactor } from './SecondFactor'
import { changePassword, myDevices, signOutDevice } from '../queries/programmes'

type Device = Api['Device']

/** A person's own page: the name, the address, the language, the password, the second factor, and where one is signed in. */
export function Account({ me }: { me: Me }) {
  const demanded = me.second_demanded && !me.second_factor
  return (
    <>
      <TopBar me={me} />
      <Box
        component="main"
        sx={{
          p: { xs: 3, md: 5 },
          display: 'grid',
          gap: 4,
          gridTemplateColumns: { xs: 'minmax(0,1fr)', md: 'minmax(0,420px) minmax(0,1fr)' },
          alignItems: 'start',
        }}>
        <Box sx={{ gridColumn: '1 / -1', order: -2 }}>
          <Typography variant="h1">{me.name}</Typography>
          <Typography color="text.secondary">{me.email}</Typography>
        </Box>
        {demanded && (
          <Sheet tone="warn" sx={{ gridColumn: '1 / -1', order: -2 }}>
            <Typography role="status">{t('second.demanded')}</Typography>
          </Sheet>
        )}
        <Box sx={{ display: 'grid', gap: 4, minWidth: 0 }}>
          <OwnName me={me} />
          <Password />
        </Box>
        {/* In a narrow window what is asked for comes first. */}
        <Box sx={{ display: 'grid', gap: 4, minWidth: 0, order: demanded ? { xs: -1, md: 0 } : 0 }}>
          <OwnLanguage />
          <SecondFactor />
          <Mails me={me} />
          <Devices />
        </Box>
      </Box>
    </>
  )
}

function Password() {
  const [current, setCurrent] = useState('')
  const [password, setPassword] = useState('')
  const [done, setDone] = useState(false)
  const [error, setError] = useState<unknown>(null)
  const change = async (e: FormEvent) => {
    e.preventDefault()
    setDone(false)
    try {
      await changePassword({ current, password })
      setCurrent('')
      setPassword('')
      setError(null)
      setDone(true)
    } catch (caught) {
      setError(caught)
    }
  }
  return (
    <Sheet title={t('account.password')}>
      <Box component="form" onSubmit={change} sx={{ display: 'grid', gap: 3 }}>
        <TextInput
          label={t('account.current')}
          type="password"
          value={current}
          onChange={setCurrent}
          needed
          inputProps={{ autoComplete: 'current-password' }}
        />
        <TextInput
          label={t('account.new')}
          hint={t('join.hint')}
          type="password"
          value={password}
          onChange={setPassword}
          needed
          inputProps={{ autoComplete: 'new-password' }}
        />
        <Problems error={error} />
        {done && <Typography role="status">{t('account.changed')}</Typography>}
        <Button type="submit" disabled={!current || password.length < 12}>
          {t('account.change')}
        </Button>
      </Box>
    </Sheet>
  )
}

function Devices() {
  const devices = useQuery(myDevices())
  const [error, setError] = useState<unknown>(null)
  const end = (device: Device) =>
    signOutDevice(device.id)
      .then(() => setError(null), setError)
      .then(() => devices.refetch())
  return (
    <Sheet title={t('account.devices')}>
      <Problems error={error ?? devices.error} />
      <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {devices.data?.map((d) => (
          <Box
            component="li"
            key={d.id}
            sx={{
              display: 'flex',
              gap: 3,
              alignItems: 'center',
              justifyContent: 'space-between',
              py: 2,
              borderBottom: '1px solid',
              borderColor: 'divider',
            }}>
            <Box sx={{ minWidth: 0 }}>
              <b>{d.agent || t('account.unknown')}</b>
              <Typography variant="body2" color="text.secondary">
                {[d.address, t('account.seen', { ago: ago(d.seen_at) })].filter(Boolean).join(' · ')}
              </Typography>
            </Box>
            {d.here ? (
              <Pill tone="well">{t('account.here')}</Pill>
            ) : (
              <Button size="small" variant="outlined" color="inherit" onClick={() => void end(d)}>
                {t('account.end')}
              </Button>
            )}
          </Box>
        ))}
      </Box>
    </Sheet>
  )
}
