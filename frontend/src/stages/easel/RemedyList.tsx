import { Box } from "@mui/material";
import type { Schemas, Sitter } from "../../api/client";
import { useComputed } from "../../api/hooks";
import { Say } from "../../sheet/parts";
import { Pair, Recipe } from "../../sheet/Recipe";
import { useTubes } from "../../sheet/useTubes";
import type { Painting } from "./usePainting";
import { textSize } from "../../theme";

interface Props {
  sitter: Sitter;
  painting: Painting;
  finding: Pick<Schemas["FindingOut"], "number" | "what" | "measured_hex" | "wanted_hex">;
}

/** What can be done about a finding, what disturbs least first. */
export function RemedyList({ sitter, painting, finding }: Props) {
  const paint = finding.what === "value" || finding.what === "colour";
  const tubes = useTubes(sitter);
  const found = useComputed<Schemas["RemedyOut"][]>(
    sitter,
    "easel/remedies",
    `painting=${painting.key}&number=${finding.number}&wet=${painting.wet}`,
    paint,
  );
  if (!paint) return null;
  return (
    <Box sx={{ py: 1 }} aria-label={`What to do about finding ${finding.number}`} role="group">
      <Box sx={{ display: "flex", gap: 1.5, alignItems: "center", mb: 1 }}>
        <Pair left={finding.measured_hex} right={finding.wanted_hex} label="As painted, and as planned" />
        <Say quiet>As painted and as planned.</Say>
      </Box>
      {found.isPending && <Say quiet>Trying films over what is there …</Say>}
      {found.isError && <Say>{found.error.message}</Say>}
      {found.data?.length === 0 && <Say quiet>These tubes have nothing that would mend it.</Say>}
      {found.data?.map((r, i) => (
        <Box key={r.kind} sx={{ mb: 1.2, opacity: i === 0 ? 1 : 0.85 }}>
          <Box sx={{ fontSize: textSize.body, fontWeight: i === 0 ? 700 : 400 }}>
            {names[r.kind] ?? r.kind}
            {r.enough ? "" : `: leaves it ${Math.abs(r.steps_left).toFixed(1)} steps off`}
          </Box>
          {Object.keys(r.parts).length > 0 && (
            <Recipe parts={r.parts} tubes={tubes} heap={r.heap} thinned={r.dilution} />
          )}
          <Box sx={{ fontSize: textSize.small }}>{r.how}</Box>
        </Box>
      ))}
    </Box>
  );
}

const names: Record<string, string> = {
  glaze: "Glaze",
  scumble: "Scumble",
  repaint: "Paint it again",
  lift: "Lift",
  neighbour: "Take its surroundings down",
  "opaque touch": "Opaque touch",
  wipe: "Work into the wet paint",
};
