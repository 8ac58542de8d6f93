import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { LazyMap } from '../../shared/map/LazyMap'
import { BenchShowing } from '../../shared/parts/BenchShowing'
import { Problems } from '../../shared/parts/Problems'
import { t } from '../../shared/texts'
import { AreaFrame, FRAME } from '../../shared/map/AreaFrame'
import { clamp } from '../shelves/NewProgramme'
import { ProgrammeForm, type ProgrammeDraft } from './ProgrammeForm'
import { useProgramme } from '../ProgrammePage'
import { keys } from '../queries/keys'
import { changeProgramme } from '../queries/programmes'

/** What the programme is for, where, and in which time zone. */
export function ProgrammePart() {
  const programme = useProgramme()
  const client = useQueryClient()
  const [draft, setDraft] = useState<ProgrammeDraft>({
    name: programme.name,
    purpose: programme.purpose,
    time_zone: programme.time_zone,
    area: programme.area,
    photo_edge: programme.photo_edge,
  })
  const [state, setState] = useState<{ saved: boolean; error: unknown }>({ saved: false, error: null })
  const [opening] = useState(programme.area)
  const change = (part: Partial<ProgrammeDraft>) => {
    setDraft((d) => ({ ...d, ...part }))
    setState({ saved: false, error: null })
  }
  const save = async () => {
    try {
      await changeProgramme(programme.id, draft)
      await client.invalidateQueries({ queryKey: keys.programme(programme.id) })
      await client.invalidateQueries({ queryKey: keys.programmes })
      setState({ saved: true, error: null })
    } catch (error) {
      setState({ saved: false, error })
    }
  }
  return (
    <BenchShowing
      plain
      benchWidth="420px"
      bench={
        <Box sx={{ display: 'grid', gap: 4 }}>
          <Typography variant="h1">{t('plan.title')}</Typography>
          <ProgrammeForm draft={draft} onChange={change} />
          <Problems error={state.error} />
          <Box sx={{ display: 'flex', alignItems: 'center', gap: 3 }}>
            <Button onClick={save} disabled={draft.name.trim() === ''}>
              {t('save')}
            </Button>
            <Typography role="status" color="text.secondary">
              {state.saved && t('saved')}
            </Typography>
          </Box>
        </Box>
      }
      showing={
        <LazyMap
          label={t('programme.area')}
          extent={opening}
          padding={FRAME}
          frame={FRAME}
          onMove={({ extent, byHand }) => byHand && change({ area: clamp(extent) })}>
          <AreaFrame />
        </LazyMap>
      }
    />
  )
}
