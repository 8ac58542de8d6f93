// The sentences that open pages can say, for `virtual:open-texts`: of all modules that open/main.tsx leads to, every key that
// stands in them as a word, and every key that begins as a key put together there begins.
import { existsSync, readFileSync } from 'node:fs'
import { dirname, resolve } from 'node:path'

const ID = 'virtual:open-texts'
const root = resolve(import.meta.dirname, '..')

/** Modules of our own that one leads to, itself with them. */
function reached(from, seen = new Map()) {
  if (seen.has(from)) return seen
  const text = readFileSync(from, 'utf8')
  seen.set(from, text)
  for (const [, path] of text.matchAll(/(?:from|import)\s*\(?\s*'(\.[^']+)'/g)) {
    const base = resolve(dirname(from), path)
    const file = [base, `${base}.ts`, `${base}.tsx`].find((f) => /\.tsx?$/.test(f) && existsSync(f))
    if (file && !file.endsWith('allTexts.ts')) reached(file, seen)
  }
  return seen
}

export function openTexts() {
  const en = JSON.parse(readFileSync(resolve(root, 'texts/en.json'), 'utf8'))
  const code = [...reached(resolve(root, 'ts/open/main.tsx')).values()].join('\n')
  const words = new Set([...code.matchAll(/'([a-z][\w.-]*)'/g)].map((m) => m[1]))
  const begun = [...code.matchAll(/`([a-z][\w]*\.[\w.]*)\$\{/g)].map((m) => m[1])
  return Object.fromEntries(
    Object.entries(en).filter(([key]) => words.has(key) || begun.some((b) => key.startsWith(b))),
  )
}

export const openTextsPlugin = () => ({
  name: 'open-texts',
  resolveId: (id) => (id === ID ? `\0${ID}` : null),
  load: (id) =>
    id === `\0${ID}` ? `export default JSON.parse(${JSON.stringify(JSON.stringify(openTexts()))})` : null,
})
