import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useState } from 'react'
import { Link as RouterLink } from 'react-router'
import { Sheet } from '../../../shared/parts/Sheet'
import { t } from '../../../shared/texts'
import { useProgramme } from '../../ProgrammePage'
import type { ShownThing } from '../../queries/audiences'
import { some } from './rule'

/** So many are told at once; the others when they are asked for. */
const CAUGHT = 3

type Props = { things: ShownThing[]; onOpen: (at: { layer: number; audience: string }) => void }

/** What more people may open than may see a layer of it: they would see it without. */
export function Caught({ things, onOpen }: Props) {
  const programme = useProgramme()
  const [all, setAll] = useState(false)
  if (things.length === 0) return null
  return (
    <Sheet tone="warn" title={t('seen.caught')}>
      <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0, display: 'grid', gap: 3 }}>
        {(all ? things : things.slice(0, CAUGHT)).map((thing) => (
          <Box component="li" key={`${thing.kind}${thing.id}`}>
            <Typography sx={{ fontWeight: 650, overflowWrap: 'anywhere' }}>
              {t(`seen.thing.${thing.kind}`, { title: thing.title })}
            </Typography>
            {thing.closed.map((l) => (
              <Typography variant="body2" key={l.id}>
                {l.link && t('reach.link', { layer: l.title })}{' '}
                {l.people.length > 0 && t('seen.caught.people', { layer: l.title, names: some(l.people) })}
              </Typography>
            ))}
            <Typography variant="body2" color="text.secondary">
              {t(`seen.caught.${thing.kind}`)}
            </Typography>
            <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', mt: 1 }}>
              <Button
                size="small"
                variant="outlined"
                component={RouterLink}
                to={`/desk/p/${programme.id}/publish/${thing.kind}/${thing.id}`}>
                {t('seen.caught.leave')}
              </Button>
              {thing.closed.map((l) => (
                <Button
                  key={l.id}
                  size="small"
                  variant="outlined"
                  onClick={() =>
                    onOpen({ layer: l.id, audience: l.link ? 'link' : (thing.shown_to[0] ?? 'guests') })
                  }>
                  {t('seen.caught.open', { layer: l.title })}
                </Button>
              ))}
            </Box>
          </Box>
        ))}
      </Box>
      {things.length > CAUGHT && !all && (
        <Button sx={{ mt: 3 }} variant="text" onClick={() => setAll(true)}>
          {t('seen.caught.all', { n: things.length })}
        </Button>
      )}
    </Sheet>
  )
}
