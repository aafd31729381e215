import { Box, LinearProgress, useTheme } from "@mui/material";
import type { Schemas } from "../../api/client";
import { Recipe, type Tubes } from "../../sheet/Recipe";
import { Value } from "../../sheet/Value";
import { serif, studio, textSize } from "../../theme";

interface Props {
  strings: Schemas["StringOut"][];
  tubes: Tubes;
  /** Said instead of the strings. */
  words: string | null;
  busy: boolean;
}

/** How a cloth, metal or wall carries the light, and what that asks of the hand. */
function Surface({ of }: { of: Schemas["SurfaceOut"] }) {
  const mirrors = [
    of.lights && `its lights take the colour of the ${of.lights}`,
    of.darks && `its darks that of the ${of.darks}`,
  ].filter(Boolean);
  return (
    <Box sx={{ fontSize: textSize.small, mb: 1 }}>
      Values <Value of={of.darkest} /> to <Value of={of.lightest} />, {Math.round(of.hard * 100)} % of its
      edges hard: {of.polished ? "polished, like metal or satin; keep darks and lights side by side" : "matt"}
      {mirrors.length > 0 && `; ${mirrors.join(", ")}`}.
    </Box>
  );
}

/** Strings across the whole wall: the tones of a family side by side, dark to light, each with its parts. */
export function StringWall({ strings, tubes, words, busy }: Props) {
  const dim = useTheme().palette.mode === "dark";
  const tone = dim ? studio.dim : studio.day;
  const mixed = strings.filter((s) => s.tones.length > 0);
  return (
    <Box
      tabIndex={0}
      role="region"
      aria-label="Palette board"
      aria-busy={busy}
      sx={{
        flex: 1,
        minHeight: 0,
        overflow: "auto",
        bgcolor: tone.wall,
        position: "relative",
        "&:focus-visible": { outlineOffset: -2 },
      }}
    >
      {busy && <LinearProgress color="inherit" aria-label="Working" sx={{ position: "sticky", top: 0 }} />}
      <Box sx={{ p: 2 }}>
        {(words ?? (!busy && mixed.length === 0)) && (
          <Box sx={{ bgcolor: tone.paper, color: tone.ink, p: 2 }}>
            {words ?? "Strings are mixed from opaque paint, for regions that are marked."}
          </Box>
        )}
        {mixed.map((s) => (
          <Box
            key={s.family}
            component="section"
            aria-label={s.family}
            sx={{ mb: 2, bgcolor: tone.paper, color: tone.ink, p: 1.5 }}
          >
            <Box
              component="h2"
              sx={{ fontFamily: serif, fontSize: textSize.head, fontWeight: 400, m: 0, mb: 1 }}
            >
              {s.family}
            </Box>
            {s.surface && <Surface of={s.surface} />}
            <Box
              tabIndex={0}
              role="group"
              aria-label={`Tones of ${s.family}`}
              sx={{
                display: "grid",
                gridTemplateColumns: `repeat(${s.tones.length}, minmax(92px, 1fr))`,
                gap: 1,
                overflowX: "auto",
              }}
            >
              {s.tones.map((t, i) => (
                <Box key={i} data-testid="tone">
                  <Box
                    role="img"
                    aria-label={`Target ${t.mixture.target_hex}, mixture ${t.mixture.predicted_hex}`}
                    sx={{ display: "flex", height: 54 }}
                  >
                    <Box sx={{ flex: 1, bgcolor: t.mixture.target_hex }} />
                    <Box sx={{ flex: 1, bgcolor: t.mixture.predicted_hex }} />
                  </Box>
                  <Box sx={{ fontSize: textSize.small, my: 0.4 }}>
                    tone {i + 1} of {s.tones.length},{" "}
                    <strong>
                      <Value of={t.mixture.target_value} />
                    </strong>
                  </Box>
                  <Recipe parts={t.mixture.parts} tubes={tubes} heap={t.mixture.heap} />
                  {t.base > 0 && (
                    <Box sx={{ fontSize: textSize.fine, mt: 0.6, color: "text.secondary" }}>
                      or {t.base} of the tone before and
                      <Recipe parts={t.added} tubes={tubes} />
                    </Box>
                  )}
                </Box>
              ))}
            </Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
