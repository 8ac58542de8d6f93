import Box from '@mui/material/Box'
import { Fragment } from 'react'
import { saidOr } from '../numbers'
import type { TileProps } from './shared'

/** Sentences with values in them. */
export function TextTile({ tile }: TileProps<'text'>) {
  const { text, values } = tile.answer
  return (
    <Box sx={{ mt: 1, whiteSpace: 'pre-wrap', overflowWrap: 'anywhere' }}>
      {text.split(/(\{\d{1,3}\})/).map((piece, i) => {
        const n = /^\{(\d+)\}$/.exec(piece)
        const value = n ? values[Number(n[1]) - 1] : undefined
        return value ? (
          <b key={i}>{saidOr(value.value, value, value.least)}</b>
        ) : (
          <Fragment key={i}>{piece}</Fragment>
        )
      })}
    </Box>
  )
}
