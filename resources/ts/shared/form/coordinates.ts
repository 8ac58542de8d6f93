import { bandOf, fromUtm, isNorthern, toUtm } from './utm'

/**
 * Places as people type and read them, where there is no server: the same cases as
 * core/Geo/CoordinateText.php (tests/vectors/places.json).
 */

export type Spot = { lon: number; lat: number }
export const FORMATS = ['decimal', 'minutes', 'utm'] as const
export type Format = (typeof FORMATS)[number]

const NUMBER = '\\d+(?:[.,]\\d+)?'
const ANGLE = new RegExp(
  `^([NSEWO])? ?([-+])? ?(${NUMBER}) ?°? ?(?:(${NUMBER}) ?(?:'|min)? ?)?(?:(${NUMBER}) ?(?:"|sec)? ?)?([NSEWO])?$`,
  'iu',
)
const UTM = /^(\d{1,2}) ?([A-Za-z]+) (\d{5,7}(?:[.,]\d+)?) ?(?:m ?E)?[ ,]+(\d{1,8}(?:[.,]\d+)?) ?(?:m ?N)?$/i
const HALVES = [
  /^([^;]+);([^;]+)$/,
  /^(.*?\d.*?[NSEWO])[ ,]*((?:[^A-Z]*)[NSEWO])$/i,
  /^([NSEWO][^A-Z]+?)[ ,]+([NSEWO][^A-Z]+)$/i,
  /^([^,]+), ?([^,]+)$/,
  /^(-?\d+,\d+),? (-?\d+,\d+)$/,
  /^([-+]?[\d.]+) ([-+]?[\d.]+)$/,
]

const number = (text: string) => Number(text.replace(',', '.'))

/** A typed place, or null where it is none: then the person is told how one looks. */
export function readPlace(text: string): Spot | null {
  const plain = text
    .replace(/[−–]/g, '-')
    .replace(/[º˚]/g, '°')
    .replace(/[’′´]/g, "'")
    .replace(/[”″“]/g, '"')
    .replace(/''/g, '"')
    .replace(/\s+/gu, ' ')
    .trim()
  if (plain.length > 100) return null
  const utm = UTM.exec(plain)
  if (utm) return readUtm(Number(utm[1]), utm[2]!, number(utm[3]!), number(utm[4]!))
  const parts = HALVES.map((way) => way.exec(plain)).find(Boolean)
  const first = parts && angle(parts[1]!.trim())
  const second = parts && angle(parts[2]!.trim())
  if (!first || !second || (first.axis && first.axis === second.axis)) return null
  const bare = !first.axis && !second.axis
  const lonFirst =
    first.axis === 'lon' ||
    second.axis === 'lat' ||
    (bare && Math.abs(first.degrees) > 90 && Math.abs(second.degrees) <= 90)
  const [lon, lat] = lonFirst ? [first.degrees, second.degrees] : [second.degrees, first.degrees]
  return Math.abs(lon) <= 180 && Math.abs(lat) <= 90 ? { lon, lat } : null
}

function readUtm(zone: number, letters: string, easting: number, northing: number): Spot | null {
  const word = letters.toLowerCase()
  const north =
    word === 'north' ? true : word === 'south' ? false : letters.length === 1 ? isNorthern(letters) : null
  if (
    north === null ||
    zone < 1 ||
    zone > 60 ||
    easting < 100_000 ||
    easting > 900_000 ||
    northing > 10_000_000
  )
    return null
  return fromUtm({ zone, north, easting, northing })
}

function angle(part: string): { degrees: number; axis: 'lon' | 'lat' | null } | null {
  const m = ANGLE.exec(part)
  if (!m) return null
  const letter = (m[1] ?? m[6] ?? '').toUpperCase()
  const [minutes, seconds] = [m[4] ? number(m[4]) : 0, m[5] ? number(m[5]) : 0]
  // O is east in German and west in French and Spanish; nobody can tell, so it is not taken.
  if (minutes >= 60 || seconds >= 60 || letter === 'O') return null
  const degrees = number(m[3]!) + minutes / 60 + seconds / 3600
  return {
    degrees: m[2] === '-' || letter === 'S' || letter === 'W' ? -degrees : degrees,
    axis: letter === 'N' || letter === 'S' ? 'lat' : letter ? 'lon' : null,
  }
}

/** A place as it is shown; to about a metre. */
export function showPlace({ lon, lat }: Spot, format: Format): string {
  if (format === 'minutes') return `${sexagesimal(lat, 'N', 'S')} ${sexagesimal(lon, 'E', 'W')}`
  // Beyond these latitudes there is no UTM.
  if (format === 'utm' && lat >= -80 && lat <= 84) {
    const { zone, easting, northing } = toUtm(lon, lat)
    return `${zone}${bandOf(lat)} ${Math.round(easting)} ${Math.round(northing)}`
  }
  return `${lat.toFixed(5)}, ${lon.toFixed(5)}`
}

function sexagesimal(degrees: number, plus: string, minus: string): string {
  const tenths = Math.round(Math.abs(degrees) * 36_000)
  const two = (n: number) => String(n).padStart(2, '0')
  const [d, m, s] = [Math.floor(tenths / 36_000), Math.floor((tenths % 36_000) / 600), (tenths % 600) / 10]
  return `${d}°${two(m)}′${s < 10 ? '0' : ''}${s.toFixed(1)}″${degrees < 0 ? minus : plus}`
}
