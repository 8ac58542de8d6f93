import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useRef, useState } from 'react'
import { sentences } from '../../shared/api'
import { t } from '../../shared/texts'
import { sameFiles, sendBytes, type Import } from './import'

/**
 * A file whose sending was cut, by a lost network or a closed page: chosen again, it goes on from where it
 * stood.
 */
export function ResumeImport({ found }: { found: Import }) {
  const input = useRef<HTMLInputElement>(null)
  const [share, setShare] = useState<number | null>(null)
  const [said, setSaid] = useState<string[]>([])
  const goOn = async (chosen: File[]) => {
    const files = sameFiles(found, chosen)
    if (!files)
      return setSaid([
        t('bring.other_file', {
          names: found.files
            .map((f) => f.name)
            .slice(0, 3)
            .join(', '),
        }),
      ])
    setSaid([])
    setShare(0)
    try {
      await sendBytes(found.id, files, setShare)
    } catch (e) {
      setSaid(sentences(e))
    } finally {
      setShare(null)
    }
  }
  return (
    <Box sx={{ my: 3 }}>
      <Typography>{t('bring.cut')}</Typography>
      <Button
        variant="outlined"
        sx={{ mt: 2 }}
        disabled={share !== null}
        onClick={() => input.current?.click()}>
        {share === null ? t('bring.goon') : t('bring.sending', { share: Math.round(share * 100) })}
      </Button>
      <input
        ref={input}
        type="file"
        multiple
        className="visually-hidden"
        tabIndex={-1}
        aria-label={t('bring.goon')}
        onChange={(e) => {
          void goOn([...(e.target.files ?? [])])
          e.target.value = ''
        }}
      />
      {said.length > 0 && (
        <Box role="alert" sx={{ color: 'error.main', mt: 1 }}>
          {said.map((l) => (
            <div key={l}>{l}</div>
          ))}
        </Box>
      )}
    </Box>
  )
}
