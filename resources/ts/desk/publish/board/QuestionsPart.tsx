import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import ButtonBase from '@mui/material/ButtonBase'
import Link from '@mui/material/Link'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import { useState } from 'react'
import { Link as RouterLink } from 'react-router'
import { v7 as uuid } from 'uuid'
import { paint } from '../../../shared/paint'
import { Pill } from '../../../shared/parts/Pill'
import { t } from '../../../shared/texts'
import { HEAD_FONT } from '../../../shared/theme'
import type { Api, LayerLine, MapDoc, ProposedTile, Tile } from '../../../shared/types'
import { Proposed } from './Proposed'

type Questions = Api['QuestionProposals'][]

type Props = {
  programme: number
  questions: Questions
  board: number
  tiles: Tile[]
  layers: LayerLine[]
  maps: MapDoc[]
  onAdd: (tiles: Tile[]) => void
  onPick: (tile: string) => void
}

export const madeOf = (proposed: ProposedTile): Tile => ({ ...proposed, id: uuid() })

/** The questions of the programme, each with the tiles that answer it here, or with those that could. */
export function QuestionsPart({ programme, questions, board, tiles, layers, maps, onAdd, onPick }: Props) {
  const [open, setOpen] = useState<string | null>(null)
  // A tile knows its question; one of before was tied to it in Plan.
  const tied = new Map(questions.map((q) => [q.id, q.tile?.board === board ? q.tile.tile : null]))
  const of = (id: string) => tiles.filter((tile) => tile.question === id || tile.id === tied.get(id))
  const answered = questions.filter((q) => of(q.id).length > 0)
  const missing = questions.filter((q) => of(q.id).length === 0 && q.proposals.length > 0)
  if (questions.length === 0)
    return (
      <Paper variant="outlined" sx={{ p: 3 }}>
        {t('board.noquestions')}{' '}
        <Link component={RouterLink} to={`/desk/p/${programme}/plan`}>
          {t('board.noquestions.go')}
        </Link>
      </Paper>
    )
  return (
    <Box>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'baseline', mb: 2 }}>
        <Typography variant="h2">{t('board.which')}</Typography>
        <Box sx={{ color: 'text.secondary', fontSize: '0.88rem' }}>
          {t('board.answered', { n: answered.length, of: questions.length })}
        </Box>
      </Box>
      <Paper variant="outlined" component="ol" sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {questions.map((q, i) => {
          const mine = of(q.id)
          const isOpen = open === q.id
          return (
            <Box
              component="li"
              key={q.id}
              sx={{
                borderTop: i ? `1px solid ${paint.line}` : 0,
                bgcolor: isOpen ? `${paint.buoyWash}66` : undefined,
              }}>
              <ButtonBase
                aria-expanded={isOpen}
                onClick={() => {
                  setOpen(isOpen ? null : q.id)
                  if (!isOpen && mine[0]) onPick(mine[0].id)
                }}
                sx={{
                  width: '100%',
                  display: 'flex',
                  gap: 2.5,
                  p: 2.5,
                  textAlign: 'left',
                  alignItems: 'center',
                }}>
                <Box aria-hidden sx={{ fontFamily: HEAD_FONT, fontWeight: 800, color: paint.faded }}>
                  {i + 1}
                </Box>
                <Box sx={{ flex: 1, fontWeight: 600, overflowWrap: 'anywhere' }}>{q.text}</Box>
                {q.proposals.length === 0 ? (
                  <Pill tone="warn">{t('board.nofield')}</Pill>
                ) : mine.length > 0 ? (
                  <Pill tone="well">{t('board.ntiles', { n: mine.length })}</Pill>
                ) : (
                  <Pill>{t('board.notile')}</Pill>
                )}
              </ButtonBase>
              {isOpen &&
                (q.proposals.length === 0 ? (
                  <Box sx={{ px: 3, pb: 3 }}>
                    {t('board.lacks')}{' '}
                    <Link component={RouterLink} to={`/desk/p/${programme}/plan`}>
                      {t('board.lacks.tie')}
                    </Link>
                    {' · '}
                    <Link component={RouterLink} to={`/desk/p/${programme}/build`}>
                      {t('board.lacks.build')}
                    </Link>
                  </Box>
                ) : (
                  <Box sx={{ px: 3, pb: 3, display: 'grid', gap: 1.5 }}>
                    {q.proposals.map((p, j) => (
                      <Proposed
                        key={j}
                        proposed={p}
                        layers={layers}
                        maps={maps}
                        onAdd={() => onAdd([madeOf(p)])}
                      />
                    ))}
                  </Box>
                ))}
            </Box>
          )
        })}
      </Paper>
      {missing.length > 1 && (
        <Button
          variant="outlined"
          sx={{ mt: 2 }}
          onClick={() => onAdd(missing.flatMap((q) => (q.proposals[0] ? [madeOf(q.proposals[0])] : [])))}>
          {t('board.all', { n: missing.length })}
        </Button>
      )}
    </Box>
  )
}
