import Box from '@mui/material/Box'
import { Link } from 'react-router'
import { paint } from '../paint'
import { t } from '../texts'
import { HEAD_FONT } from '../theme'
import type { Stage } from '../types'
import { Pill } from './Pill'

export type StageNote = { text: string; tone: 'plain' | 'well' | 'warn' } | null
export const STAGES: Stage[] = ['plan', 'build', 'collect', 'check', 'publish']

const clip = {
  content: '""',
  position: 'absolute',
  top: -14,
  width: 8,
  height: 21,
  borderRadius: '2px',
  background: `linear-gradient(90deg,${paint.woodLight},${paint.woodDark})`,
  border: `1px solid ${paint.woodEdge}`,
}

const intoView = (stage: HTMLElement | null) =>
  stage?.scrollIntoView({ inline: 'nearest', block: 'nearest', behavior: 'instant' })

/** The five stages of a programme, hung on a line with pegs; always in view at the desk. */
export function StageLine({
  base,
  stages = STAGES,
  current,
  notes,
}: {
  base: string
  stages?: readonly Stage[]
  current: Stage | null
  notes: Partial<Record<Stage, StageNote>>
}) {
  return (
    <Box
      component="nav"
      aria-label={t('stages.label')}
      sx={{
        position: 'relative',
        display: 'flex',
        gap: { xs: 1.5, md: 3.5 },
        alignItems: 'flex-end',
        px: { xs: 2, md: 5 },
        pt: 5,
        height: 76,
        overflowX: 'auto',
        overflowY: 'hidden',
        flex: 'none',
        background: `linear-gradient(${paint.ropeGround},${paint.page})`,
        '&::before': {
          content: '""',
          position: 'absolute',
          left: 0,
          right: 0,
          top: 17,
          height: 2,
          background: `repeating-linear-gradient(115deg,${paint.ropeDark} 0 5px,${paint.rope} 5px 9px)`,
        },
      }}>
      {stages.map((stage) => {
        const on = stage === current
        const note = notes[stage]
        return (
          <Box
            key={stage}
            component={Link}
            to={`${base}/${stage}`}
            aria-current={on ? 'page' : undefined}
            // In a narrow window, or where words are long, the line is longer than the window.
            {...(on ? { ref: intoView } : {})}
            sx={{
              position: 'relative',
              flex: '1 0 104px',
              height: on ? 56 : 50,
              mb: on ? 0 : 1.5,
              px: { xs: 2.5, md: 4 },
              pt: 2,
              display: 'flex',
              alignItems: 'center',
              justifyContent: 'space-between',
              gap: 2,
              bgcolor: on ? paint.kelp : paint.sheet,
              color: on ? paint.white : paint.ink,
              border: '1px solid',
              borderColor: on ? paint.kelpDark : paint.line2,
              borderRadius: '3px 3px 6px 6px',
              fontFamily: HEAD_FONT,
              fontWeight: 700,
              fontSize: '1.05rem',
              textDecoration: 'none',
              '&:hover': { borderColor: paint.ink },
              '&::before': { ...clip, left: 22 },
              '&::after': { ...clip, right: 22 },
            }}>
            {t(`stage.${stage}`)}
            {note && (
              <Box component="span" sx={{ display: { xs: 'none', sm: 'inline' } }}>
                <Pill tone={on && note.tone === 'plain' ? 'well' : note.tone}>{note.text}</Pill>
              </Box>
            )}
          </Box>
        )
      })}
    </Box>
  )
}
