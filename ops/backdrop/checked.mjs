// Checks a backdrop before a copy of Pin Yard takes it: GeoJSON (RFC 7946) and how it is drawn, by the validator of the
// MapLibre style specification (version 8). One style that is not sound would leave every map of the copy empty.
import { validateStyleMin } from '@maplibre/maplibre-gl-style-spec'

/** Bytes of the data: a phone takes all of it, and a page reads it before it draws. */
export const MOST_BYTES = 24 << 20
const MOST_LAYERS = 100
const MOST_LETTERS = 200
/** The letters that ship. */
const FONTS = ['Atkinson Hyperlegible Next Variable', 'Archivo Variable']

/** How deep the coordinates of a geometry lie. */
const DEPTHS = { Point: 0, MultiPoint: 1, LineString: 1, MultiLineString: 2, Polygon: 2, MultiPolygon: 3 }
const KINDS = { layers: ['fill', 'line', 'circle'], labels: ['symbol'] }
/** What would have to be loaded from elsewhere. */
const LOADED = ['icon-image', 'fill-pattern', 'line-pattern']

/** What is wrong, in a sentence for each. */
export class Unsound extends Error {
  /** @param {string[]} reasons */
  constructor(reasons) {
    super(reasons.join('\n'))
    this.reasons = reasons
  }
}

/**
 * @param {string} key the name of the backdrop
 * @param {unknown} data as it was read
 * @param {unknown} style as it was read
 * @returns {{data: object, style: object, corrections: string[]}} what is to be kept, and what was corrected on the way
 * @throws {Unsound}
 */
export function checked(key, data, style) {
  if (!/^[a-z][a-z0-9-]{0,30}$/.test(key))
    throw new Unsound([
      `“${key}” cannot be its name: small letters, digits and hyphens, 31 at most, a letter first.`,
    ])
  const corrections = []
  const features = featuresOf(data, corrections)
  const drawn = styleOf(key, style, boxOf(features), corrections)
  return { data: { type: 'FeatureCollection', features }, style: drawn, corrections }
}

const isObject = (v) => typeof v === 'object' && v !== null && !Array.isArray(v)

function featuresOf(data, corrections) {
  if (!isObject(data)) throw new Unsound(['The data is no GeoJSON object.'])
  const crs = data.crs?.properties?.name
  if (crs !== undefined && !/CRS84|EPSG:+4326$/i.test(String(crs)))
    throw new Unsound([
      `The data is in ${crs}; GeoJSON here is in longitude and latitude. Turn it: ogr2ogr -f GeoJSON -t_srs EPSG:4326 OUT.geojson IN`,
    ])
  let all = data.features
  if (data.type !== 'FeatureCollection') {
    all = [data.type === 'Feature' ? data : { type: 'Feature', properties: {}, geometry: data }]
    corrections.push(`A single ${data.type} was put into a collection.`)
  }
  if (!Array.isArray(all)) throw new Unsound(['The data has no list of features.'])
  const shaped = all.filter((f) => isObject(f) && isObject(f.geometry))
  if (shaped.length < all.length)
    corrections.push(
      `${all.length - shaped.length} of ${all.length} features have no shape and are left out.`,
    )
  if (shaped.length === 0) throw new Unsound(['The data has no feature with a shape.'])
  const features = shaped.map((f, i) => {
    const { type, coordinates } = f.geometry
    if (!(type in DEPTHS))
      throw new Unsound([
        `Feature ${i + 1} is a ${type}; a backdrop is of ${Object.keys(DEPTHS).join(', ')}.`,
      ])
    walk(coordinates, DEPTHS[type], i)
    return {
      type: 'Feature',
      properties: isObject(f.properties) ? f.properties : {},
      geometry: { type, coordinates },
    }
  })
  return features
}

function walk(coordinates, depth, i) {
  if (!Array.isArray(coordinates)) throw new Unsound([`Feature ${i + 1} has coordinates that are none.`])
  if (depth > 0) return coordinates.forEach((part) => walk(part, depth - 1, i))
  const [lon, lat] = coordinates
  if (!(Number.isFinite(lon) && Number.isFinite(lat)))
    throw new Unsound([
      `Feature ${i + 1} has a place that is no two numbers: ${JSON.stringify(coordinates)}.`,
    ])
  if (Math.abs(lon) > 180 || Math.abs(lat) > 90)
    throw new Unsound([
      `Feature ${i + 1} has a place outside the world: ${lon}, ${lat}. Are these metres? ` +
        'Turn them into longitude and latitude: ogr2ogr -f GeoJSON -t_srs EPSG:4326 OUT.geojson IN',
    ])
}

function boxOf(features) {
  const box = [180, 90, -180, -90]
  const into = (c) => {
    if (typeof c[0] !== 'number') return c.forEach(into)
    box[0] = Math.min(box[0], c[0])
    box[1] = Math.min(box[1], c[1])
    box[2] = Math.max(box[2], c[0])
    box[3] = Math.max(box[3], c[1])
  }
  features.forEach((f) => into(f.geometry.coordinates))
  // A box has some width and height; a hundredth of a degree is a kilometre.
  return [
    Math.max(-180, box[0] - 0.01),
    Math.max(-90, box[1] - 0.01),
    Math.min(180, box[2] + 0.01),
    Math.min(90, box[3] + 0.01),
  ].map((n) => Number(n.toFixed(6)))
}

function styleOf(key, style, around, corrections) {
  if (!isObject(style)) throw new Unsound(['How it is drawn is no JSON object with a list “layers”.'])
  const reasons = []
  const out = { layers: [], labels: [] }
  if (style.attribution !== undefined) {
    if (typeof style.attribution !== 'string' || style.attribution.length > MOST_LETTERS)
      reasons.push(`“attribution” is at most ${MOST_LETTERS} letters of text.`)
    else out.attribution = style.attribution
  }
  out.box = style.box ?? around
  if (style.box === undefined) corrections.push(`Its box is that of its data: ${around.join(', ')}.`)
  else if (!isBox(style.box))
    reasons.push('“box” is west, south, east, north in degrees, with south below north and west not east.')
  if (style.zoom !== undefined) {
    if (isZoom(style.zoom)) out.zoom = style.zoom
    else reasons.push('“zoom” is two numbers from 0 to 24, the smaller first.')
  }
  for (const part of ['layers', 'labels']) {
    const list = style[part] ?? []
    if (!Array.isArray(list) || list.length > MOST_LAYERS)
      reasons.push(`“${part}” is a list of at most ${MOST_LAYERS} layers.`)
    else out[part] = list.map((layer, i) => layerOf(key, part, layer, i, reasons, corrections))
  }
  if (reasons.length === 0 && out.layers.length + out.labels.length === 0)
    reasons.push('“layers” has no layer.')
  if (reasons.length > 0) throw new Unsound(reasons)
  const ids = [...out.layers, ...out.labels].map((l) => l.id)
  const twice = ids.filter((id, i) => ids.indexOf(id) !== i)
  if (twice.length > 0) throw new Unsound([`Two layers have the name “${twice[0]}”.`])
  const errors = validateStyleMin({
    version: 8,
    sources: { [key]: { type: 'geojson', data: { type: 'FeatureCollection', features: [] } } },
    layers: [...out.layers, ...out.labels],
  })
  if (errors.length > 0) throw new Unsound(errors.map((e) => e.message))
  return out
}

const isBox = (box) =>
  Array.isArray(box) &&
  box.length === 4 &&
  box.every(Number.isFinite) &&
  Math.abs(box[0]) <= 180 &&
  Math.abs(box[2]) <= 180 &&
  box[0] !== box[2] &&
  box[1] >= -90 &&
  box[3] <= 90 &&
  box[1] < box[3]

const isZoom = (zoom) =>
  Array.isArray(zoom) &&
  zoom.length === 2 &&
  zoom.every(Number.isFinite) &&
  zoom[0] >= 0 &&
  zoom[0] < zoom[1] &&
  zoom[1] <= 24

function layerOf(key, part, layer, i, reasons, corrections) {
  const name = `Layer ${i + 1} of “${part}”`
  if (!isObject(layer)) {
    reasons.push(`${name} is no object.`)
    return {}
  }
  const out = { ...layer }
  if (!KINDS[part].includes(layer.type))
    reasons.push(`${name} is a “${layer.type}”; ${part} are ${KINDS[part].join(', ')}.`)
  if (layer.source === undefined) {
    out.source = key
    corrections.push(`${name} draws “${key}”.`)
  } else if (layer.source !== key) reasons.push(`${name} draws “${layer.source}”, not “${key}”.`)
  if (typeof layer.id !== 'string' || layer.id === '') reasons.push(`${name} has no name (“id”).`)
  else if (!layer.id.startsWith(`${key}-`)) {
    // Records are drawn by layers of a style too; theirs begin otherwise.
    out.id = `${key}-${layer.id}`
    corrections.push(`Layer “${layer.id}” is called “${out.id}”.`)
  }
  for (const what of LOADED)
    if ({ ...layer.layout, ...layer.paint }[what] !== undefined)
      reasons.push(`${name} asks for a picture (“${what}”); there are none to load.`)
  if (layer.type === 'symbol' && !FONTS.includes(layer.layout?.['text-font']?.[0])) {
    out.layout = { ...layer.layout, 'text-font': [FONTS[0]] }
    corrections.push(`${name} is written in ${FONTS[0]}, which ships.`)
  }
  return out
}
