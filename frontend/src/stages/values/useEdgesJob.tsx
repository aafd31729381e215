import { Box, FormControlLabel, Switch } from "@mui/material";
import { useState } from "react";
import { Line } from "react-konva";
import { pictureUrl, type Schemas, type Sitter } from "../../api/client";
import { useEdges, useRisks } from "../../api/hooks";
import { SpotMark } from "../../picture/Overlays";
import { Say, Section } from "../../sheet/parts";
import type { Job } from "../job";

type Edge = Schemas["EdgeOut"];
const kinds = ["hard", "firm", "soft", "lost"] as const;

/** Edges, hard to lost, and the places where small marks outweigh the masses. */
export function useEdgesJob(sitter: Sitter, active: boolean): Job {
  const edges = useEdges(sitter, active);
  const risks = useRisks(sitter, active);
  const [risk, setRisk] = useState(false);
  const [chosen, setChosen] = useState<Edge | null>(null);
  const all = edges.data?.edges ?? [];
  const total = Object.values(edges.data?.lengths_mm ?? {}).reduce((a, b) => a + b, 0);
  const list = (kind: Edge["kind"], order: (e: Edge) => number) =>
    all.filter((e) => e.kind === kind && e.length_mm > 12).sort((a, b) => order(b) - order(a)).slice(0, 5);
  const line = (e: Edge, i: number) => (
    <Box key={i} component="button" aria-pressed={chosen === e} onClick={() => setChosen(chosen === e ? null : e)}
      sx={{ all: "unset", boxSizing: "border-box", cursor: "pointer", width: "100%", display: "flex", justifyContent: "space-between", alignItems: "center", minHeight: 44, borderBottom: 1, borderColor: "divider", fontSize: 15, fontWeight: chosen === e ? 700 : 400 }}>
      <span>{e.place}</span><span>{e.width_mm.toFixed(1)} mm wide, {e.contrast.toFixed(1)} steps</span>
    </Box>
  );
  const sheet = (
    <>
      <Section title="Edges">
        {edges.isPending && <Say quiet>Walking along the borders …</Say>}
        {edges.isError && <Say>{edges.error.message}</Say>}
        {edges.data && (
          <>
            <Say>{kinds.map((k) => `${k} ${(((edges.data.lengths_mm[k] ?? 0) / Math.max(1, total)) * 100).toFixed(0)} %`).join(", ")}.</Say>
            <Say quiet>The heavier the line, the harder the edge; lost ones are dotted. Width is where the value passes from a tenth to nine tenths of the way.</Say>
          </>
        )}
      </Section>
      <Section title="Hardest">{list("hard", (e) => e.contrast / (0.3 + e.width_mm)).map(line)}</Section>
      <Section title="Lost">{list("lost", (e) => e.length_mm).map(line)}</Section>
      <Section title="Likely to be overworked">
        <FormControlLabel control={<Switch color="default" checked={risk} onChange={(_, on) => setRisk(on)} />} label="Hatch where marks outweigh masses" />
        {risks.data?.length === 0 && <Say quiet>Nowhere: the masses hold.</Say>}
        {risks.data?.map((r, i) => <Say key={i}>{i + 1} {r.place}, {(r.share * 100).toFixed(1)} % of the picture</Say>)}
        <Say quiet>Here the small marks differ more than the big shapes do. Keep them quieter than they look, or leave them out.</Say>
      </Section>
    </>
  );
  return {
    sheet,
    wall: {
      busy: active && edges.isFetching,
      veil: risk ? pictureUrl(sitter, "risk", "looking") : null,
      overlay: (px, size) => (
        <>
          {chosen && <Line listening={false} points={chosen.points.map((v, j) => v * (j % 2 ? size.height : size.width))} stroke="#ffffff" strokeWidth={11 * px} opacity={0.65} lineCap="round" lineJoin="round" />}
          {chosen && <Line listening={false} points={chosen.points.map((v, j) => v * (j % 2 ? size.height : size.width))} stroke="#000000" strokeWidth={3 * px} />}
          {risk && risks.data?.map((r, i) => <SpotMark key={i} spot={[r.x, r.y]} name={String(i + 1)} size={size} px={px} />)}
        </>
      ),
    },
  };
}
