import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { keepLanguage, LANGUAGES, languageOfPage, type Language } from '../shared/language'
import { t } from '../shared/texts'

const choose = (language: Language) => {
  keepLanguage(language)
  location.reload()
}

/**
 * For whoever has no account to say it: the languages that this page is not in, each by its own name. The choice belongs
 * to the browser, until somebody signs in there at the desk.
 */
export function OtherLanguages() {
  // Without a cookie the same page would come again.
  if (!navigator.cookieEnabled) return null
  const others = (Object.entries(LANGUAGES) as [Language, string][]).filter(([l]) => l !== languageOfPage())
  return (
    <Box
      component="nav"
      aria-label={t('language')}
      sx={{ flex: 'none', display: 'flex', gap: 1, '@media print': { display: 'none' } }}>
      {others.map(([language, name]) => (
        <Button
          key={language}
          size="small"
          variant="text"
          color="inherit"
          lang={language}
          sx={{ whiteSpace: 'nowrap', textDecoration: 'underline', textUnderlineOffset: '3px' }}
          onClick={() => choose(language)}>
          {name}
        </Button>
      ))}
    </Box>
  )
}
