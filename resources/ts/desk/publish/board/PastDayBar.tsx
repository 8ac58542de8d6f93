import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Select, TextInput } from '../../../shared/parts/Labelled'
import { Sheet } from '../../../shared/parts/Sheet'
import { formatDate, t } from '../../../shared/texts'
import { allProgrammes } from '../../queries/programmes'
import { boardsOf } from '../../queries/publish'
import { yearBefore, type Past } from './pastDay'

type Props = {
  board: number
  programme: number
  /** By the programme's calendar. */
  today: string
  past: Past
  onChange: (change: Partial<Past>) => void
  onClose: () => void
}

/** Which day the board is shown of, by what, and what stands beside it. */
export function PastDayBar({ board, programme, today, past, onChange, onClose }: Props) {
  const [typed, setTyped] = useState<string | null>(null)
  const day = typed ?? past.on ?? ''
  return (
    <Sheet sx={{ mb: 3, displayPrint: 'none' }}>
      <Box
        sx={{
          display: 'grid',
          gap: 3,
          gridTemplateColumns: { xs: 'minmax(0,1fr)', sm: 'repeat(auto-fit, minmax(180px, 1fr))' },
          alignItems: 'start',
        }}>
        <TextInput
          label={t('past.on')}
          type="date"
          size="small"
          value={day}
          inputProps={{ max: today }}
          error={day > today ? t('past.ahead') : null}
          onChange={(text) => {
            setTyped(text)
            if (text === '' || (text <= today && text >= '1900-01-01'))
              onChange({ on: text === '' || text === today ? null : text })
          }}
        />
        <Select
          label={t('past.by')}
          value={past.collected ? 'collected' : 'arrived'}
          disabled={!past.on && !past.beside}
          onChange={(v) => onChange({ collected: v === 'collected' })}>
          <option value="arrived">{t('past.by.arrived')}</option>
          <option value="collected">{t('past.by.collected')}</option>
        </Select>
        <Beside board={board} programme={programme} day={past.on ?? today} past={past} onChange={onChange} />
        <Box sx={{ pt: { sm: '29px' } }}>
          <Button
            variant="outlined"
            color="inherit"
            onClick={() => {
              setTyped(null)
              onChange({ on: null, collected: false, beside: null })
              onClose()
            }}>
            {t('past.now')}
          </Button>
        </Box>
      </Box>
    </Sheet>
  )
}

/** The same board, or one of another programme, on the same day of an earlier year or on any other. */
function Beside({
  board,
  programme,
  day,
  past,
  onChange,
}: Pick<Props, 'board' | 'programme' | 'past' | 'onChange'> & { day: string }) {
  const programmes = useQuery(allProgrammes()).data ?? []
  const here = useQuery(boardsOf(programme)).data ?? []
  const [other, setOther] = useState<number | null>(null)
  const there = useQuery({ ...boardsOf(other ?? 0), enabled: other !== null }).data
  const { beside } = past
  const put = (to: number | null) =>
    onChange({ beside: to === null ? null : { board: to, on: beside?.on ?? yearBefore(day) } })
  // Of another programme the board that is called alike, or the first.
  if (other !== null && there) {
    const title = here.find((b) => b.id === board)?.title
    const found = there.find((b) => b.title === title) ?? there[0]
    queueMicrotask(() => {
      setOther(null)
      if (found) put(found.id)
    })
  }
  return (
    <>
      <Select
        label={t('past.beside')}
        value={beside === null ? '' : `b${beside.board}`}
        onChange={(v) =>
          v === '' ? put(null) : v.startsWith('p') ? setOther(Number(v.slice(1))) : put(Number(v.slice(1)))
        }>
        <option value="">{t('past.beside.none')}</option>
        <option value={`b${board}`}>{t('past.beside.same')}</option>
        {beside && beside.board !== board && !here.some((b) => b.id === beside.board) && (
          <option value={`b${beside.board}`}>{t('past.beside.chosen')}</option>
        )}
        {here.length > 1 && (
          <optgroup label={t('past.beside.here')}>
            {here
              .filter((b) => b.id !== board)
              .map((b) => (
                <option key={b.id} value={`b${b.id}`}>
                  {b.title}
                </option>
              ))}
          </optgroup>
        )}
        {programmes.length > 1 && (
          <optgroup label={t('past.beside.programmes')}>
            {programmes
              .filter((p) => p.id !== programme)
              .map((p) => (
                <option key={p.id} value={`p${p.id}`}>
                  {p.name}
                </option>
              ))}
          </optgroup>
        )}
      </Select>
      {beside && (
        <TextInput
          label={t('past.beside.on')}
          type="date"
          size="small"
          value={beside.on ?? ''}
          hint={beside.on ? formatDate(beside.on) : t('past.beside.today')}
          onChange={(on) => onChange({ beside: { ...beside, on: on || null } })}
        />
      )}
    </>
  )
}
