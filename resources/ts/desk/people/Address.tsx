import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { QRCodeSVG } from 'qrcode.react'
import { useState } from 'react'
import { paint } from '../../shared/paint'
import { t } from '../../shared/texts'

/** An address to hand on: as text to copy, and as a QR code. */
export function Address({ address, hint }: { address: string; hint: string }) {
  const [copied, setCopied] = useState(false)
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: 'auto 1fr', gap: 4, alignItems: 'start' }}>
      <Box
        sx={{
          bgcolor: paint.white,
          p: 2,
          border: `1px solid ${paint.line}`,
          borderRadius: 1.5,
          lineHeight: 0,
        }}>
        <QRCodeSVG value={address} size={112} title={address} />
      </Box>
      <Box sx={{ minWidth: 0 }}>
        <Typography variant="body2" color="text.secondary" sx={{ mb: 2 }}>
          {hint}
        </Typography>
        <Box
          component="code"
          data-testid="address"
          sx={{ display: 'block', fontSize: '0.8rem', wordBreak: 'break-all', mb: 2 }}>
          {address}
        </Box>
        <Button
          size="small"
          variant="outlined"
          onClick={() => void navigator.clipboard.writeText(address).then(() => setCopied(true))}>
          {t(copied ? 'copied' : 'copy')}
        </Button>
      </Box>
    </Box>
  )
}
