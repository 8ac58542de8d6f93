import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Link from '@mui/material/Link'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link as RouterLink } from 'react-router'
import { Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import { useProgramme } from '../ProgrammePage'
import type { Api } from '../../shared/types'
import { readyCheckOf } from '../queries/plan'

type Line = Api['ReadyLine']

/** What is still missing before crews go out: each line says why, and has the button that puts it right. */
export function ReadyCheck() {
  const programme = useProgramme()
  const [all, setAll] = useState(false)
  const lines = useQuery(readyCheckOf(programme.id))
  if (!lines.data) return null
  const missing = lines.data.filter((l) => !l.holds)
  const base = `/desk/p/${programme.id}`
  const place = (line: Line): string => {
    switch (line.fix) {
      case 'rights':
        return `${base}/build/${line.layer}?part=rights`
      case 'photos':
        return `${base}/build/${line.layer}?part=photos`
      case 'people':
        return `${base}/collect`
      case 'map':
        return `${base}/publish`
      case 'trial':
        return `${base}/check?layer=${line.layer}&add=1`
      case 'seen':
        return `${base}/publish/seen`
      case 'check':
        return `${base}/check?layer=${line.layer}&to_check=1`
      case 'questions':
        return `${base}/plan`
      case 'area':
      case 'pack':
        return `${base}/plan?part=programme`
      default:
        return line.layer === null ? `${base}/build` : `${base}/build/${line.layer}`
    }
  }
  return (
    <Sheet
      tone={missing.length ? 'warn' : 'plain'}
      title={t('ready.title', { done: lines.data.length - missing.length, all: lines.data.length })}>
      {missing.length === 0 && <Typography sx={{ mb: 2 }}>{t('ready.all')}</Typography>}
      <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0, display: 'grid', gap: 3 }}>
        {(all ? lines.data : missing).map((line) => (
          <Box
            component="li"
            key={line.code + line.layer}
            sx={{ display: 'flex', gap: 3, justifyContent: 'space-between', alignItems: 'start' }}>
            <Box>
              <Typography sx={{ fontWeight: line.holds ? 400 : 650 }}>
                <Box
                  component="span"
                  aria-hidden
                  sx={{ color: line.holds ? 'primary.main' : 'secondary.main', mr: 1.5 }}>
                  {line.holds ? '✓' : '○'}
                </Box>
                {line.message}
              </Typography>
              {!line.holds && (
                <Typography variant="body2" color="text.secondary">
                  {line.why}
                </Typography>
              )}
            </Box>
            {!line.holds && (
              <Button size="small" component={RouterLink} to={place(line)} sx={{ flex: 'none' }}>
                {t(`ready.fix.${line.fix}`)}
              </Button>
            )}
          </Box>
        ))}
      </Box>
      <Box sx={{ mt: 3 }}>
        <Link component="button" type="button" variant="body2" onClick={() => setAll(!all)}>
          {all ? t('ready.hide') : t('ready.show', { all: lines.data.length })}
        </Link>
      </Box>
    </Sheet>
  )
}
