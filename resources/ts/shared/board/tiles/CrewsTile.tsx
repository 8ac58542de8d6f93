import GpsFixed from '@mui/icons-material/GpsFixed'
import Box from '@mui/material/Box'
import ButtonBase from '@mui/material/ButtonBase'
import IconButton from '@mui/material/IconButton'
import { paint } from '../../paint'
import { ago, t } from '../../texts'
import { asFollowed, crewsIn, followedIn } from '../crews'
import { usePicking } from '../picks'
import { Nothing, type TileProps } from './shared'

const QUIET_MS = 30 * 60_000
const SILENT_MS = 4 * 3_600_000

/** Who is out with a phone: when last heard, with how much to send. */
export function CrewsTile({ tile }: TileProps<'crews'>) {
  const { people } = tile.answer
  const { picks, pick, show, mayPick, maps } = usePicking()
  const followed = followedIn(picks)
  const picked = picks.pick[tile.id ?? '']
  if (people.length === 0) return <Nothing />
  return (
    <Box component="ul" sx={{ listStyle: 'none', m: 0, mt: 1, p: 0 }}>
      {crewsIn(people).map((p) => {
        const since = p.heard_at === null ? Infinity : Date.now() - Date.parse(p.heard_at)
        const state = since < QUIET_MS ? 'near' : since < SILENT_MS ? 'quiet' : 'silent'
        return (
          <Box
            component="li"
            key={p.key}
            sx={{
              display: 'flex',
              alignItems: 'center',
              // In a narrow tile who it is stands below, and nothing is cut.
              flexWrap: 'wrap',
              columnGap: 2,
              py: 0.9,
              borderBottom: `1px solid ${paint.rowLine}`,
              fontSize: '0.93rem',
            }}>
            <Box
              aria-hidden
              sx={{
                width: 11,
                height: 11,
                flexShrink: 0,
                // Not by colour alone: whoever is silent has an empty ring.
                borderRadius: '50%',
                border: `2px solid ${state === 'near' ? paint.kelp : state === 'quiet' ? paint.wood : paint.line2}`,
                bgcolor: state === 'silent' ? 'transparent' : state === 'near' ? paint.kelp : paint.wood,
              }}
            />
            {mayPick && p.crew_id !== null ? (
              <ButtonBase
                aria-pressed={picked === String(p.crew_id)}
                onClick={() => pick(tile.id ?? '', String(p.crew_id))}
                sx={{
                  fontWeight: 700,
                  borderRadius: 0.5,
                  bgcolor: picked === String(p.crew_id) ? paint.buoyWash : undefined,
                  '&:hover': { textDecoration: 'underline' },
                }}>
                {p.crew}
              </ButtonBase>
            ) : (
              <b>{p.crew ?? p.name ?? t('crews.none')}</b>
            )}
            <Box
              component="span"
              sx={{
                color: 'text.secondary',
                flex: '1 1 4rem',
                minWidth: 0,
                overflow: 'hidden',
                textOverflow: 'ellipsis',
                whiteSpace: 'nowrap',
              }}>
              {[p.crew ? p.name : null, p.waiting > 0 ? t('crews.waiting', { n: p.waiting }) : null]
                .filter(Boolean)
                .join(' · ')}
            </Box>
            <Box sx={{ display: 'flex', alignItems: 'center', ml: 'auto', my: -0.75 }}>
              <Box component="span" sx={{ color: 'text.secondary', whiteSpace: 'nowrap' }}>
                {p.heard_at === null ? t('crews.never') : ago(p.heard_at)}
              </Box>
              {maps && p.place && (
                <IconButton
                  size="small"
                  aria-label={t('crews.follow.who', { who: p.called })}
                  aria-pressed={followed?.key === p.key}
                  color={followed?.key === p.key ? 'secondary' : 'default'}
                  onClick={() => show(tile.id ?? '', asFollowed(p.key))}>
                  <GpsFixed fontSize="small" />
                </IconButton>
              )}
            </Box>
          </Box>
        )
      })}
    </Box>
  )
}
