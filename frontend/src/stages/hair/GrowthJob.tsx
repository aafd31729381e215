import { Box, Button, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useState } from "react";
import { useHair } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import { DirectedLines } from "../../picture/Overlays";
import type { Spot } from "../../picture/spots";
import { rounded } from "../../picture/spots";
import { Downloads, useFileUrl } from "../../sheet/Download";
import { Handle, Say, Section } from "../../sheet/parts";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";

const plainly = (coherence: number) =>
  coherence > 0.6 ? "plainly" : coherence > 0.35 ? "fairly well" : "only faintly: draw guides";

/** Which way the hair grows: growth lines, and the painter's guide strokes that bend them. */
export function GrowthJob({ sitter }: JobProps) {
  const { guides, spacing_mm } = sitter.settings.hair;
  const hair = useHair(sitter);
  const file = useFileUrl(sitter);
  const { change, isPending } = useChange(sitter, "hair");
  const [tool, setTool] = useState<"draw" | "pan">("draw");
  const draw = (points: Spot[]) => {
    const thinned = points.filter((_, i) => i % 3 === 0 || i === points.length - 1).map(rounded);
    if (thinned.length > 1)
      change({}, "Guide stroke", { guides: { add: [{ points: thinned, reach: 0.04 }] } });
  };
  useWall({
    tool,
    onStroke: draw,
    strokeWidth: 1,
    busy: hair.isFetching || isPending,
    overlay: (px, size) => (
      <>
        {hair.data && <DirectedLines lines={hair.data.lines} size={size} px={px} />}
        <DirectedLines bold lines={guides.map((g) => g.points.flat())} size={size} px={px} />
      </>
    ),
  });
  const whorls = hair.data?.whorls.length ?? 0;
  return (
    <>
      <ToggleButtonGroup
        exclusive
        fullWidth
        value={tool}
        aria-label="Tool"
        onChange={(_, v: typeof tool | null) => v && setTool(v)}
        sx={{ mb: 2 }}
      >
        <ToggleButton value="draw">Draw a guide</ToggleButton>
        <ToggleButton value="pan">Move the picture</ToggleButton>
      </ToggleButtonGroup>
      <Section title="Growth lines">
        {hair.isPending && <Say quiet>Following the strands …</Say>}
        {hair.isError && <Say>{hair.error.message}</Say>}
        {hair.data &&
          (hair.data.hair_share < 0.002 ? (
            <Say>No hair is marked. Draw over the hair in Reference, regions.</Say>
          ) : (
            <>
              <Say>
                <strong>{hair.data.lines.length}</strong> lines, from the root (dot) to the tip (arrow). The
                strands show {plainly(hair.data.coherence)}.
              </Say>
              <Say>
                {whorls === 0
                  ? "No whorl can be seen."
                  : whorls === 1
                    ? "One whorl found."
                    : `${whorls} whorls found.`}
              </Say>
            </>
          ))}
        <Handle
          label="Spacing on the canvas"
          value={spacing_mm}
          least={2}
          most={25}
          step={0.5}
          shown={(v) => `${v} mm`}
          onChange={(v) => change({ spacing_mm: v }, "Spacing")}
        />
        <Say quiet>Set each stroke of the brush down along its line; let only the end wander.</Say>
      </Section>
      <Section title="Guide strokes">
        <Say quiet>
          Draw from the root to the tip where the lines are wrong; they bend at once. Hold the space bar to
          move the picture.
        </Say>
        {guides.map((_, i) => (
          <Box
            key={i}
            sx={{ display: "flex", alignItems: "center", borderBottom: 1, borderColor: "divider" }}
          >
            <Box sx={{ flex: 1 }}>Guide {i + 1}</Box>
            <Button
              color="inherit"
              aria-label={`Remove guide ${i + 1}`}
              onClick={() => change({}, "Remove a guide", { guides: { start: i, remove: 1 } })}
            >
              Remove
            </Button>
          </Box>
        ))}
        {guides.length > 1 && (
          <Button
            color="inherit"
            variant="outlined"
            fullWidth
            sx={{ mt: 1 }}
            onClick={() => change({}, "Remove all guides", { guides: { start: 0, remove: guides.length } })}
          >
            Remove all guides
          </Button>
        )}
      </Section>
      <Section title="Download">
        <Downloads files={[{ label: "Growth lines, SVG", href: file("hair_lines.svg") }]} />
      </Section>
    </>
  );
}
