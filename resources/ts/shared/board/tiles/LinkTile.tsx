import Button from '@mui/material/Button'
import type { TileProps } from './shared'

/** A way to another page. */
export function LinkTile({ tile }: TileProps<'link'>) {
  const { address, text } = tile.answer
  const outside = /^https?:/i.test(address)
  return (
    <Button
      component="a"
      href={address}
      variant="outlined"
      sx={{ mt: 1.5, alignSelf: 'start' }}
      {...(outside ? { target: '_blank', rel: 'noopener noreferrer' } : {})}>
      {text || address}
    </Button>
  )
}
