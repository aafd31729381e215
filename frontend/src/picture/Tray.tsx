import { Box, ButtonBase } from "@mui/material";
import { layers, pictures, type Look, type Way } from "./look";
import { textSize } from "../theme";

const word = {
  px: { xs: 0.35, lg: 0.45 },
  minHeight: 44,
  minWidth: 36,
  fontFamily: "inherit",
  whiteSpace: "nowrap",
} as const;

function Key({ name }: { name: string }) {
  return (
    <Box
      component="kbd"
      sx={{ ml: 0.3, fontSize: textSize.fine, fontFamily: "inherit", color: "text.secondary" }}
    >
      {name.toUpperCase()}
    </Box>
  );
}

interface Props {
  look: Look;
  onPress: (way: Way) => void;
  onFit: () => void;
  /** A job's own picture stands on the wall: none of these is shown. */
  standIn: boolean;
}

/**
 * Ways of looking, by word with its key, in one row. Left: pictures, one of them at a time, as tabs in a
 * common frame. Right: what lies over the picture, each a switch of its own with a box that fills.
 */
export function Tray({ look, onPress, onFit, standIn }: Props) {
  return (
    <Box
      role="toolbar"
      aria-label="Ways of looking"
      sx={{
        display: "flex",
        alignItems: "center",
        px: 0.5,
        borderTop: 1,
        borderColor: "divider",
        bgcolor: "background.default",
        overflowX: "auto",
        fontSize: { xs: 13, lg: 14 },
      }}
    >
      <Box
        role="radiogroup"
        aria-label="Picture"
        sx={{ display: "flex", border: 1, borderColor: "divider", my: 0.25 }}
      >
        {pictures.map((way) => {
          const on = !standIn && way.on(look);
          return (
            <ButtonBase
              key={way.key}
              role="radio"
              aria-checked={on}
              aria-keyshortcuts={way.key}
              title={way.title}
              onClick={() => onPress(way)}
              sx={{
                ...word,
                fontWeight: on ? 700 : 400,
                bgcolor: on ? "text.primary" : "transparent",
                color: on ? "background.default" : "text.primary",
                "& kbd": on ? { color: "inherit" } : {},
                "&:focus-visible": { outlineOffset: -4 },
              }}
            >
              {way.label}
              <Key name={way.key} />
            </ButtonBase>
          );
        })}
      </Box>
      <Box role="group" aria-label="Over the picture" sx={{ display: "flex", ml: 0.5 }}>
        {layers.map((way) => {
          const on = way.on(look);
          return (
            <ButtonBase
              key={way.key}
              aria-pressed={on}
              aria-keyshortcuts={way.key}
              title={way.title}
              onClick={() => onPress(way)}
              sx={{ ...word, fontWeight: on ? 700 : 400 }}
            >
              <Box
                aria-hidden
                sx={{
                  width: 9,
                  height: 9,
                  mr: 0.5,
                  border: 1.5,
                  borderColor: "text.primary",
                  bgcolor: on ? "text.primary" : "transparent",
                  flex: "none",
                }}
              />
              {way.label}
              <Key name={way.key} />
            </ButtonBase>
          );
        })}
      </Box>
      <ButtonBase
        onClick={onFit}
        aria-keyshortcuts="0"
        title="the whole picture"
        sx={{ ...word, ml: "auto" }}
      >
        fit
        <Key name="0" />
      </ButtonBase>
    </Box>
  );
}
