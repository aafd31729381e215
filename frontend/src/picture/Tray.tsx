import { Box, ButtonBase } from "@mui/material";
import { ways, type Look, type Way } from "./look";

/** Ways of looking, by word with its key. */
export function Tray({ look, onPress, onFit }: { look: Look; onPress: (way: Way) => void; onFit: () => void }) {
  const word = { px: { xs: 0.8, lg: 0.95 }, minHeight: 44, fontSize: 15, fontFamily: "inherit", whiteSpace: "nowrap" } as const;
  return (
    <Box role="toolbar" aria-label="Ways of looking" sx={{ display: "flex", flexWrap: "wrap", px: 1, borderTop: 1, borderColor: "divider", bgcolor: "background.default" }}>
      {ways.map((way) => {
        const on = way.on(look);
        return (
          <ButtonBase key={way.key} aria-pressed={on} onClick={() => onPress(way)}
            sx={{ ...word, fontWeight: on ? 700 : 400, boxShadow: on ? "inset 0 -3px 0 currentColor" : "none" }}>
            {way.label}
            <Box component="kbd" sx={{ ml: 0.6, fontSize: 12, fontFamily: "inherit", color: "text.secondary" }}>{way.key.toUpperCase()}</Box>
          </ButtonBase>
        );
      })}
      <ButtonBase onClick={onFit} sx={{ ...word, ml: "auto" }}>
        fit<Box component="kbd" sx={{ ml: 0.6, fontSize: 12, fontFamily: "inherit", color: "text.secondary" }}>0</Box>
      </ButtonBase>
    </Box>
  );
}
