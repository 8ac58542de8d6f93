import Box from '@mui/material/Box'
import Link from '@mui/material/Link'
import { Link as RouterLink } from 'react-router'
import { Pill } from '../../../shared/parts/Pill'
import { t } from '../../../shared/texts'
import { useProgramme } from '../../ProgrammePage'
import type { AudienceOf, Audiences, ShownThing } from '../../queries/audiences'
import { Nothing, Part } from './cells'

/** Maps and boards, and which audiences they are shown to. */
export function ThingRows({ all: data }: { all: Audiences }) {
  const programme = useProgramme()
  return (
    <>
      <Part title={t('seen.things')} columns={data.audiences.length + 1} />
      {data.things.map((thing) => (
        <tr key={`${thing.kind}${thing.id}`}>
          <th scope="row">
            <Link component={RouterLink} to={`/desk/p/${programme.id}/publish/${thing.kind}/${thing.id}`}>
              {t(`seen.thing.${thing.kind}`, { title: thing.title })}
            </Link>
          </th>
          {data.audiences.map((a) => (
            <td key={a.name}>
              {opensTo(thing, a) ? (
                <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
                  <Pill tone="well">{t('seen.open')}</Pill>
                  {a.kind === 'link' && thing.address && (
                    <Link href={thing.address} target="_blank" rel="noopener">
                      {t('audience.look')}
                    </Link>
                  )}
                </Box>
              ) : (
                <Nothing />
              )}
            </td>
          ))}
        </tr>
      ))}
    </>
  )
}

/** Whether a thing can be opened by those of an audience. */
const opensTo = (thing: ShownThing, audience: AudienceOf) =>
  thing.audience === 'link' ||
  (audience.kind !== 'link' &&
    (thing.audience === 'programme' || (thing.audience === 'some' && thing.shown_to.includes(audience.name))))
