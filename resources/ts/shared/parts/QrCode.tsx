import Box from '@mui/material/Box'
import { QRCodeSVG } from 'qrcode.react'
import { paint } from '../paint'

/** Something for the camera of another device, on white, as cameras need it. */
export function QrCode({ value, size, title }: { value: string; size: number; title: string }) {
  return (
    <Box
      sx={{
        bgcolor: paint.white,
        p: 2,
        border: `1px solid ${paint.line}`,
        borderRadius: 1.5,
        lineHeight: 0,
      }}>
      <QRCodeSVG value={value} size={size} title={title} />
    </Box>
  )
}
