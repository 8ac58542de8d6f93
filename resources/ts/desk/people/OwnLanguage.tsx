import FormHelperText from '@mui/material/FormHelperText'
import { useState } from 'react'
import { keepLanguage, type Language } from '../../shared/language'
import { LanguageChoice } from '../../shared/parts/LanguageChoice'
import { Problems } from '../../shared/parts/Problems'
import { Sheet } from '../../shared/parts/Sheet'
import { spokenLanguage, t } from '../../shared/texts'
import { readIn } from '../queries/programmes'

/** In which language one reads: screens, answers and mails. */
export function OwnLanguage() {
  const [saving, setSaving] = useState<Language | null>(null)
  const [error, setError] = useState<unknown>(null)
  const choose = async (language: Language) => {
    setSaving(language)
    try {
      await readIn(language)
      keepLanguage(language)
      location.reload()
    } catch (caught) {
      setError(caught)
      setSaving(null)
    }
  }
  return (
    <Sheet title={t('account.language')}>
      <LanguageChoice
        label={t('account.language.read')}
        value={saving ?? spokenLanguage()}
        disabled={saving !== null}
        onChange={(language) => void choose(language)}
      />
      <FormHelperText>{t('account.language.hint')}</FormHelperText>
      <Problems error={error} />
    </Sheet>
  )
}
