import { Box, Button, MenuItem, TextField } from "@mui/material";
import { useState } from "react";
import type { Sitter } from "../../api/client";
import { useChange } from "../../api/useChange";
import { useTrials } from "../../log/useLog";
import { Say, Section } from "../../sheet/parts";
import { counted, useLadderWay } from "../../sitter/ladderWay";
import { textSize } from "../../theme";

/** How the paint dries: the medium's usual shift, or the painter's own wet and dry swatches. */
export function DryingSection({ sitter }: { sitter: Sitter }) {
  const settings = sitter.settings.flesh;
  const { change } = useChange(sitter, "flesh");
  const [{ count }] = useLadderWay();
  const [wet, setWet] = useState("");
  const [dry, setDry] = useState("");
  const pairs = settings.drying;
  const tried = useTrials().data?.swatches ?? [];
  const value = (text: string) =>
    text.trim() === "" ? Number.NaN : counted(Number(text.replace(",", ".")), count);
  const [w, d] = [value(wet), value(dry)];
  const good = w >= 0 && w <= 10 && d >= 0 && d <= 10;
  const add = () => {
    change({ drying: [...pairs, [w, d]] }, "Add a drying swatch");
    setWet("");
    setDry("");
  };
  return (
    <Section title="Drying">
      <Say quiet>
        {pairs.length
          ? "Your own swatches are used instead of what is usual for the medium."
          : settings.medium.endsWith("oil")
            ? "Oil hardly shifts."
            : "The usual shift is used (from memory). Papers differ: read two or more swatches wet and dry."}
      </Say>
      {tried.length > 0 && (
        <TextField
          select
          fullWidth
          size="small"
          label="As your trials dried"
          value=""
          onChange={(e) => {
            const one = tried[Number(e.target.value)];
            if (one) change({ drying: one.pairs }, `Dries as on ${one.paper || "this paper"}`);
          }}
          sx={{ mt: 1, mb: 1.5 }}
        >
          {tried.map((s, i) => (
            <MenuItem key={`${s.paper}/${s.medium}`} value={i}>
              {[s.paper, s.medium].filter(Boolean).join(", ") || "of no paper"}: {s.pairs.length}{" "}
              {s.pairs.length === 1 ? "swatch" : "swatches"}
            </MenuItem>
          ))}
        </TextField>
      )}
      {pairs.map(([a, b], i) => (
        <Box key={`${a}/${b}`} sx={{ display: "flex", alignItems: "center", fontSize: textSize.body }}>
          <Box sx={{ flex: 1 }}>
            wet {counted(a, count).toFixed(1)}, dry {counted(b, count).toFixed(1)}
          </Box>
          <Button
            color="inherit"
            size="small"
            onClick={() => change({ drying: pairs.filter((_, j) => j !== i) }, "Remove a drying swatch")}
          >
            remove
          </Button>
        </Box>
      ))}
      <Box sx={{ display: "flex", gap: 1 }}>
        <TextField
          size="small"
          label="Wet value"
          value={wet}
          onChange={(e) => setWet(e.target.value)}
          slotProps={{ htmlInput: { inputMode: "decimal" } }}
        />
        <TextField
          size="small"
          label="Dry value"
          value={dry}
          onChange={(e) => setDry(e.target.value)}
          slotProps={{ htmlInput: { inputMode: "decimal" } }}
        />
        <Button color="inherit" variant="outlined" disabled={!good} onClick={add}>
          Add
        </Button>
      </Box>
    </Section>
  );
}
