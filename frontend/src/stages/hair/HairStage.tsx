import { Box, Button, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useState } from "react";
import { base } from "../../api/client";
import { useChange, useHair } from "../../api/hooks";
import { DirectedLines } from "../../picture/Overlays";
import type { Spot } from "../../picture/PictureStage";
import { Handle, Say, Section } from "../../sheet/parts";
import { Workspace, type StageProps } from "../../sitter/Workspace";

/** Which way the hair grows: mapping lines, and the painter's guide strokes that bend them. */
export function HairStage({ sitter, look, onLook }: StageProps) {
  const settings = sitter.settings.hair;
  const guides = settings.guides ?? [];
  const hair = useHair(sitter);
  const { change, isPending } = useChange(sitter, "hair");
  const [job, setJob] = useState<"draw" | "pan">("draw");
  const draw = (points: Spot[]) => {
    const thinned = points.filter((_, i) => i % 3 === 0 || i === points.length - 1).map(([x, y]) => [round(x), round(y)] as [number, number]);
    if (thinned.length > 1) change({ guides: [...guides, { points: thinned, reach: 0.04 }] }, "Guide stroke");
  };
  const sure = hair.data?.coherence ?? 0;
  const sheet = (
    <>
      <ToggleButtonGroup exclusive fullWidth value={job} aria-label="Tool" onChange={(_, v: typeof job | null) => v && setJob(v)} sx={{ mb: 2 }}>
        <ToggleButton value="draw">Draw a guide</ToggleButton>
        <ToggleButton value="pan">Move the picture</ToggleButton>
      </ToggleButtonGroup>
      <Section title="Mapping lines">
        {hair.isPending && <Say quiet>Following the strands …</Say>}
        {hair.isError && <Say>{hair.error.message}</Say>}
        {hair.data && (hair.data.hair_share < 0.002
          ? <Say>No hair is marked. Scribble over the hair in Reference.</Say>
          : <>
              <Say><strong>{hair.data.lines.length}</strong> lines, from the root (dot) to the tip (arrow). The strands show {sure > 0.6 ? "plainly" : sure > 0.35 ? "fairly well" : "only faintly: draw guides"}.</Say>
              <Say>{hair.data.whorls.length === 0 ? "No whorl can be seen." : `${hair.data.whorls.length === 1 ? "One whorl" : `${hair.data.whorls.length} whorls`} found.`}</Say>
            </>)}
        <Handle label="Spacing on the canvas" value={settings.spacing_mm ?? 6} least={2} most={25} step={0.5} shown={(v) => `${v} mm`} onChange={(v) => change({ spacing_mm: v }, "Spacing")} />
        <Say quiet>Strict at the root, free at the tip: begin each stroke exactly along the map.</Say>
      </Section>
      <Section title="Guide strokes">
        <Say quiet>Draw from the root to the tip where the map is wrong; the lines bend at once. Hold the space bar to move the picture.</Say>
        {guides.map((_, i) => (
          <Box key={i} sx={{ display: "flex", alignItems: "center", borderBottom: 1, borderColor: "divider" }}>
            <Box sx={{ flex: 1 }}>Guide {i + 1}</Box>
            <Button color="inherit" aria-label={`Remove guide ${i + 1}`} onClick={() => change({ guides: guides.filter((_, j) => j !== i) }, "Remove a guide")}>Remove</Button>
          </Box>
        ))}
        {guides.length > 1 && <Button color="inherit" variant="outlined" fullWidth sx={{ mt: 1 }} onClick={() => change({ guides: [] }, "Clear guides")}>Clear all guides</Button>}
      </Section>
      <Section title="Take away">
        <Button color="inherit" variant="outlined" fullWidth href={`${base(sitter.id)}/files/hair_lines.svg`}>Mapping lines, SVG</Button>
      </Section>
    </>
  );
  return (
    <Workspace sitter={sitter} look={look} onLook={onLook} sheet={sheet} tool={job} onStroke={draw} strokeWidth={1} busy={hair.isFetching || isPending}
      overlay={(px, size) => (
        <>
          {hair.data && <DirectedLines lines={hair.data.lines} size={size} px={px} />}
          <DirectedLines bold lines={guides.map((g) => g.points.flat())} size={size} px={px} />
        </>
      )} />
  );
}

const round = (v: number) => Math.round(Math.min(1.4, Math.max(-0.4, v)) * 10000) / 10000;
