import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useRef, useState } from 'react'
import { QrCode } from '../../shared/parts/QrCode'
import { t } from '../../shared/texts'

/** An address to hand on: as text to copy, and as a QR code. */
export function Address({ address, hint }: { address: string; hint: string }) {
  const [copied, setCopied] = useState(false)
  const words = useRef<HTMLElement>(null)
  const copy = async () => setCopied(await copyText(address, words.current))
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: 'auto 1fr', gap: 4, alignItems: 'start' }}>
      <QrCode value={address} size={112} title={address} />
      <Box sx={{ minWidth: 0 }}>
        <Typography variant="body2" color="text.secondary" sx={{ mb: 2 }}>
          {hint}
        </Typography>
        <Box
          component="code"
          ref={words}
          data-testid="address"
          sx={{ display: 'block', fontSize: '0.8rem', wordBreak: 'break-all', mb: 2 }}>
          {address}
        </Box>
        <Button size="small" variant="outlined" onClick={() => void copy()}>
          {t(copied ? 'copied' : 'copy')}
        </Button>
      </Box>
    </Box>
  )
}

/**
 * Puts a text where it can be pasted from. Browsers give their clipboard to pages over TLS alone, and not always to
 * these: then the words are marked, so that the keys for it do the same.
 *
 * @returns whether it is there
 */
async function copyText(text: string, shown: HTMLElement | null): Promise<boolean> {
  try {
    await navigator.clipboard.writeText(text)
    return true
  } catch {
    if (shown) getSelection()?.selectAllChildren(shown)
    return document.execCommand('copy')
  }
}
