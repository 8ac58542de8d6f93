// node run.mjs FOLDER [add KEY DATA.geojson STYLE.json | remove KEY]       see bin/backdrop
import {
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs'
import { checked, MOST_BYTES, Unsound } from './checked.mjs'

const [folder, what = 'list', key, dataFile, styleFile] = process.argv.slice(2)
const ships = new URL('../../public/backdrop/', import.meta.url)
const named = (at) =>
  existsSync(at)
    ? readdirSync(at)
        .filter((n) => n.endsWith('.style.json'))
        .map((n) => n.slice(0, -'.style.json'.length))
    : []

function read(file, most) {
  if (!file || !existsSync(file)) throw new Unsound([`There is no file ${file ?? ''}.`])
  const { size } = statSync(file)
  if (size > most)
    throw new Unsound([
      `${file} has ${(size / 1e6).toFixed(1)} MB; ${(most / 1e6).toFixed(0)} are the most. ` +
        'Phones take all of it: leave out what is not seen (ogr2ogr -simplify, -clipsrc).',
    ])
  try {
    return JSON.parse(readFileSync(file, 'utf8').replace(/^\uFEFF/, ''))
  } catch (error) {
    throw new Unsound([`${file} is no JSON: ${error.message}`])
  }
}

/** Whole or not at all: pages may be reading it. */
function write(file, value) {
  writeFileSync(`${file}.new`, JSON.stringify(value))
  renameSync(`${file}.new`, file)
}

function add() {
  if (named(ships).includes(key)) throw new Unsound([`“${key}” ships with Pin Yard; choose another name.`])
  const there = named(folder).includes(key)
  const { data, style, corrections } = checked(key, read(dataFile, MOST_BYTES), read(styleFile, 1 << 20))
  mkdirSync(folder, { recursive: true })
  // The style last: what has none is not shown.
  write(`${folder}/${key}.json`, data)
  write(`${folder}/${key}.style.json`, style)
  corrections.forEach((c) => console.log(`Corrected: ${c}`))
  console.log(
    `${there ? 'Replaced' : 'Added'} “${key}”: ${data.features.length} features. Maps that are opened from now on have it.`,
  )
}

function remove() {
  if (!named(folder).includes(key))
    throw new Unsound([
      named(ships).includes(key)
        ? `“${key}” ships with Pin Yard and stays.`
        : `There is no backdrop “${key}” to remove.`,
    ])
  rmSync(`${folder}/${key}.style.json`)
  rmSync(`${folder}/${key}.json`, { force: true })
  console.log(`Removed “${key}”. Phones let go of it when their pack is next brought up to date.`)
}

function list() {
  for (const name of named(ships)) console.log(`${name.padEnd(32)} ships`)
  for (const name of named(folder))
    console.log(`${name.padEnd(32)} added, ${(statSync(`${folder}/${name}.json`).size / 1e6).toFixed(1)} MB`)
}

try {
  if (what === 'add') add()
  else if (what === 'remove') remove()
  else if (what === 'list') list()
  else throw new Unsound([`“${what}” is none of list, add, remove.`])
} catch (error) {
  if (!(error instanceof Unsound)) throw error
  error.reasons.forEach((r) => console.error(r))
  process.exit(1)
}
