import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useQueryClient } from '@tanstack/react-query'
import { useState, type FormEvent } from 'react'
import { useNavigate } from 'react-router'
import { LazyMap } from '../../shared/map/LazyMap'
import { BenchShowing } from '../../shared/parts/BenchShowing'
import { Problems } from '../../shared/parts/Problems'
import { t } from '../../shared/texts'
import type { Box as Extent, Me } from '../../shared/types'
import { AreaFrame, FRAME } from '../../shared/map/AreaFrame'
import { browserZone, ProgrammeForm, USUAL_EDGE, type ProgrammeDraft } from '../plan/ProgrammeForm'
import { TopBar } from '../TopBar'
import { keys } from '../queries/keys'
import { makeProgramme } from '../queries/programmes'

const WIDE: Extent = [-60, -50, 60, 60]

export function NewProgramme({ me }: { me: Me }) {
  const navigate = useNavigate()
  const client = useQueryClient()
  const [draft, setDraft] = useState<ProgrammeDraft>({
    name: '',
    purpose: '',
    time_zone: browserZone(),
    area: WIDE,
    photo_edge: USUAL_EDGE,
  })
  const [error, setError] = useState<unknown>(null)
  const submit = async (e: FormEvent) => {
    e.preventDefault()
    try {
      const made = await makeProgramme(draft)
      await client.invalidateQueries({ queryKey: keys.programmes })
      await navigate(`/desk/p/${made.id}/build`)
    } catch (caught) {
      setError(caught)
    }
  }
  return (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column' }}>
      <TopBar me={me} />
      <Box component="main" sx={{ flex: 1, minHeight: 0, display: 'flex' }}>
        <BenchShowing
          plain
          benchWidth="420px"
          bench={
            <Box component="form" onSubmit={submit} sx={{ display: 'grid', gap: 4 }}>
              <Typography variant="h1">{t('programmes.new')}</Typography>
              <ProgrammeForm draft={draft} onChange={(change) => setDraft((d) => ({ ...d, ...change }))} />
              <Problems error={error} />
              <Button type="submit" disabled={draft.name.trim() === ''}>
                {t('programmes.start')}
              </Button>
            </Box>
          }
          showing={
            <LazyMap
              label={t('programme.area')}
              extent={WIDE}
              padding={FRAME}
              frame={FRAME}
              onMove={({ extent }) => setDraft((d) => ({ ...d, area: clamp(extent) }))}>
              <AreaFrame />
            </LazyMap>
          }
        />
      </Box>
    </Box>
  )
}

/** What a map shows can reach beyond the world's edges; an area cannot. */
export const clamp = ([w, s, e, n]: Extent): Extent => [
  Math.max(-180, w),
  Math.max(-90, s),
  Math.min(180, e),
  Math.min(90, n),
]
