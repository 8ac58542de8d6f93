import { t, type TextKey } from '../../shared/texts'
import type { Api } from '../../shared/types'

type Entry = Api['AuditEntry']

const said = (value: string | number | null | undefined) => String(value ?? '')

/** One entry as the rest of a sentence that begins with who did it. */
export function auditText({ kind, about }: Entry): string {
  if (kind === 'rule') return rule(about)
  if (kind === 'work_seen')
    return t('audit.work_seen', {
      what: t(`work.${said(about.what)}` as 'work.trails'),
      told: said(about.told),
      of: about.audience === null ? t(`seen.of.${said(about.kind)}` as 'seen.of.link') : said(about.audience),
    })
  if (kind === 'crew' && about.crew === null) return t('audit.crew_none', { ...words(about) })
  return t(`audit.${kind}` as TextKey, words(about))
}

const words = (about: Entry['about']): Record<string, string> =>
  Object.fromEntries(Object.entries(about).map(([key, value]) => [key, said(value)]))

function rule(about: Entry['about']): string {
  const of =
    about.audience === null ? t(`seen.of.${said(about.kind)}` as 'seen.of.link') : said(about.audience)
  const layer = said(about.layer)
  if (about.rows === 'unsaid') return t('audit.rule_unsaid', { layer, of })
  return t('audit.rule', { layer, of, words: told(about) })
}

function told(about: Entry['about']): string {
  if (about.rows === 'none') return t('seen.nothing')
  if (about.rows === 'own') return t('seen.own')
  return [
    about.rows === 'slice' ? t('audit.rule.slice') : t('seen.rows.all'),
    about.accepted === 'yes' && t('seen.accepted.word'),
    about.place === 'cell' && t('seen.blurred', { metres: said(about.metres) }),
    about.place === 'area' && t('seen.inareas', { areas: said(about.areas) }),
    about.place === 'none' && t('seen.noplace'),
    Number(about.least) > 0 && t('seen.least.word', { n: Number(about.least) }),
    Number(about.fields) >= 0 && t('audit.rule.fields', { n: Number(about.fields) }),
    about.photos !== 'yes' && t('seen.nophotos'),
  ]
    .filter(Boolean)
    .join(', ')
}
