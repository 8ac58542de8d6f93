import { api } from '../shared/api'
import { languageOf, languageOfPage, type Language } from '../shared/language'
import { spokenLanguage } from '../shared/texts'
import type { Me } from '../shared/types'
import { db, meta, setMeta } from './db'

/*
 * In which language a phone speaks: what its bearer chose on it, or else on their own page before they signed in here, or
 * else what the browser asks for. It is kept with the phone's settings, for the page may come without signal.
 */

const chosen = (own: unknown, me: Me | undefined) => languageOf(own) ?? languageOf(me?.language)

/** @param now settings of the store, once it is open */
export function languageOfPhone(now: <T>(key: string) => T | undefined): Language {
  const language = chosen(now('language'), now<Me>('me')) ?? languageOfPage()
  document.documentElement.lang = language
  return language
}

/** The same for the worker, which has no page. */
export const languageOfWorker = async (): Promise<Language> =>
  chosen(await meta('language'), await meta<Me>('me')) ?? 'en'

/** At once, with or without signal; the account hears of it with a round. */
export async function chooseLanguage(language: Language) {
  await setMeta('language', language)
  location.reload()
}

/** The account hears what was chosen on the phone when there is signal, for its mails and the desk; once, and not again. */
export async function tellLanguage() {
  const language = languageOf(await meta('language'))
  const me = await meta<Me>('me')
  if (!language || !me || me.language === language) return
  await api('PATCH', '/me', { language })
  await db.transaction('rw', db.meta, async () => {
    // Unless somebody else has taken the phone meanwhile.
    const now = await meta<Me>('me')
    if (now?.id === me.id) await setMeta('me', { ...now, language })
  })
}

/** Whether somebody has taken the phone who reads another language than the one on its screen. */
export const readsAnother = async (): Promise<boolean> => {
  const language = chosen(await meta('language'), await meta<Me>('me'))
  return language !== null && language !== spokenLanguage()
}
