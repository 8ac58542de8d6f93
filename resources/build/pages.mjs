// After the screens are built: every page in every language. `desk.html` is in English, `desk.de.html` in German; a page
// says which language it is in (`<html lang>`), and fetches the sentences of that one beside its scripts.
import { readFileSync, writeFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { catalogue, languages } from './page-texts.mjs'

const app = resolve(import.meta.dirname, '../../public/app')
const manifest = JSON.parse(readFileSync(`${app}/manifest.json`, 'utf8'))
/** Chunk with the sentences of a page. */
const sentences = (page, language) =>
  manifest[page === 'open' ? `../../virtual:open-texts/${language}` : `../texts/${language}.json`].file
const escaped = (text) => text.replace(/&/g, '&amp;').replace(/</g, '&lt;')

for (const page of ['desk', 'field', 'open', 'kit']) {
  const html = readFileSync(`${app}/${page}.html`, 'utf8')
  for (const language of languages()) {
    const texts = catalogue(language)
    const told = html
      .replace('<html lang="en">', `<html lang="${language}">`)
      .replace(
        '<link rel="modulepreload"',
        `<link rel="modulepreload" crossorigin href="/app/${sentences(page, language)}">\n    <link rel="modulepreload"`,
      )
      .replace(/<noscript>[^<]*/, `<noscript>${escaped(texts['page.noscript'])}`)
      .replace('<title>Pin Yard in the field', `<title>${escaped(texts['page.field'])}`)
    writeFileSync(`${app}/${language === 'en' ? page : `${page}.${language}`}.html`, told)
  }
}
