import { IntlMessageFormat } from 'intl-messageformat'
import type en from '../../texts/en.json'

export type TextKey = keyof typeof en
type Params = Record<string, string | number | null | undefined>

const language = 'en'
/** What a page has brought along: all sentences (allTexts.ts), or those that it can say (open/openTexts.ts). */
const catalogue: Partial<Record<string, string>> = {}
export const addTexts = (texts: Partial<Record<string, string>>) => void Object.assign(catalogue, texts)

const formats = new Map<string, IntlMessageFormat>()

/** The sentence for a key (an ICU message), with its parameters put in. */
export function t(key: TextKey, params: Params = {}): string {
  const pattern = catalogue[key]
  if (pattern === undefined) return key
  // Most are plain words; making a formatter for each of them would take a tenth of a slow phone's start.
  if (!/[{}'<]/.test(pattern)) return pattern
  let format = formats.get(pattern)
  if (!format) formats.set(pattern, (format = new IntlMessageFormat(pattern, language)))
  return String(format.format(params))
}

/** Whether the catalogue knows a key that came from elsewhere. */
export const isTextKey = (key: string): key is TextKey => key in catalogue

const numbers = new Intl.NumberFormat(language)
export const formatNumber = (n: number) => numbers.format(n)

const days = new Intl.DateTimeFormat(language, {
  day: 'numeric',
  month: 'short',
  year: 'numeric',
  timeZone: 'UTC',
})
/** By time zone: making one takes a hundred times as long as using it. */
const instants = new Map<string | undefined, Intl.DateTimeFormat>()

/** A calendar date (year-month-day) as people write it; no time zone is involved. */
export const formatDate = (day: string) => days.format(new Date(`${day}T00:00:00Z`))

export function formatInstant(instant: string, timeZone?: string): string {
  let format = instants.get(timeZone)
  if (!format)
    instants.set(
      timeZone,
      (format = new Intl.DateTimeFormat(language, {
        day: 'numeric',
        month: 'short',
        hour: '2-digit',
        minute: '2-digit',
        hour12: false,
        timeZone,
      })),
    )
  return format.format(new Date(instant))
}

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
