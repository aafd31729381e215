import { Box } from "@mui/material";
import type { Schemas, Sitter } from "../../api/client";
import { useComputed } from "../../api/hooks";
import type { Spot } from "../../picture/spots";
import { Say, Section } from "../../sheet/parts";
import { Pair, Recipe } from "../../sheet/Recipe";
import { useTubes } from "../../sheet/useTubes";
import { useCounted } from "../../sheet/Value";
import { textSize } from "../../theme";

/** One area wants several near mixtures: a heap, and small additions to it. */
export function NearSection({ sitter, spot, what }: { sitter: Sitter; spot: Spot; what: "shape" | "group" }) {
  const tubes = useTubes(sitter);
  const value = useCounted();
  const query = `x=${spot[0].toFixed(4)}&y=${spot[1].toFixed(4)}&what=${what}`;
  const found = useComputed<Schemas["NearMixturesOut"]>(sitter, "flesh/near", query);
  return (
    <Section title="Near mixtures">
      <Say quiet>
        Flat paint looks dead: mix one heap, then take parts of it a little lighter, darker, warmer and
        cooler, as the {what === "shape" ? "shape" : "group"} itself varies.
      </Say>
      {found.isPending && <Say quiet>Mixing …</Say>}
      {found.isError && <Say>{found.error.message}</Say>}
      {found.data && <Recipe parts={found.data.heap.parts} tubes={tubes} heap={found.data.heap.heap} />}
      {found.data?.near.map((n, i) => (
        <Box
          key={i}
          data-testid="near"
          sx={{ display: "flex", gap: 1.2, py: 1, borderTop: 1, borderColor: "divider" }}
        >
          <Pair
            left={found.data.heap.predicted_hex}
            right={n.made_hex}
            label={`The heap ${found.data.heap.predicted_hex}, changed ${n.made_hex}`}
          />
          <Box sx={{ flex: 1, minWidth: 0, fontSize: textSize.small }}>
            {Object.keys(n.added).length === 0
              ? "the heap itself comes nearest"
              : `${n.base} of the heap and ${Object.entries(n.added)
                  .map(([key, count]) => `${count} ${tubes.get(key)?.name ?? key}`)
                  .join(", ")}`}
            <Box sx={{ color: "text.secondary", fontSize: textSize.fine }}>
              value {value(n.value)}, colour difference {n.apart.toFixed(1)}
            </Box>
          </Box>
        </Box>
      ))}
    </Section>
  );
}
