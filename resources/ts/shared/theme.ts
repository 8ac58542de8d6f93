import '@fontsource-variable/archivo/wdth.css'
import '@fontsource-variable/atkinson-hyperlegible-next/index.css'
import './page.css'
import { createTheme } from '@mui/material/styles'
import { t } from './texts'

/** Paper, ink and painted wood. */
export const paint = {
  page: '#F4EFE4',
  sheet: '#FFFCF5',
  ink: '#1D2B2E',
  soft: '#55635F',
  line: '#D8CFBC',
  line2: '#BFB49C',
  kelp: '#0F5C53',
  kelpWash: '#E3EEE6',
  buoy: '#C8420E',
  buoyWash: '#FBE6DA',
  tide: '#2F5D8A',
  tideWash: '#E2EAF2',
  brick: '#9B2226',
  sand: '#E9DFC8',
  bench: '#E6DCC5',
  wood: '#C9A36B',
} as const

export const TEXT_FONT = '"Atkinson Hyperlegible Next Variable", sans-serif'
export const HEAD_FONT = '"Archivo Variable", sans-serif'

const head = {
  fontFamily: HEAD_FONT,
  fontWeight: 750,
  letterSpacing: '-0.005em',
  fontVariantNumeric: 'tabular-nums',
}

/** `size` is the text size in pixels: 16 at the desk, 18 in the field. */
export function makeTheme(size: 16 | 18 = 16, night = false) {
  const field = size === 18
  const ink = night ? '#F4EFE4' : field ? '#0B1314' : paint.ink
  return createTheme({
    palette: {
      mode: night ? 'dark' : 'light',
      primary: night ? { main: '#7BC2A8', contrastText: '#10201D' } : { main: paint.kelp },
      secondary: { main: night ? '#F0905F' : paint.buoy },
      error: { main: night ? '#F2857F' : paint.brick },
      warning: { main: night ? '#F0905F' : paint.buoy },
      info: { main: night ? '#9CC0E2' : paint.tide },
      background: night
        ? { default: '#12191B', paper: '#1B2528' }
        : field
          ? { default: '#FFFFFF', paper: '#FFFFFF' }
          : { default: paint.page, paper: paint.sheet },
      text: night
        ? { primary: ink, secondary: '#B4C0BE' }
        : { primary: ink, secondary: field ? '#38474A' : paint.soft },
      divider: night ? '#3A4A4E' : paint.line,
    },
    shape: { borderRadius: 6 },
    spacing: 4,
    transitions: {
      duration: {
        shortest: 80,
        shorter: 100,
        short: 120,
        standard: 140,
        complex: 140,
        enteringScreen: 140,
        leavingScreen: 100,
      },
    },
    typography: {
      fontFamily: TEXT_FONT,
      fontSize: size - 2,
      h1: { ...head, fontSize: '1.6rem', lineHeight: 1.15 },
      h2: { ...head, fontSize: '1.2rem', lineHeight: 1.2 },
      h3: { ...head, fontSize: '1rem', fontWeight: 700, lineHeight: 1.3 },
      body1: { fontSize: '1rem', lineHeight: 1.45 },
      body2: { fontSize: '0.9rem', lineHeight: 1.45 },
      caption: { fontSize: '0.82rem', lineHeight: 1.35 },
      button: { textTransform: 'none', fontWeight: 650, fontSize: '0.95rem' },
    },
    components: {
      // What the library says by itself, in the page's language.
      MuiAlert: { defaultProps: { closeText: t('close') } },
      MuiAutocomplete: {
        defaultProps: {
          clearText: t('choice.clear'),
          closeText: t('close'),
          openText: t('choice.open'),
          noOptionsText: t('choice.none'),
        },
      },
      MuiCssBaseline: { styleOverrides: { body: { WebkitFontSmoothing: 'antialiased' } } },
      MuiButtonBase: {
        defaultProps: { disableRipple: true },
        styleOverrides: { root: { fontFamily: 'inherit', fontSize: 'inherit' } },
      },
      MuiButton: {
        defaultProps: { disableElevation: true, variant: 'contained' },
        styleOverrides: {
          root: { minHeight: field ? 48 : 36, paddingInline: 15 },
          outlined: { borderWidth: field ? 2 : 1.5, background: 'transparent' },
        },
      },
      MuiPaper: {
        defaultProps: { elevation: 0 },
        styleOverrides: {
          root: { backgroundImage: 'none' },
          outlined: { borderColor: night ? '#3A4A4E' : paint.line },
        },
      },
      MuiOutlinedInput: {
        styleOverrides: {
          root: {
            background: night ? '#12191B' : '#FFFFFF',
            '& .MuiOutlinedInput-notchedOutline': {
              borderColor: night ? '#7D8C8C' : field ? ink : '#8A8069',
              borderWidth: field ? 2 : 1.5,
            },
            '&:hover .MuiOutlinedInput-notchedOutline': { borderColor: ink },
          },
          multiline: { padding: 0 },
          input: { padding: field ? '13px 14px' : '8px 11px' },
        },
      },
      MuiChip: { styleOverrides: { root: { fontWeight: 600, height: 24 } } },
      MuiLink: { defaultProps: { underline: 'hover' }, styleOverrides: { root: { fontWeight: 600 } } },
      MuiTooltip: { defaultProps: { arrow: true } },
    },
  })
}
