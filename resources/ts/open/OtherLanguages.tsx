import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useState } from 'react'
import { keepLanguage, LANGUAGES, languageOfPage, type Language } from '../shared/language'
import { t } from '../shared/texts'

const isTyped = () =>
  [...document.forms].some((form) =>
    [...form.elements].some((part) => part instanceof HTMLInputElement && part.value !== ''),
  )

/**
 * For whoever has no account to say it: the languages that this page is not in, each by its own name. The choice belongs
 * to the browser, until somebody signs in there at the desk.
 */
export function OtherLanguages() {
  const [asking, setAsking] = useState(false)
  const [away, setAway] = useState(false)
  // Without a cookie the same page would come again.
  if (!navigator.cookieEnabled) return null
  const others = (Object.entries(LANGUAGES) as [Language, string][]).filter(([l]) => l !== languageOfPage())
  const choose = async (language: Language) => {
    if (isTyped() && !confirm(t('language.typed'))) return
    setAsking(true)
    setAway(false)
    // Without a network the page would be gone, and none in its place.
    const there = await fetch(location.pathname, { method: 'HEAD', cache: 'no-store' }).catch(() => null)
    setAsking(false)
    if (!there?.ok) return setAway(true)
    keepLanguage(language)
    location.reload()
  }
  return (
    <Box
      component="nav"
      aria-label={t('language')}
      sx={{
        flex: 'none',
        display: 'flex',
        flexWrap: 'wrap',
        justifyContent: 'flex-end',
        gap: 1,
        maxWidth: 180,
        '@media print': { display: 'none' },
      }}>
      {others.map(([language, name]) => (
        <Button
          key={language}
          size="small"
          variant="text"
          color="inherit"
          lang={language}
          disabled={asking}
          sx={{ whiteSpace: 'nowrap', textDecoration: 'underline', textUnderlineOffset: '3px' }}
          onClick={() => void choose(language)}>
          {name}
        </Button>
      ))}
      {away && (
        <Typography role="alert" variant="caption" sx={{ textAlign: 'right' }}>
          {t('failure.offline')}
        </Typography>
      )}
    </Box>
  )
}
