/** Languages that people read in, by what each calls itself; each has a catalogue in resources/texts (App\Language). */
export const LANGUAGES = { en: 'English', de: 'Deutsch' } as const
export type Language = keyof typeof LANGUAGES

export const languageOf = (text: unknown): Language | null =>
  typeof text === 'string' && Object.hasOwn(LANGUAGES, text) ? (text as Language) : null

/** In which language the server gave this page: by the cookie, or else by what the browser asks for (ops/nginx.conf). */
export const languageOfPage = (): Language => languageOf(document.documentElement.lang) ?? 'en'

const COOKIE = 'pin_yard_language'
const YEAR = 365 * 86_400

/** Whoever works in this browser reads this language from the next page on; null: whatever the browser asks for. */
export function keepLanguage(language: Language | null) {
  document.cookie = `${COOKIE}=${language ?? ''}; path=/; max-age=${language ? YEAR : 0}; samesite=lax`
}

/**
 * Sees to it that a person has the pages in their language.
 *
 * @returns whether this page is in another one, and has to be loaded again
 */
export function settleLanguage(chosen: unknown): boolean {
  const language = languageOf(chosen)
  if (!language) return false
  const known = new RegExp(`(?:^|; )${COOKIE}=${language}(?:;|$)`).test(document.cookie)
  if (!known) keepLanguage(language)
  // A browser that keeps no cookie must not be loaded again and again.
  return languageOfPage() !== language && document.cookie.includes(`${COOKIE}=${language}`) && !known
}
