import Box from '@mui/material/Box'
import { paint } from '../paint'

/** A small picture of a map, as whoever looks at it gets the map; the title beside it says what it is. */
export const MapPicture = ({ address }: { address: string }) => (
  <Box
    component="img"
    src={address}
    alt=""
    loading="lazy"
    width={480}
    height={270}
    sx={{
      display: 'block',
      width: '100%',
      height: 'auto',
      aspectRatio: '16 / 9',
      objectFit: 'cover',
      bgcolor: paint.sea,
    }}
  />
)
