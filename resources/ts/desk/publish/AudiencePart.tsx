import Box from '@mui/material/Box'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import FormHelperText from '@mui/material/FormHelperText'
import Link from '@mui/material/Link'
import Radio from '@mui/material/Radio'
import RadioGroup from '@mui/material/RadioGroup'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { Fragment, useState } from 'react'
import { Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import type { Api, Audience } from '../../shared/types'
import { Address } from '../people/Address'
import { useProgramme } from '../ProgrammePage'
import { keys } from '../queries/keys'
import { shownToIn } from '../queries/publish'
import { NewLink } from './NewLink'
import { Reach } from './Reach'
import { titleOf } from './seen/rule'

export type Shown = { audience: Audience; shown_to: string[] }

type Props = {
  /** Its address in the API. */
  thing: string
  doc: Shown & { owner: number | null; address: string | null }
  onChange: (shown: Partial<Shown>) => void
  onNewLink: () => void
  /** Takes a layer out of it. */
  onLeave: (layer: number) => void
}

/** Who may see a map or board, the link to hand on, and whether they also see its layers. */
export function AudiencePart({ thing, doc, onChange, onNewLink, onLeave }: Props) {
  const me = useQueryClient().getQueryData<Api['Me']>(keys.me)
  // Whoever chooses *some* has to say which before anything is saved.
  const [choosing, setChoosing] = useState(false)
  const audience = choosing ? 'some' : doc.audience
  const own = doc.owner === null || doc.owner === me?.id || doc.audience === 'me'
  return (
    <Sheet title={t('audience.title')}>
      <RadioGroup
        aria-label={t('audience.title')}
        value={audience}
        onChange={(e) => {
          const next = e.target.value as Audience
          setChoosing(next === 'some' && doc.shown_to.length === 0)
          if (next !== 'some' && next !== doc.audience) onChange({ audience: next })
        }}>
        {(['me', 'some', 'programme', 'link'] as const)
          .filter((a) => a !== 'me' || own)
          .map((a) => (
            <Fragment key={a}>
              <FormControlLabel value={a} control={<Radio size="small" />} label={t(`audience.${a}`)} />
              {a === 'some' && audience === 'some' && (
                <Some
                  chosen={doc.audience === 'some' ? doc.shown_to : []}
                  onChange={(shown_to) => {
                    setChoosing(false)
                    onChange({ audience: 'some', shown_to })
                  }}
                />
              )}
            </Fragment>
          ))}
      </RadioGroup>
      <Reach thing={thing} onLeave={onLeave} />
      {doc.audience === 'link' && doc.address && (
        <Box sx={{ mt: 3, display: 'grid', gap: 3 }}>
          <Address address={location.origin + doc.address} hint={t('audience.hint')} />
          <Link href={doc.address} target="_blank" rel="noopener">
            {t('audience.look')}
          </Link>
        </Box>
      )}
      {doc.address && (
        <Box sx={{ mt: 3 }}>
          <NewLink onDo={onNewLink} />
        </Box>
      )}
    </Sheet>
  )
}

/** Roles, groups and crews; one at least. */
function Some({ chosen, onChange }: { chosen: string[]; onChange: (chosen: string[]) => void }) {
  const { data } = useQuery(shownToIn(useProgramme().id))
  const there = data?.map((a) => a.name) ?? []
  const known = chosen.filter((name) => there.includes(name))
  return (
    <Box role="group" aria-label={t('audience.some')} sx={{ ml: 4, display: 'grid', justifyItems: 'start' }}>
      {data?.map((a) => (
        <FormControlLabel
          key={a.name}
          label={titleOf(a)}
          control={
            <Checkbox
              size="small"
              checked={known.includes(a.name)}
              disabled={known.length === 1 && known[0] === a.name}
              onChange={(e) =>
                onChange(e.target.checked ? [...known, a.name] : known.filter((name) => name !== a.name))
              }
            />
          }
        />
      ))}
      <FormHelperText>{t('audience.some.hint')}</FormHelperText>
    </Box>
  )
}
