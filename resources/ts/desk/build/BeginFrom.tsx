import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Menu from '@mui/material/Menu'
import MenuItem from '@mui/material/MenuItem'
import ListSubheader from '@mui/material/ListSubheader'
import Typography from '@mui/material/Typography'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { apiForm, sentences } from '../../shared/api'
import { t } from '../../shared/texts'
import type { Design, LayerLine } from '../../shared/types'
import { blankDesign } from './design'
import { useProgramme } from '../ProgrammePage'
import { keys } from '../queries/keys'
import { makeLayer, readLayer, starterDesigns } from '../queries/layers'

/** The designs in an open design file. */
function designsIn(text: string): Design[] {
  const content = JSON.parse(text) as { layers?: Design[]; fields?: unknown }
  if (Array.isArray(content.layers)) return content.layers
  if (Array.isArray(content.fields)) return [content as unknown as Design]
  throw new SyntaxError()
}

function fromSpreadsheet(file: File): Promise<{ designs: Design[]; notes: string[] }> {
  const form = new FormData()
  form.append('file', file)
  return apiForm('/designs/read', form)
}

/** Ways to begin a layer: from nothing, from a starter, from a copy, from a file. */
export function BeginFrom({ layers, onTold }: { layers: LayerLine[]; onTold: (lines: string[]) => void }) {
  const programme = useProgramme()
  const client = useQueryClient()
  const navigate = useNavigate()
  const [anchor, setAnchor] = useState<HTMLElement | null>(null)
  const file = useRef<HTMLInputElement>(null)
  const starters = useQuery(starterDesigns())
  const begin = async (design: Design) => {
    setAnchor(null)
    await navigate('new', { state: { design } })
  }
  const copy = async (line: LayerLine) => {
    const { design } = await readLayer(line.id)
    const { visits_of: _, ...copied } = design
    await begin({ ...copied, title: t('build.copy', { title: design.title }) })
  }
  /** A layer of visits begins with a date that is there anyway, and what crews look at each time. */
  const visits = (line: LayerLine) =>
    begin({ ...blankDesign(), title: t('build.visits.title', { layer: line.title }), visits_of: line.title })
  const read = async (chosen: File) => {
    setAnchor(null)
    const made: string[] = []
    const told: string[] = []
    try {
      const { designs, notes } = /\.json$/i.test(chosen.name)
        ? { designs: designsIn(await chosen.text()), notes: [] }
        : await fromSpreadsheet(chosen)
      told.push(...notes)
      // What is visited comes before its visits.
      for (const design of designs.toSorted(
        (a, b) => Number(Boolean(a.visits_of)) - Number(Boolean(b.visits_of)),
      )) {
        try {
          made.push((await makeLayer(programme.id, design)).design.title)
        } catch (e) {
          for (const why of sentences(e))
            told.push(t('build.file.refused', { layer: design.title ?? '', why }))
        }
      }
    } catch (e) {
      told.push(
        ...(e instanceof SyntaxError ? [t('build.file.unreadable', { file: chosen.name })] : sentences(e)),
      )
    }
    if (made.length) told.unshift(t('build.file.made', { file: chosen.name, layers: made.join(', ') }))
    await client.invalidateQueries({ queryKey: keys.layers(programme.id) })
    await client.invalidateQueries({ queryKey: keys.programme(programme.id) })
    // Told when the layers are there: with the first one the page is laid out anew, and a file chosen just
    // then would be lost.
    onTold(told)
  }
  return (
    <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', justifyContent: 'center' }}>
      <Button component={Link} to="new">
        {t('build.new')}
      </Button>
      <Button variant="outlined" aria-haspopup="menu" onClick={(e) => setAnchor(e.currentTarget)}>
        {t('build.from')}
      </Button>
      <Menu
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        slotProps={{ paper: { sx: { maxHeight: 520 } } }}>
        <ListSubheader sx={{ lineHeight: 2.2, bgcolor: 'background.paper' }}>
          {t('build.from.starter')}
        </ListSubheader>
        {starters.data?.map((s) => (
          <MenuItem key={s.key} onClick={() => void begin(s.design)}>
            <Box>
              {s.design.title}
              <Typography variant="caption" color="text.secondary" sx={{ display: 'block' }}>
                {s.design.purpose}
              </Typography>
            </Box>
          </MenuItem>
        ))}
        {layers.map((l) => (
          <MenuItem key={l.id} onClick={() => void copy(l)}>
            {t('build.from.copy', { layer: l.title })}
          </MenuItem>
        ))}
        {layers
          .filter((l) => l.visits_of === null && !layers.some((v) => v.visits_of === l.id))
          .map((l) => (
            <MenuItem key={`v${l.id}`} onClick={() => void visits(l)}>
              {t('build.from.visits', { layer: l.title })}
            </MenuItem>
          ))}
        <MenuItem onClick={() => file.current?.click()}>{t('build.from.file')}</MenuItem>
      </Menu>
      <input
        ref={file}
        type="file"
        accept=".json,.xlsx,.ods,.csv,application/json"
        className="visually-hidden"
        tabIndex={-1}
        aria-label={t('build.from.file')}
        onChange={(e) => {
          const [chosen] = e.target.files ?? []
          if (chosen) void read(chosen)
          e.target.value = ''
        }}
      />
    </Box>
  )
}
