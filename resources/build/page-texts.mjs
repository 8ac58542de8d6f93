// The sentences that open pages and the phone's worker can say, for `virtual:open-texts/<language>` and
// `virtual:worker-texts`: of all modules that their first one leads to, every key that stands in them as a word, and every
// key that begins as a key put together there begins.
import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { dirname, resolve } from 'node:path'

const OPEN = 'virtual:open-texts/'
const WORKER = 'virtual:worker-texts'
const root = resolve(import.meta.dirname, '..')

/** Languages that there are, by their catalogues. */
export const languages = () => readdirSync(resolve(root, 'texts')).map((file) => file.replace('.json', ''))

export const catalogue = (language) =>
  JSON.parse(readFileSync(resolve(root, `texts/${language}.json`), 'utf8'))

/** Modules of our own that one leads to, itself with them. */
function reached(from, seen = new Map()) {
  if (seen.has(from)) return seen
  const text = readFileSync(from, 'utf8')
  seen.set(from, text)
  for (const [, path] of text.matchAll(/(?:from|import)\s*\(?\s*'(\.[^']+)'/g)) {
    const base = resolve(dirname(from), path)
    const file = [base, `${base}.ts`, `${base}.tsx`].find((f) => /\.tsx?$/.test(f) && existsSync(f))
    if (file) reached(file, seen)
  }
  return seen
}

/** What the page that begins with a module (below `resources/ts`) can say. */
export function textsOf(first, language) {
  const code = [...reached(resolve(root, 'ts', first)).values()].join('\n')
  const words = new Set([...code.matchAll(/'([a-z][\w.-]*)'/g)].map((m) => m[1]))
  const begun = [...code.matchAll(/`([a-z][\w]*\.[\w.]*)\$\{/g)].map((m) => m[1])
  return Object.fromEntries(
    Object.entries(catalogue(language)).filter(
      ([key]) => words.has(key) || begun.some((b) => key.startsWith(b)),
    ),
  )
}

export const openTexts = (language = 'en') => textsOf('open/main.tsx', language)

export const workerTexts = () =>
  Object.fromEntries(languages().map((language) => [language, textsOf('field/sw.ts', language)]))

const asModule = (texts) => `export default JSON.parse(${JSON.stringify(JSON.stringify(texts))})`

export const pageTextsPlugin = () => ({
  name: 'page-texts',
  resolveId: (id) => (id.startsWith(OPEN) || id === WORKER ? `\0${id}` : null),
  load: (id) =>
    id.startsWith(`\0${OPEN}`)
      ? asModule(openTexts(id.slice(OPEN.length + 1)))
      : id === `\0${WORKER}`
        ? asModule(workerTexts())
        : null,
})
