import '@fontsource-variable/archivo/wdth.css'
import '@fontsource-variable/atkinson-hyperlegible-next/index.css'
import './page.css'
import { createTheme } from '@mui/material/styles'
import { night as dark, paint, sun } from './paint'
import { t } from './texts'

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
  const ink = night ? dark.ink : field ? sun.ink : paint.ink
  return createTheme({
    palette: {
      mode: night ? 'dark' : 'light',
      primary: night ? { main: dark.kelp, contrastText: dark.onKelp } : { main: paint.kelp },
      secondary: { main: night ? dark.buoy : paint.buoy },
      error: { main: night ? dark.brick : paint.brick },
      warning: { main: night ? dark.buoy : paint.buoy },
      info: { main: night ? dark.tide : paint.tide },
      background: night
        ? { default: dark.page, paper: dark.sheet }
        : field
          ? { default: paint.white, paper: paint.white }
          : { default: paint.page, paper: paint.sheet },
      text: night
        ? { primary: ink, secondary: dark.soft }
        : { primary: ink, secondary: field ? sun.soft : paint.soft },
      divider: night ? dark.line : paint.line,
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
          outlined: { borderColor: night ? dark.line : paint.line },
        },
      },
      MuiOutlinedInput: {
        styleOverrides: {
          root: {
            background: night ? dark.page : paint.white,
            '& .MuiOutlinedInput-notchedOutline': {
              borderColor: night ? dark.frame : field ? ink : paint.frame,
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
