import { createTheme } from "@mui/material/styles";

/** Greys of whole and half value steps (sRGB of Munsell N), so that the interface itself is a value scale. */
export const studio = {
  day: {
    wall: "#919191",
    paper: "#efefef",
    raised: "#f8f8f8",
    ink: "#1a1a1a",
    faint: "#575757",
    line: "#c4c4c4",
  },
  dim: {
    wall: "#3d3d3d",
    paper: "#2b2b2b",
    raised: "#363636",
    ink: "#d9d9d9",
    faint: "#a3a3a3",
    line: "#555555",
  },
};

export const serif = '"Source Serif 4 Variable", Georgia, serif';
export const sans = '"Source Sans 3 Variable", "Source Sans 3", sans-serif';

/** Sizes of words, in px: what is read at arm's length is never below the first. */
export const textSize = {
  fine: 13.5,
  small: 14.5,
  body: 15,
  lead: 16,
  head: 20,
  title: 26,
  door: 34,
  clock: 44,
};

export function makeTheme(dim: boolean) {
  const tone = dim ? studio.dim : studio.day;
  const flat = { main: tone.ink, light: tone.faint, dark: tone.ink, contrastText: tone.paper };
  return createTheme({
    palette: {
      mode: dim ? "dark" : "light",
      primary: flat,
      secondary: flat,
      error: flat,
      warning: flat,
      info: flat,
      success: flat,
      text: { primary: tone.ink, secondary: tone.faint },
      background: { default: tone.paper, paper: tone.raised },
      divider: tone.line,
    },
    shape: { borderRadius: 2 },
    typography: {
      fontFamily: sans,
      fontSize: textSize.body,
      button: { textTransform: "none", fontWeight: 600 },
      h1: { fontFamily: serif },
      h2: { fontFamily: serif },
    },
    components: {
      MuiButtonBase: {
        defaultProps: { disableRipple: true },
        styleOverrides: { root: { fontFamily: sans } },
      },
      MuiButton: {
        defaultProps: { size: "medium" },
        styleOverrides: { root: { minHeight: 44, boxShadow: "none" } },
      },
      MuiIconButton: { styleOverrides: { root: { minWidth: 44, minHeight: 44 } } },
      MuiToggleButton: {
        styleOverrides: {
          root: {
            color: tone.faint,
            minHeight: 48,
            minWidth: 0,
            padding: "4px 6px",
            "@media (max-width: 1199px)": { fontSize: textSize.fine, padding: "4px 3px" },
            "&.Mui-selected": { color: tone.ink, fontWeight: 700 },
          },
        },
      },
      MuiCssBaseline: {
        styleOverrides: {
          body: { fontVariantNumeric: "tabular-nums", overflow: "hidden" },
          "::selection": { backgroundColor: tone.line, color: tone.ink },
          ":focus-visible": { outline: `2px solid ${tone.ink}`, outlineOffset: 2 },
        },
      },
    },
  });
}
