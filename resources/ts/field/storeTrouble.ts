import { t } from '../shared/texts'

/** Why the phone's store did not take something, in words. */
export function storeTrouble(e: unknown): string {
  const name = e instanceof Error ? `${e.name} ${e.message}` : String(e)
  if (/quota|disk/i.test(name)) return t('store.full')
  if (/DatabaseClosed|InvalidState|NotFoundError|MissingAPI|OpenFailed/i.test(name)) return t('store.gone')
  return e instanceof Error && e.message ? e.message : t('store.gone')
}
