import { languageOfPage } from './language'

const mark = () => new Intl.NumberFormat(languageOfPage()).format(0.5).charAt(1)

/** A number as one types it: with the decimal mark of the page's language, and not in groups. */
export const typedNumber = (number: number | undefined) => String(number ?? '').replace('.', mark())

/** What was typed, with a comma or a point; null where it is no number, half of one, or in groups. */
export function numberIn(text: string): number | null {
  const plain = text.trim().replace(',', '.')
  return /^[-−]?(\d+\.?\d*|\.\d+)(e[-+]?\d+)?$/i.test(plain) ? Number(plain.replace('−', '-')) : null
}
