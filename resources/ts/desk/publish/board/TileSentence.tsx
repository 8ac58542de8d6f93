import Box from '@mui/material/Box'
import ButtonBase from '@mui/material/ButtonBase'
import Popover from '@mui/material/Popover'
import { useState } from 'react'
import { paint } from '../../../shared/paint'
import { t } from '../../../shared/texts'
import type { Tile } from '../../../shared/types'
import { PartForm } from './PartForm'
import { sentenceOf, type Known, type Part } from './sentence'

/** A tile as a sentence whose parts one taps to change them. */
export function TileSentence({
  tile,
  known,
  onChange,
}: {
  tile: Tile
  known: Known
  onChange: (tile: Tile) => void
}) {
  const [at, setAt] = useState<{ part: Part; anchor: HTMLElement } | null>(null)
  const pieces = sentenceOf(tile, known)
  return (
    <>
      <Box sx={{ fontSize: '0.84rem', color: 'text.secondary' }}>{t('sentence.tap')}</Box>
      <Box sx={{ fontSize: '1.12rem', lineHeight: 1.75, fontWeight: 600 }}>
        {pieces.map((piece, i) =>
          typeof piece === 'string' ? (
            <span key={i}>{piece}</span>
          ) : (
            <ButtonBase
              key={i}
              aria-haspopup="dialog"
              aria-label={t('sentence.change', { words: piece.words })}
              onClick={(e) => setAt({ part: piece.part, anchor: e.currentTarget })}
              sx={{
                display: 'inline',
                verticalAlign: 'baseline',
                color: piece.part === 'slice' || piece.part === 'compare' ? paint.buoyDark : paint.kelp,
                borderBottom: '2px solid currentColor',
                lineHeight: 1.2,
                fontWeight: 650,
                textAlign: 'left',
                '&:hover': { bgcolor: paint.pointed },
              }}>
              {piece.words}
            </ButtonBase>
          ),
        )}
      </Box>
      <Popover
        open={at !== null}
        anchorEl={at?.anchor ?? null}
        onClose={() => setAt(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
        slotProps={{
          paper: {
            sx: { p: 4, width: 340, maxWidth: 'calc(100vw - 32px)', maxHeight: '70vh' },
            'aria-label': t('sentence.part'),
          },
        }}>
        {at && <PartForm part={at.part} tile={tile} known={known} onChange={onChange} />}
      </Popover>
    </>
  )
}
