/**
 * All colours there are, by what they are for; nothing else in TypeScript names one (tests/units/paint.test.ts). What a
 * programme chooses for its marks is data.
 */
export const paint = {
  page: '#F4EFE4',
  sheet: '#FFFCF5',
  white: '#FFFFFF',
  ink: '#1D2B2E',
  soft: '#55635F',
  line: '#D8CFBC',
  line2: '#BFB49C',
  /** Between rows. */
  rowLine: '#EFE6D2',
  /** Around what one types in. */
  frame: '#8A8069',
  /** Under heads of tables, and what is said beside them. */
  band: '#F5EFE2',
  note: '#F1E8D4',
  /** The row that one has picked, and the one that one points at. */
  picked: '#FFF6E9',
  pointed: '#F6EDDA',
  faded: '#8A7A50',
  kelp: '#0F5C53',
  kelpDark: '#0B463F',
  kelpWash: '#E3EEE6',
  buoy: '#C8420E',
  buoyDark: '#8F2E08',
  buoyDarkest: '#5E1F06',
  buoyLine: '#E7B79F',
  buoyWash: '#FBE6DA',
  tide: '#2F5D8A',
  tideDark: '#27507A',
  tidePale: '#B9C6D4',
  tideWash: '#E2EAF2',
  brick: '#9B2226',
  sand: '#E9DFC8',
  sandDark: '#4F4733',
  bench: '#E6DCC5',
  wood: '#C9A36B',
  woodLight: '#D9B680',
  woodDark: '#B98F55',
  woodEdge: '#96713C',
  groove: '#DCD0B4',
  rope: '#A8966F',
  ropeDark: '#8A7A58',
  ropeGround: '#EDE5D2',
  /** The sign of Pin Yard, and what stands on a dark bar. */
  flag: '#E8703A',
  onDark: '#C9D2D0',
  onDarkWarning: '#F0B59A',
  onDarkLine: '#5B6C70',
  strip: '#2B3C40',
  darkroom: '#111111',
  /** Under maps, and before one is there. */
  sea: '#CFDDDD',
  seaInk: '#2F4A50',
  land: '#EDE6D2',
  shore: '#B5A98A',
  beach: '#F3E6C0',
  grid: '#2C3B3E',
  sketch: '#8A2BA0',
  sketchDark: '#6A1C7C',
  drawn: '#D6400A',
  /** Records that belong to no class, and marks nobody has chosen a colour for. */
  other: '#8C8672',
  gathered: '#DDD5C4',
  doubt: '#7A5C00',
} as const

/** In the field: by day, and by night. */
export const sun = { ink: '#0B1314', soft: '#38474A' } as const
export const night = {
  page: '#12191B',
  sheet: '#1B2528',
  ink: '#F4EFE4',
  soft: '#B4C0BE',
  line: '#3A4A4E',
  frame: '#7D8C8C',
  kelp: '#7BC2A8',
  onKelp: '#10201D',
  buoy: '#F0905F',
  brick: '#F2857F',
  tide: '#9CC0E2',
} as const

/** What marks are given to choose from. */
export const MARK_COLOURS = [
  paint.kelp,
  '#E0A030',
  paint.brick,
  paint.tide,
  '#7A4B8C',
  '#4D4A3F',
  '#4F9DA6',
  paint.buoy,
  '#A9A860',
  '#5E3B1E',
  '#B0578D',
  paint.ink,
] as const
/** Of parts of a whole, lines of a trend and series of a card, where a list of choices gives them none. */
export const PART_COLOURS = [paint.kelp, paint.wood, paint.tide, paint.buoy, '#6B5B95', '#7A8B3A'] as const
export const TREND_COLOURS = [
  paint.kelp,
  paint.buoy,
  paint.tide,
  '#8A6D1F',
  '#6B5B95',
  paint.brick,
  '#4F7F3A',
  '#7A7A7A',
] as const
export const SERIES_COLOURS = [
  paint.kelp,
  '#E0A030',
  paint.tide,
  '#C9B27A',
  '#7A4B8C',
  '#8FB9AA',
  paint.brick,
  '#B8C4CE',
] as const
/** Of numbers that are crossed, before there are any: from light to dark. */
export const GREYS: string[] = [paint.line, paint.other, '#4D4A3F']
