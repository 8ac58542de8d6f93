import ArrowUpward from '@mui/icons-material/ArrowUpward'
import DeleteOutline from '@mui/icons-material/DeleteOutline'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Chip from '@mui/material/Chip'
import IconButton from '@mui/material/IconButton'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useRef } from 'react'
import { v7 as uuid } from 'uuid'
import { paint } from '../../shared/paint'
import { Pill } from '../../shared/parts/Pill'
import { Problems } from '../../shared/parts/Problems'
import { Empty } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import { HEAD_FONT } from '../../shared/theme'
import type { Layer } from '../../shared/types'
import { ReadyCheck } from './ReadyCheck'
import { useProgramme } from '../ProgrammePage'
import { SaveLine, SaveTrouble } from '../unsaved/SaveState'
import { useAutosave } from '../unsaved/useAutosave'
import { keys } from '../queries/keys'
import { layersById, layersOf } from '../queries/layers'
import { questionsOf, saveQuestions } from '../queries/plan'
import { boardsOf } from '../queries/publish'

type Question = {
  id: string
  text: string
  note: string
  fields: { layer: number; key: string; label?: string; of?: string }[]
  tile: { board: number; tile: string; title?: string; of?: string } | null
}

const state = (q: Question) => (q.fields.length === 0 ? 'open' : q.tile ? 'answered' : 'no_tile')
const TONE = { open: 'warn', no_tile: 'soft', answered: 'well' } as const

/** What the server keeps of a question; a line in which nothing is written yet stays here until something is. */
const told = (list: Question[]) =>
  list
    .filter((q) => q.text.trim())
    .map((q) => ({
      id: q.id,
      text: q.text,
      note: q.note,
      fields: q.fields.map(({ layer, key }) => ({ layer, key })),
      tile: q.tile && { board: q.tile.board, tile: q.tile.tile },
    }))

/**
 * What the programme must tell, each question with the fields that can and the tile that does. Saved a moment
 * after each change.
 */
export function Questions() {
  const programme = useProgramme()
  const saved = useQuery(questionsOf(programme.id))
  if (saved.error)
    return (
      <Box sx={{ p: 5 }}>
        <Problems error={saved.error} />
      </Box>
    )
  return saved.data ? <List saved={saved.data} /> : null
}

type Doc = { questions: Question[] }

function List({ saved }: { saved: Question[] }) {
  const programme = useProgramme()
  const client = useQueryClient()
  const lines = useQuery(layersOf(programme.id))
  const ids = lines.data?.map((l) => l.id) ?? []
  const layers = useQuery({ ...layersById(programme.id, ids), enabled: lines.data !== undefined })
  const boards = useQuery(boardsOf(programme.id))
  const path = `/programmes/${programme.id}/questions`
  const autosave = useAutosave<Doc>(
    path,
    { questions: saved },
    () => {
      void client.invalidateQueries({ queryKey: keys.programme(programme.id) })
      void client.invalidateQueries({ queryKey: keys.ready(programme.id) })
      void client.invalidateQueries({ queryKey: keys.questions(programme.id) })
    },
    {
      send: async (change, was) => {
        const list = change.questions ?? []
        const answer = await saveQuestions(programme.id, {
          questions: told(list),
          was: told(was.questions ?? []),
        })
        return { questions: [...answer, ...list.filter((q) => !q.text.trim())] }
      },
    },
  )
  const shown = autosave.doc.questions
  const texts = useRef<HTMLOListElement>(null)
  const put = (questions: Question[]) => autosave.change({ questions })
  const change = (i: number, part: Partial<Question>) =>
    put(shown.map((q, j) => (j === i ? { ...q, ...part } : q)))
  const add = () => {
    put([...shown, { id: `q-${uuid()}`, text: '', note: '', fields: [], tile: null }])
    requestAnimationFrame(() =>
      [...(texts.current?.querySelectorAll<HTMLInputElement>('.question-text input') ?? [])].at(-1)?.focus(),
    )
  }
  const up = (i: number) => {
    const next = [...shown]
    next.splice(i - 1, 0, ...next.splice(i, 1))
    put(next)
  }

  return (
    <Box
      sx={{
        p: { xs: 3, md: 5 },
        display: 'grid',
        gap: 5,
        gridTemplateColumns: { xs: 'minmax(0,1fr)', lg: 'minmax(0,1fr) 400px' },
        alignItems: 'start',
      }}>
      <Box>
        <Box
          sx={{
            display: 'flex',
            justifyContent: 'space-between',
            alignItems: 'end',
            gap: 3,
            mb: 3,
            flexWrap: 'wrap',
          }}>
          <Box>
            <Typography variant="h1">{t('questions.title')}</Typography>
            <Typography color="text.secondary">{t('questions.lead')}</Typography>
          </Box>
          <Box sx={{ display: 'flex', gap: 3, alignItems: 'center' }}>
            {shown.length > 0 && <SaveLine autosave={autosave} />}
            {shown.length > 0 && <Button onClick={add}>{t('questions.add')}</Button>}
          </Box>
        </Box>
        <SaveTrouble autosave={autosave} />
        {shown.length === 0 && (
          <Empty title={t('questions.empty')} action={<Button onClick={add}>{t('questions.add')}</Button>}>
            {t('questions.empty.text')}
          </Empty>
        )}
        {shown.length > 0 && (
          <Paper ref={texts} variant="outlined" component="ol" sx={{ m: 0, p: 0, listStyle: 'none' }}>
            {shown.map((q, i) => (
              <Box
                component="li"
                key={i}
                sx={{
                  display: 'grid',
                  gridTemplateColumns: { xs: 'minmax(0,1fr)', md: '34px minmax(0,1.3fr) minmax(0,1fr) 70px' },
                  gap: 3,
                  p: 3,
                  borderBottom: `1px solid ${paint.line}`,
                  '&:last-child': { borderBottom: 0 },
                }}>
                <Box
                  aria-hidden
                  sx={{ fontFamily: HEAD_FONT, fontWeight: 800, fontSize: '1.3rem', color: paint.faded }}>
                  {i + 1}
                </Box>
                <Box sx={{ display: 'grid', gap: 1, alignContent: 'start' }}>
                  <OutlinedInput
                    className="question-text"
                    size="small"
                    fullWidth
                    value={q.text}
                    onChange={(e) => change(i, { text: e.target.value })}
                    inputProps={{
                      'aria-label': t('questions.text', { n: i + 1 }),
                      maxLength: 200,
                      style: { fontWeight: 650 },
                    }}
                  />
                  <OutlinedInput
                    size="small"
                    fullWidth
                    value={q.note}
                    placeholder={t('questions.note')}
                    onChange={(e) => change(i, { note: e.target.value })}
                    inputProps={{
                      'aria-label': t('questions.note'),
                      maxLength: 500,
                      style: { fontSize: '0.88rem' },
                    }}
                  />
                </Box>
                <Box sx={{ display: 'grid', gap: 1.5, alignContent: 'start' }}>
                  <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center' }}>
                    <Pill tone={TONE[state(q)]}>{t(`questions.state.${state(q)}`)}</Pill>
                    {q.fields.map((f) => (
                      <Chip
                        key={`${f.layer}.${f.key}`}
                        size="small"
                        label={fieldLabel(f, layers.data)}
                        deleteIcon={
                          <DeleteOutline
                            aria-label={t('questions.untie', { field: fieldLabel(f, layers.data) })}
                          />
                        }
                        onDelete={() => change(i, { fields: q.fields.filter((x) => x !== f) })}
                      />
                    ))}
                  </Box>
                  <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
                    <NativeSelect
                      input={<OutlinedInput size="small" />}
                      value=""
                      inputProps={{ 'aria-label': t('questions.tie.to', { n: i + 1 }) }}
                      onChange={(e) => {
                        const [layer, key] = e.target.value.split('.')
                        if (layer && key) change(i, { fields: [...q.fields, { layer: Number(layer), key }] })
                      }}>
                      <option value="">{t('questions.tie')}</option>
                      {layers.data?.map((l) => (
                        <optgroup key={l.id} label={l.design.title}>
                          {l.design.fields
                            .filter(
                              (f) =>
                                f.kind !== 'heading' &&
                                !q.fields.some((x) => x.layer === l.id && x.key === f.key),
                            )
                            .map((f) => (
                              <option key={f.key} value={`${l.id}.${f.key}`}>
                                {f.label}
                              </option>
                            ))}
                        </optgroup>
                      ))}
                    </NativeSelect>
                    <NativeSelect
                      input={<OutlinedInput size="small" />}
                      value={q.tile ? `${q.tile.board}.${q.tile.tile}` : ''}
                      inputProps={{ 'aria-label': t('questions.tile.of', { n: i + 1 }) }}
                      onChange={(e) => {
                        const [board, ...tile] = e.target.value.split('.')
                        change(i, {
                          tile: e.target.value ? { board: Number(board), tile: tile.join('.') } : null,
                        })
                      }}>
                      <option value="">{t('questions.tile.none')}</option>
                      {boards.data?.map((b) => (
                        <optgroup key={b.id} label={b.title}>
                          {b.tiles.map((tile) => (
                            <option key={tile.id} value={`${b.id}.${tile.id}`}>
                              {tile.title}
                            </option>
                          ))}
                        </optgroup>
                      ))}
                    </NativeSelect>
                  </Box>
                </Box>
                <Box sx={{ display: 'flex', justifyContent: 'end', alignItems: 'start' }}>
                  <IconButton
                    size="small"
                    disabled={i === 0}
                    aria-label={t('questions.up', { n: i + 1 })}
                    onClick={() => up(i)}>
                    <ArrowUpward fontSize="small" />
                  </IconButton>
                  <IconButton
                    size="small"
                    aria-label={t('questions.remove', { n: i + 1 })}
                    onClick={() => put(shown.filter((_, j) => j !== i))}>
                    <DeleteOutline fontSize="small" />
                  </IconButton>
                </Box>
              </Box>
            ))}
          </Paper>
        )}
      </Box>
      <ReadyCheck />
    </Box>
  )
}

function fieldLabel(f: Question['fields'][number], layers: Layer[] | undefined): string {
  return (
    f.label ??
    layers?.find((l) => l.id === f.layer)?.design.fields.find((x) => x.key === f.key)?.label ??
    f.key
  )
}
