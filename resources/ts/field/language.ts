import { api } from '../shared/api'
import { languageOf, languageOfPage, type Language } from '../shared/language'
import { spokenLanguage } from '../shared/texts'
import type { Me } from '../shared/types'
import { meta, setMeta } from './db'

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

/** Also without signal; the account hears of it if it can, for its mails and the desk. */
export async function chooseLanguage(language: Language) {
  await setMeta('language', language)
  await api('PATCH', '/me', { language }).catch(() => undefined)
  location.reload()
}

/** Whether somebody has taken the phone who reads another language than the one on its screen. */
export const readsAnother = async (): Promise<boolean> => {
  const language = chosen(await meta('language'), await meta<Me>('me'))
  return language !== null && language !== spokenLanguage()
}
