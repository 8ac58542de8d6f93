import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { Pill } from '../../shared/parts/Pill'
import { Sheet } from '../../shared/parts/Sheet'
import { formatDate, t } from '../../shared/texts'
import type { Api } from '../../shared/types'
import { useProgramme } from '../ProgrammePage'
import { takeBackInvitation } from '../queries/programmes'

type Props = {
  invitations: Api['Invited'][]
  groups: Api['Group'][]
  onDone: (error: unknown) => Promise<void>
}

/** Who was asked in and has not come yet; an invitation that is taken back leads nowhere. */
export function Invitations({ invitations, groups, onDone }: Props) {
  const programme = useProgramme()
  return (
    <Sheet title={t('people.invited', { n: invitations.length })}>
      <Box component="ul" sx={{ m: 0, p: 0, listStyle: 'none' }}>
        {invitations.map((i) => (
          <Box
            component="li"
            key={i.id}
            sx={{
              display: 'flex',
              gap: 2,
              alignItems: 'baseline',
              flexWrap: 'wrap',
              borderTop: '1px solid',
              borderColor: 'divider',
              py: 2,
            }}>
            <Box sx={{ flex: '1 1 200px', minWidth: 0, overflowWrap: 'anywhere' }}>
              {i.most === null ? i.name : t('people.many.open', { most: i.most })}
              <Box component="span" sx={{ color: 'text.secondary', display: 'block', fontSize: '0.85rem' }}>
                {i.most === null ? i.email : t('people.many.used', { n: i.used })}
              </Box>
            </Box>
            <Box
              sx={{ flex: '2 1 260px', display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'baseline' }}>
              <Pill tone="soft">{t(`role.${i.role}`)}</Pill>
              {groups
                .filter((g) => i.groups.includes(g.id))
                .map((g) => (
                  <Pill key={g.id} tone="plain">
                    {g.name}
                  </Pill>
                ))}
              <Box component="span" sx={{ color: 'text.secondary', fontSize: '0.85rem' }}>
                {t('people.until', { day: formatDate(i.expires_at.slice(0, 10)) })}
              </Box>
            </Box>
            <Button
              size="small"
              variant="text"
              color="inherit"
              aria-label={t('people.takeback.of', {
                name: i.most === null ? i.name : t('people.many.open', { most: i.most }),
              })}
              onClick={() =>
                void takeBackInvitation(programme.id, i.id)
                  .then(() => onDone(null))
                  .catch(onDone)
              }>
              {t('people.takeback')}
            </Button>
          </Box>
        ))}
      </Box>
    </Sheet>
  )
}
