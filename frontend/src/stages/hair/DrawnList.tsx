import { Box, Button } from "@mui/material";
import type { Sitter } from "../../api/client";
import { useChange } from "../../api/useChange";
import { Say, Section } from "../../sheet/parts";

const lists = [
  ["guides", "Guide", "guide"],
  ["partings", "Parting", "parting"],
  ["hairlines", "Hairline", "hairline"],
  ["whorls", "Whorl", "whorl"],
] as const;

/** All that was drawn on the hair, each to be taken away again. */
export function DrawnList({ sitter }: { sitter: Sitter }) {
  const settings = sitter.settings.hair;
  const { change } = useChange(sitter, "hair");
  const count = lists.reduce((sum, [key]) => sum + settings[key].length, 0);
  return (
    <Section title="Drawn by you">
      {count === 0 && <Say quiet>Nothing yet. The lines bend at once to what you draw.</Say>}
      {lists.flatMap(([key, label, word]) =>
        settings[key].map((_, i) => (
          <Box
            key={`${key}${i}`}
            sx={{ display: "flex", alignItems: "center", borderBottom: 1, borderColor: "divider" }}
          >
            <Box sx={{ flex: 1 }}>
              {label} {i + 1}
            </Box>
            <Button
              color="inherit"
              aria-label={`Remove ${word} ${i + 1}`}
              onClick={() => change({}, `Remove a ${word}`, { [key]: { start: i, remove: 1 } })}
            >
              Remove
            </Button>
          </Box>
        )),
      )}
      {count > 1 && (
        <Button
          color="inherit"
          variant="outlined"
          fullWidth
          sx={{ mt: 1 }}
          onClick={() =>
            change(
              {},
              "Remove all that was drawn",
              Object.fromEntries(
                lists
                  .filter(([key]) => settings[key].length > 0)
                  .map(([key]) => [key, { start: 0, remove: settings[key].length }]),
              ),
            )
          }
        >
          Remove all
        </Button>
      )}
    </Section>
  );
}
