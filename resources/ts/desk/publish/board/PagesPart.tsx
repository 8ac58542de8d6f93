import DeleteOutline from '@mui/icons-material/DeleteOutline'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import OutlinedInput from '@mui/material/OutlinedInput'
import { Sheet } from '../../../shared/parts/Sheet'
import { t } from '../../../shared/texts'

const MOST = 12

/** The pages of a board, where it has several. */
export function PagesPart({
  pages,
  onChange,
  onRemove,
}: {
  pages: string[]
  onChange: (pages: string[]) => void
  onRemove: (page: number) => void
}) {
  return (
    <Sheet title={t('board.pages')}>
      <Box component="ol" sx={{ listStyle: 'none', m: 0, p: 0, display: 'grid', gap: 1.5 }}>
        {pages.map((title, i) => (
          <Box component="li" key={i} sx={{ display: 'flex', gap: 1 }}>
            <OutlinedInput
              size="small"
              fullWidth
              value={title}
              placeholder={t('board.page', { n: i + 1 })}
              inputProps={{ 'aria-label': t('board.page', { n: i + 1 }), maxLength: 60 }}
              onChange={(e) => onChange(pages.map((p, j) => (j === i ? e.target.value : p)))}
            />
            <IconButton aria-label={t('board.page.remove', { n: i + 1 })} onClick={() => onRemove(i)}>
              <DeleteOutline fontSize="small" />
            </IconButton>
          </Box>
        ))}
      </Box>
      {pages.length < MOST && (
        <Button
          variant="outlined"
          size="small"
          sx={{ mt: pages.length ? 2 : 0 }}
          onClick={() =>
            onChange(
              pages.length
                ? [...pages, t('board.page', { n: pages.length + 1 })]
                : [t('board.page', { n: 1 }), t('board.page', { n: 2 })],
            )
          }>
          {t('board.page.add')}
        </Button>
      )}
    </Sheet>
  )
}
