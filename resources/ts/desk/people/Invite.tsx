import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Typography from '@mui/material/Typography'
import { useQueryClient } from '@tanstack/react-query'
import { useRef, useState, type FormEvent } from 'react'
import { Labelled, TextInput } from '../../shared/parts/Labelled'
import { Problems } from '../../shared/parts/Problems'
import { Segments } from '../../shared/parts/Segments'
import { Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import type { Api, Role } from '../../shared/types'
import { keys } from '../queries/keys'
import { inviteMany, invitePerson, inviteSeveral } from '../queries/programmes'
import { Address } from './Address'
import { InvitedLines } from './InvitedLines'

export const ROLES: readonly Role[] = ['crew', 'guest', 'maker', 'coordinator']
const MANY: readonly Role[] = ['crew', 'guest']

type Props = { programme: number; crews: string[]; groups: Api['Group'][] }

const BLANK = {
  name: '',
  email: '',
  text: '',
  role: 'crew' as Role,
  makes: false,
  crew: '',
  groups: [] as number[],
  most: 30,
}

/** One person, a pasted list, or whoever is given one link or code. */
type How = 'one' | 'several' | 'many'

/** Asks one person into a programme, everybody in a pasted list, or many by one link. */
export function Invite({ programme, crews, groups }: Props) {
  const client = useQueryClient()
  const [how, setHow] = useState<How>('one')
  const several = how === 'several'
  const many = how === 'many'
  const [draft, setDraft] = useState(BLANK)
  const [address, setAddress] = useState<string | null>(null)
  const [code, setCode] = useState<string | null>(null)
  const [lines, setLines] = useState<Api['InvitedLine'][] | null>(null)
  const [error, setError] = useState<unknown>(null)
  const sending = useRef(false)
  const put = (next: Partial<typeof BLANK>) => setDraft((d) => ({ ...d, ...next }))
  const submit = async (e: FormEvent) => {
    e.preventDefault()
    // Two taps before the answer are one invitation.
    if (sending.current) return
    sending.current = true
    setError(null)
    const what = { role: draft.role, makes: draft.makes, crew: draft.crew, groups: draft.groups }
    try {
      setCode(null)
      if (many) {
        const made = await inviteMany(programme, { most: draft.most, ...what, makes: false })
        setAddress(location.origin + made.address)
        setCode(made.code)
      } else if (several) {
        setLines(await inviteSeveral(programme, { text: draft.text, ...what }))
      } else {
        const made = await invitePerson(programme, { name: draft.name, email: draft.email, ...what })
        setAddress(location.origin + made.address)
      }
      setDraft(BLANK)
      await Promise.all(
        [keys.people(programme), keys.groups(programme), keys.audiences(programme)].map((queryKey) =>
          client.invalidateQueries({ queryKey }),
        ),
      )
    } catch (caught) {
      setError(caught)
    } finally {
      sending.current = false
    }
  }
  return (
    <Sheet title={t('collect.invite')}>
      <Box component="form" onSubmit={submit} sx={{ display: 'grid', gap: 3 }}>
        <Segments
          label={t('people.howmany')}
          value={how}
          options={[
            { value: 'one', label: t('people.one') },
            { value: 'several', label: t('people.several') },
            { value: 'many', label: t('people.many') },
          ]}
          onChange={(v) => {
            setHow(v)
            setAddress(null)
            // Whoever passes a link on invites: it leads to crews and guests alone.
            if (v === 'many' && !MANY.includes(draft.role)) put({ role: 'crew' })
          }}
        />
        {many ? (
          <TextInput
            label={t('people.many.most')}
            hint={t('people.many.hint')}
            type="number"
            value={Number.isFinite(draft.most) ? String(draft.most) : ''}
            onChange={(v) => put({ most: v === '' ? NaN : Number(v) })}
            needed
            inputProps={{ min: 2, max: 500 }}
          />
        ) : several ? (
          <Labelled label={t('people.list')} hint={t('people.list.hint')} needed>
            {({ id, describedBy }) => (
              <OutlinedInput
                id={id}
                multiline
                minRows={4}
                maxRows={10}
                fullWidth
                value={draft.text}
                onChange={(e) => put({ text: e.target.value })}
                inputProps={{ 'aria-describedby': describedBy, maxLength: 60_000 }}
              />
            )}
          </Labelled>
        ) : (
          <>
            <TextInput
              label={t('collect.name')}
              value={draft.name}
              onChange={(name) => put({ name })}
              needed
            />
            <TextInput
              label={t('signin.email')}
              type="email"
              value={draft.email}
              onChange={(email) => put({ email })}
              needed
            />
          </>
        )}
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 3 }}>
          <Labelled label={t('collect.role')} hint={t(`role.${draft.role}.what`)}>
            {({ id, describedBy }) => (
              <NativeSelect
                id={id}
                fullWidth
                input={<OutlinedInput />}
                inputProps={{ 'aria-describedby': describedBy }}
                value={draft.role}
                onChange={(e) => put({ role: e.target.value as Role })}>
                {(many ? MANY : ROLES).map((role) => (
                  <option key={role} value={role}>
                    {t(`role.${role}`)}
                  </option>
                ))}
              </NativeSelect>
            )}
          </Labelled>
          <TextInput
            label={t('collect.crew')}
            value={draft.crew}
            onChange={(crew) => put({ crew })}
            inputProps={{ list: 'crews' }}
          />
          <datalist id="crews">
            {crews.map((c) => (
              <option key={c} value={c} />
            ))}
          </datalist>
        </Box>
        {groups.length > 0 && (
          <Box component="fieldset" sx={{ border: 0, p: 0, m: 0 }}>
            <Typography component="legend" sx={{ fontWeight: 650, fontSize: '0.92rem', mb: 1 }}>
              {t('people.groups.in')}
            </Typography>
            {groups.map((g) => (
              <FormControlLabel
                key={g.id}
                control={
                  <Checkbox
                    size="small"
                    checked={draft.groups.includes(g.id)}
                    onChange={(e) =>
                      put({
                        groups: e.target.checked
                          ? [...draft.groups, g.id]
                          : draft.groups.filter((id) => id !== g.id),
                      })
                    }
                  />
                }
                label={g.name}
              />
            ))}
          </Box>
        )}
        <Problems error={error} />
        <Button
          type="submit"
          disabled={
            many
              ? !Number.isInteger(draft.most) || draft.most < 2 || draft.most > 500
              : several
                ? !draft.text.trim()
                : !draft.name || !draft.email
          }>
          {t(many ? 'people.many.go' : several ? 'people.several.go' : 'collect.invite.go')}
        </Button>
        {!several && address && (
          <Address address={address} hint={t(code ? 'people.many.pass' : 'collect.invite.hint')} />
        )}
        {code && (
          <Typography>
            {t('people.many.code', { at: `${location.host}/join` })}{' '}
            <Box
              component="code"
              data-testid="code"
              sx={{ fontSize: '1.25rem', fontWeight: 650, whiteSpace: 'nowrap' }}>
              {code}
            </Box>
          </Typography>
        )}
        {several && lines && <InvitedLines lines={lines} />}
      </Box>
    </Sheet>
  )
}
