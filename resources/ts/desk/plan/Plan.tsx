import Box from '@mui/material/Box'
import { useSearchParams } from 'react-router'
import { Segments } from '../../shared/parts/Segments'
import { t } from '../../shared/texts'
import { useProgramme } from '../ProgrammePage'
import { DesignSheet } from './DesignSheet'
import { Outings } from './Outings'
import { ProgrammePart } from './ProgrammePart'
import { Questions } from './Questions'

type Part = 'questions' | 'sheet' | 'outings' | 'programme'

/** The first stage: what is asked, what is collected for it, and the programme itself. */
export function Plan() {
  const programme = useProgramme()
  const [search, setSearch] = useSearchParams()
  const part = (search.get('part') as Part | null) ?? 'questions'
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', flex: 1, minHeight: 0 }}>
      <Box className="no-print" sx={{ px: { xs: 3, md: 5 }, pt: 3 }}>
        <Segments<Part>
          label={t('plan.parts')}
          value={part}
          onChange={(p) => setSearch(p === 'questions' ? {} : { part: p })}
          options={[
            { value: 'questions', label: t('plan.questions') },
            { value: 'sheet', label: t('plan.sheet') },
            { value: 'outings', label: t('plan.outings') },
            { value: 'programme', label: t('plan.programme') },
          ]}
        />
      </Box>
      {part === 'questions' && <Questions key={programme.id} />}
      {part === 'sheet' && <DesignSheet />}
      {part === 'outings' && <Outings />}
      {part === 'programme' && <ProgrammePart key={programme.id} />}
    </Box>
  )
}
