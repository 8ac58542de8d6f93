import Box from '@mui/material/Box'
import { useEffect, useState } from 'react'
import { paint } from '../../shared/paint'
import { t } from '../../shared/texts'

type Props = {
  row: number
  column: string
  value: string
  bad: boolean
  /** Keeps what was typed; fails where it could not be kept. */ onKeep: (text: string) => Promise<void>
}

/**
 * A cell of a row that waits. What is typed stays in it until it is kept, whatever else is fetched or fails
 * meanwhile.
 */
export function RejectedCell({ row, column, value, bad, onKeep }: Props) {
  const [typed, setTyped] = useState<string | null>(null)
  const [failed, setFailed] = useState(false)
  // What has come back is what was typed: from here on the row's own value is shown.
  useEffect(() => {
    if (typed === value) setTyped(null)
  }, [typed, value])
  const keep = async () => {
    if (typed === null || typed === value) return
    try {
      await onKeep(typed)
      setFailed(false)
    } catch {
      setFailed(true)
    }
  }
  const text = typed ?? value
  return (
    <Box
      component="input"
      value={text}
      aria-label={t('bring.cell', { row, column })}
      aria-invalid={failed || bad}
      title={failed ? t('bring.cell.unkept') : undefined}
      onChange={(e: React.ChangeEvent<HTMLInputElement>) => setTyped(e.target.value)}
      onBlur={() => void keep()}
      sx={{
        font: 'inherit',
        border: failed ? `2px solid ${paint.brick}` : `1px solid ${paint.frame}`,
        borderRadius: 1,
        p: 0.5,
        width: `${Math.max(8, Math.min(24, text.length + 2))}ch`,
        bgcolor: bad || failed ? paint.buoyWash : paint.sheet,
      }}
    />
  )
}
