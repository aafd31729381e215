import { Box } from "@mui/material";
import type { Schemas, Tube } from "../api/client";
import { textSize } from "../theme";

export type Tubes = Map<string, Pick<Tube, "name" | "hex" | "ci_name" | "family" | "left_ml">>;

interface Props {
  parts: Record<string, number>;
  tubes: Tubes;
  /** How a thin layer is thinned, in words. */
  thinned?: string | null;
  /** Strong tubes weakened first: their parts are then of those heaps. */
  heap?: Schemas["PlanHeap"] | null;
}

/**
 * A recipe as a bar of dabs in the tubes' own colours, with the parts as numerals under it;
 * a heap has the colour it has on the palette.
 */
export function Recipe({ parts, tubes, thinned = null, heap = null }: Props) {
  const list = Object.entries(heap?.parts ?? parts);
  return (
    <Box>
      <Box aria-hidden sx={{ display: "flex", height: 14, border: 1, borderColor: "divider" }}>
        {list.map(([key, count]) => (
          <Box
            key={key}
            sx={{ flex: `${count} 0 3px`, bgcolor: heap?.hexes[key] ?? tubes.get(key)?.hex ?? "#808080" }}
          />
        ))}
      </Box>
      <Box sx={{ fontSize: textSize.small, mt: 0.4, lineHeight: 1.35 }}>
        {list.map(([key, count], i) => (
          <span key={key}>
            {i > 0 && " : "}
            <strong>{count}</strong> {tubes.get(key)?.name ?? key}
            {heap?.tubes.includes(key) && <em> weakened</em>}
          </span>
        ))}
        {thinned !== null && <span>; {thinned}</span>}
      </Box>
      {heap && (
        <Box sx={{ fontSize: textSize.fine, color: "text.secondary" }}>First weaken: {heap.sentence}.</Box>
      )}
    </Box>
  );
}

/** Two colours side by side, large enough to judge. */
export function Pair({ left, right, label }: { left: string; right: string; label: string }) {
  return (
    <Box role="img" aria-label={label} sx={{ display: "flex", width: 92, height: 56, flex: "none" }}>
      <Box sx={{ flex: 1, bgcolor: left }} />
      <Box sx={{ flex: 1, bgcolor: right }} />
    </Box>
  );
}
