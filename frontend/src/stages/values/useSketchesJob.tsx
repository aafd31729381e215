import { Box, Button } from "@mui/material";
import { base, pictureUrl, type Sitter } from "../../api/client";
import { useChange } from "../../api/hooks";
import { Say, Section } from "../../sheet/parts";
import type { Job } from "../job";

const counts = [2, 3, 4, 5];

/** Postcard sketches in few values, to choose a design before starting. */
export function useSketchesJob(sitter: Sitter): Job {
  const { change } = useChange(sitter, "values");
  const now = sitter.settings.values.groups ?? 5;
  const sheet = (
    <>
      <Section title="Which design?">
        <Say quiet>Stand back and squint. Choose the one that holds together with the fewest values.</Say>
        <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1.5 }}>
          {counts.map((n) => (
            <Box key={n} component="button" aria-pressed={now === n} onClick={() => change({ groups: n, mode: "fit", cuts: [], locked: [], joins: [] }, n === 2 ? "Notan" : `${n} groups`)}
              sx={{ all: "unset", cursor: "pointer", "&:focus-visible": { outline: 2 } }}>
              <Box component="img" src={pictureUrl(sitter, `thumbnail-${n}`, "values")} alt={`The picture in ${n} values`} sx={{ width: "100%", display: "block", border: 2, borderColor: now === n ? "text.primary" : "transparent" }} />
              <Box sx={{ fontSize: 15, fontWeight: now === n ? 700 : 400 }}>{n} values{n === 2 ? " (notan)" : ""}</Box>
            </Box>
          ))}
        </Box>
      </Section>
      <Section title="Take away">
        <Box sx={{ display: "flex", gap: 1 }}>
          {["A4", "Letter"].map((paper) => <Button key={paper} color="inherit" variant="outlined" fullWidth href={`${base(sitter.id)}/files/thumbnails.pdf?paper=${paper}`}>Sketches, {paper}</Button>)}
        </Box>
      </Section>
    </>
  );
  return { sheet, wall: {} };
}
