import { useState } from "react";
import { Line } from "react-konva";
import { pictureUrl, type Schemas } from "../../api/client";
import { useEdges, useRisks } from "../../api/hooks";
import { SpotMark } from "../../picture/Overlays";
import { Say, Section, Toggle } from "../../sheet/parts";
import { Row } from "../../sheet/Row";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";

type Edge = Schemas["EdgeOut"];
const kinds = ["hard", "firm", "soft", "lost"] as const;

/** Edges, hard to lost, and the places where small marks outweigh the masses. */
export function EdgesJob({ sitter }: JobProps) {
  const edges = useEdges(sitter);
  const risks = useRisks(sitter);
  const [risk, setRisk] = useState(false);
  const [chosen, setChosen] = useState<Edge | null>(null);
  const all = edges.data?.edges ?? [];
  const total = Object.values(edges.data?.lengths_mm ?? {}).reduce((a, b) => a + b, 0);
  const list = (kind: Edge["kind"], order: (e: Edge) => number) =>
    all
      .filter((e) => e.kind === kind && e.length_mm > 12)
      .sort((a, b) => order(b) - order(a))
      .slice(0, 5);
  const line = (e: Edge, i: number) => (
    <Row
      key={i}
      pressed={chosen === e}
      onClick={() => setChosen(chosen === e ? null : e)}
      sx={{ justifyContent: "space-between" }}
    >
      <span>{e.place}</span>
      <span>
        {e.width_mm.toFixed(1)} mm wide, {e.contrast.toFixed(1)} steps
        {e.softer ? `, soft on the ${e.softer} side` : ""}
      </span>
    </Row>
  );
  const sheet = (
    <>
      <Section title="Edges">
        {edges.isPending && <Say quiet>Walking along the borders …</Say>}
        {edges.isError && <Say>{edges.error.message}</Say>}
        {edges.data && (
          <>
            <Say>
              {kinds
                .map(
                  (k) =>
                    `${k} ${(((edges.data.lengths_mm[k] ?? 0) / Math.max(1, total)) * 100).toFixed(0)} %`,
                )
                .join(", ")}
              .
            </Say>
            <Say quiet>
              The heavier the line, the harder the edge; lost ones are dotted. Width is where the value passes
              from a tenth to nine tenths of the way.
            </Say>
          </>
        )}
      </Section>
      <Section title="Hardest">{list("hard", (e) => e.contrast / (0.3 + e.width_mm)).map(line)}</Section>
      <Section title="Lost">{list("lost", (e) => e.length_mm).map(line)}</Section>
      <Section title="Likely to be overworked">
        <Toggle label="Hatch these places" on={risk} onChange={setRisk} />
        {risks.data?.length === 0 && <Say quiet>Nowhere: the big shapes are stronger everywhere.</Say>}
        {risks.data?.map((r, i) => (
          <Say key={i}>
            {i + 1} {r.place}, {(r.share * 100).toFixed(1)} % of the picture
          </Say>
        ))}
        <Say quiet>
          Here small marks differ more than the big shapes under them. Keep them quieter than they look, or
          leave them out.
        </Say>
      </Section>
    </>
  );
  useWall({
    force: { edges: true },
    busy: edges.isFetching,
    veil: risk ? pictureUrl(sitter, "risk") : null,
    overlay: (px, size) => (
      <>
        {chosen && (
          <Line
            listening={false}
            points={chosen.points.map((v, j) => v * (j % 2 ? size.height : size.width))}
            stroke="#ffffff"
            strokeWidth={11 * px}
            opacity={0.65}
            lineCap="round"
            lineJoin="round"
          />
        )}
        {chosen && (
          <Line
            listening={false}
            points={chosen.points.map((v, j) => v * (j % 2 ? size.height : size.width))}
            stroke="#000000"
            strokeWidth={3 * px}
          />
        )}
        {risk &&
          risks.data?.map((r, i) => (
            <SpotMark key={i} spot={[r.x, r.y]} name={String(i + 1)} size={size} px={px} />
          ))}
      </>
    ),
  });
  return sheet;
}
