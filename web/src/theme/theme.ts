/** The look: ink on paper, five named colours, two typefaces, light and dark. */
import { createTheme } from '@mui/material/styles';

export const body = "'Figtree Variable', sans-serif";
export const display = "'Bricolage Grotesque Variable', sans-serif";

/** Tints behind marks of each colour; in CSS so that both schemes share the components. */
const light = {
  primary: { main: '#12626a', contrastText: '#ffffff' },
  success: { main: '#546c1b', contrastText: '#ffffff' },
  secondary: { main: '#76528a', contrastText: '#ffffff' },
  warning: { main: '#8a5f07', contrastText: '#ffffff' },
  error: { main: '#a3402a', contrastText: '#ffffff' },
  text: { primary: '#1d2b33', secondary: '#51626b' },
  background: { default: '#f4f2ed', paper: '#fffdf9' },
  divider: '#dfd9cd',
};
const dark = {
  primary: { main: '#6fc0c4', contrastText: '#0d1a1e' },
  success: { main: '#a9c862', contrastText: '#131a06' },
  secondary: { main: '#c5a3d8', contrastText: '#1f1228' },
  warning: { main: '#dcae52', contrastText: '#201603' },
  error: { main: '#ea9680', contrastText: '#2a0d06' },
  text: { primary: '#e8ece9', secondary: '#a9b7bb' },
  background: { default: '#141d21', paper: '#1b262b' },
  divider: '#34434a',
};

export const theme = createTheme({
  cssVariables: { colorSchemeSelector: 'data' },
  colorSchemes: { light: { palette: light }, dark: { palette: dark } },
  shape: { borderRadius: 9 },
  typography: {
    fontFamily: body,
    fontSize: 14,
    body1: { fontSize: 14.5, lineHeight: 1.5 },
    body2: { fontSize: 13.5, lineHeight: 1.45 },
    h1: { fontFamily: display, fontWeight: 640, fontSize: 25, lineHeight: 1.15, letterSpacing: '-0.5px' },
    h2: { fontFamily: display, fontWeight: 640, fontSize: 20, lineHeight: 1.25, letterSpacing: '-0.3px' },
    h3: { fontFamily: display, fontWeight: 650, fontSize: 15, lineHeight: 1.3 },
    overline: {
      fontFamily: display,
      fontWeight: 650,
      fontSize: 13,
      textTransform: 'none',
      letterSpacing: 0,
      lineHeight: 1.4,
    },
    button: { fontWeight: 600, fontSize: 14, textTransform: 'none' },
  },
  components: {
    MuiCssBaseline: {
      styleOverrides: {
        body: { fontVariantNumeric: 'tabular-nums' },
        '@media (prefers-reduced-motion: reduce)': {
          '*': { animation: 'none !important', transition: 'none !important' },
        },
        '.print-only': { display: 'none' },
        '@media print': {
          'header, button, form, a.MuiButton-root, .MuiSnackbar-root, .no-print': { display: 'none !important' },
          '.print-only': { display: 'block' },
          'html, body': { background: '#fff !important' },
          li: { breakInside: 'avoid' },
        },
        ':focus-visible': { outline: '2px solid var(--mui-palette-primary-main)', outlineOffset: 2 },
      },
    },
    MuiButton: {
      defaultProps: { disableElevation: true, variant: 'outlined', color: 'inherit' },
      styleOverrides: {
        root: { padding: '5px 13px' },
        endIcon: { '& > *:nth-of-type(1)': { fontSize: 11 } },
        outlined: { borderColor: 'var(--mui-palette-divider)', backgroundColor: 'var(--mui-palette-background-paper)' },
      },
    },
    MuiPaper: { styleOverrides: { root: { backgroundImage: 'none' } } },
    MuiPopover: {
      styleOverrides: {
        paper: { border: '1px solid var(--mui-palette-divider)', boxShadow: '0 6px 24px rgb(20 29 33 / 14%)' },
      },
    },
    MuiTextField: { defaultProps: { size: 'small' } },
    MuiSelect: { defaultProps: { size: 'small' } },
    MuiTooltip: { defaultProps: { arrow: true } },
    MuiLink: { defaultProps: { underline: 'none' }, styleOverrides: { root: { fontWeight: 600 } } },
  },
});
