import type { Language } from './language'
import { speak } from './texts'

const CATALOGUES: Record<Language, () => Promise<{ default: Record<string, string> }>> = {
  en: () => import('../../texts/en.json', { with: { type: 'json' } }),
  de: () => import('../../texts/de.json', { with: { type: 'json' } }),
}

/** For the screens of those who work here: all sentences of one language, before any is said. */
export const bringTexts = async (language: Language) =>
  speak(language, (await CATALOGUES[language]()).default)
