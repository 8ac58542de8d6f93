import type { Language } from '../shared/language'
import { speak } from '../shared/texts'

const CATALOGUES: Record<Language, () => Promise<{ default: Record<string, string> }>> = {
  en: () => import('virtual:open-texts/en'),
  de: () => import('virtual:open-texts/de'),
}

/** The sentences that can be said on open pages (resources/build/page-texts.mjs): a visitor does not fetch those of the desk. */
export const bringOpenTexts = async (language: Language) =>
  speak(language, (await CATALOGUES[language]()).default)
