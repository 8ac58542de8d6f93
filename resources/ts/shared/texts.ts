import { IntlMessageFormat } from 'intl-messageformat'
import type en from '../../texts/en.json'
import type { Language } from './language'

export type TextKey = keyof typeof en
type Params = Record<string, string | number | null | undefined>

let language: Language = 'en'
/** What a page has brought along: all sentences (catalogues.ts), or those that it can say (open/openTexts.ts). */
let catalogue: Partial<Record<string, string>> = {}

/** Before anything is said, and once: what a page is written in stays, until it is loaded again. */
export function speak(of: Language, texts: Partial<Record<string, string>>) {
  language = of
  catalogue = texts
  for (const kept of [formats, numbers, days, instants]) kept.clear()
}
export const spokenLanguage = (): Language => language

/** Made when first asked for, and kept: making one takes a hundred times as long as using it. */
function kept<K, V>(all: Map<K, V>, key: K, make: () => V): V {
  let found = all.get(key)
  if (found === undefined) all.set(key, (found = make()))
  return found
}

const formats = new Map<string, IntlMessageFormat>()

/** The sentence for a key (an ICU message), with its parameters put in. */
export function t(key: TextKey, params: Params = {}): string {
  const pattern = catalogue[key]
  if (pattern === undefined) return key
  // Most are plain words; making a formatter for each of them would take a tenth of a slow phone's start.
  if (!/[{}'<]/.test(pattern)) return pattern
  return String(kept(formats, pattern, () => new IntlMessageFormat(pattern, language)).format(params))
}

/** Whether the catalogue knows a key that came from elsewhere. */
export const isTextKey = (key: string): key is TextKey => key in catalogue

const numbers = new Map<string, Intl.NumberFormat>()
/** @param options as for Intl.NumberFormat, with `key` to know them by */
export const formatNumber = (n: number, key = '', options: Intl.NumberFormatOptions = {}) =>
  kept(numbers, key, () => new Intl.NumberFormat(language, options)).format(n)

/** A number that was written with a decimal point, as it is written in the language spoken; nothing else of it changes. */
export const decimal = (plain: string) => (language === 'de' ? plain.replace('.', ',') : plain)

const days = new Map<string, Intl.DateTimeFormat>()
/** A calendar date (year-month-day) as people write it; no time zone is involved. */
export const formatDate = (day: string) =>
  formatDay(new Date(`${day}T00:00:00Z`), { day: 'numeric', month: 'short', year: 'numeric' })

/** Parts of a day in universal time, as people write them. */
export const formatDay = (at: Date, parts: Intl.DateTimeFormatOptions) =>
  kept(
    days,
    Object.keys(parts).join(),
    () => new Intl.DateTimeFormat(language, { ...parts, timeZone: 'UTC' }),
  ).format(at)

const instants = new Map<string | undefined, Intl.DateTimeFormat>()
export const formatInstant = (instant: string, timeZone?: string): string =>
  kept(
    instants,
    timeZone,
    () =>
      new Intl.DateTimeFormat(language, {
        day: 'numeric',
        month: 'short',
        hour: '2-digit',
        minute: '2-digit',
        hour12: false,
        timeZone,
      }),
  ).format(new Date(instant))

const minutesSince = (instant: string | number) =>
  Math.max(0, Math.round((Date.now() - new Date(instant).getTime()) / 60_000))

/** How old, in one unit: "3 min", "2 h", "5 days". */
export function age(instant: string | number): string {
  return span(minutesSince(instant) * 60_000)
}

/** A span of time in one unit. */
export const span = (ms: number) => {
  const minutes = Math.max(1, Math.round(ms / 60_000))
  return minutes < 60
    ? t('age.minutes', { n: minutes })
    : minutes < 48 * 60
      ? t('age.hours', { n: Math.round(minutes / 60) })
      : t('age.days', { n: Math.round(minutes / 1440) })
}

/** The same as a point in time: "just now", "3 min ago". */
export const ago = (instant: string | number) =>
  minutesSince(instant) < 1 ? t('age.now') : t('age.ago', { age: age(instant) })

/** How many days before or after today a day is, in words: "3 days ago", "today", "in 2 days". */
export function fromToday(moment: string): string {
  const day = (at: Date) => Date.UTC(at.getFullYear(), at.getMonth(), at.getDate()) / 86_400_000
  // A day without a time is that day everywhere.
  const then = moment.length === 10 ? Date.parse(`${moment}T00:00:00Z`) / 86_400_000 : day(new Date(moment))
  const n = Math.round(day(new Date()) - then)
  return n === 0
    ? t('age.today')
    : n > 0
      ? t('age.ago', { age: t('age.days', { n }) })
      : t('age.in', { n: -n })
}
