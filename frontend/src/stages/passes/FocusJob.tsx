import { Box, Button, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useState } from "react";
import { Line } from "react-konva";
import { base, type Schemas } from "../../api/client";
import { useFocus } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import { SpotMark } from "../../picture/Overlays";
import { Downloads, useFileUrl } from "../../sheet/Download";
import { Handle, Say, Section, Toggle } from "../../sheet/parts";
import { PlaceList, usePlaces } from "../../sheet/places";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";

type Depth = Schemas["FocusSettings"]["depth"];
type Mark = Schemas["FocusSettings"];
const depths: readonly Depth[] = ["near", "middle", "far"];

/** The middle of an outline. */
function middle(outline: readonly [number, number][]) {
  const sum = (axis: 0 | 1) => outline.reduce((all, p) => all + p[axis], 0) / outline.length;
  return { x: sum(0), y: sum(1) };
}

/** What is looked at, how far each place is finished, and the texture of the skin. */
export function FocusJob({ sitter, look }: JobProps) {
  const settings = sitter.settings.passes;
  const found = useFocus(sitter);
  const file = useFileUrl(sitter);
  const { change, isPending } = useChange(sitter, "passes");
  const [depth, setDepth] = useState<Depth>("near");
  const [finished, setFinished] = useState(true);
  const [drawing, setDrawing] = useState(false);
  const mark = (one: Mark) =>
    change({ focus: [...settings.focus, one] }, depth === "near" ? "Focus" : `Mark ${depth}`);
  const places = usePlaces(found.data?.places ?? []);
  const marks = found.data?.marks ?? [];
  useWall({
    busy: found.isFetching || isPending,
    tool: drawing ? "draw" : "pick",
    onPick: ([x, y]) => mark({ x, y, depth, outline: [] }),
    onStroke: (points) => {
      const step = Math.ceil(points.length / 200);
      const outline = points.filter((_, i) => i % step === 0);
      if (outline.length > 2) mark({ ...middle(outline), depth, outline });
    },
    picture: finished ? `${base(sitter.id)}/focus.png?v=${sitter.keys["focus"] ?? ""}` : undefined,
    onTray: (next) => {
      if (next.picture !== look.picture) setFinished(false);
      return next;
    },
    overlay: (px, size) => (
      <>
        {marks.map((m, i) => (
          <SpotMark key={i} spot={[m.x, m.y]} name={m.depth} size={size} px={px} />
        ))}
        {settings.focus.map((m, i) => (
          <Line
            key={`outline ${i}`}
            points={m.outline.flatMap(([x, y]) => [x * size.width, y * size.height])}
            closed
            stroke="#fff"
            strokeWidth={2 * px}
            listening={false}
          />
        ))}
        {places.mark(px, size)}
      </>
    ),
  });
  const texture = found.data?.texture;
  return (
    <>
      <ToggleButtonGroup
        exclusive
        fullWidth
        value={finished}
        aria-label="Picture"
        onChange={(_, v: boolean | null) => v !== null && setFinished(v)}
        sx={{ mb: 2 }}
      >
        <ToggleButton value={true}>As finished</ToggleButton>
        <ToggleButton value={false}>Reference</ToggleButton>
      </ToggleButtonGroup>
      <Section title="Focus">
        <Say quiet>
          {found.data?.own === false
            ? "The eyes, as long as you mark nothing; the plan is then finished alike everywhere. "
            : "As you marked it: borders, shapes, lines, canvases and hours of the plan follow. "}
          Press on the picture where the eye should rest, or where it should not.
        </Say>
        <ToggleButtonGroup
          exclusive
          fullWidth
          value={depth}
          aria-label="Mark as"
          onChange={(_, v: Depth | null) => v && setDepth(v)}
          sx={{ mb: 1 }}
        >
          {depths.map((d) => (
            <ToggleButton key={d} value={d}>
              {d}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        <Toggle label="Draw round a motif instead" on={drawing} onChange={setDrawing} />
        {settings.focus.map((m, i) => (
          <Box key={i} sx={{ display: "flex", alignItems: "center" }}>
            <Box sx={{ flex: 1 }}>
              Mark {i + 1}, {m.depth}
              {m.outline.length > 0 && ", a motif"}
            </Box>
            <Button
              color="inherit"
              aria-label={`Remove mark ${i + 1}`}
              onClick={() => change({ focus: settings.focus.filter((_, j) => j !== i) }, "Remove a mark")}
            >
              Remove
            </Button>
          </Box>
        ))}
      </Section>
      <Section title="Borders">
        <Handle
          label="No border harder than"
          value={settings.least_edge_mm}
          least={0}
          most={10}
          step={0.5}
          shown={(v) => (v === 0 ? "as it is seen" : `${v} mm`)}
          onChange={(v) => change({ least_edge_mm: v }, "No border harder")}
        />
        <Toggle
          label="Paint it tight, smear at the end"
          on={settings.softening === "smeared at the end"}
          onChange={(on) =>
            change({ softening: on ? "smeared at the end" : null }, on ? "Smear at the end" : "No smearing")
          }
        />
      </Section>
      <Section title="How far to finish">
        {found.isPending && <Say quiet>Weighing every place …</Say>}
        {found.isError && <Say>{found.error.message}</Say>}
        <PlaceList
          of={found.data?.places ?? []}
          places={places}
          right={(p) => `${Math.round(p.weight * 100)} %, edges from ${p.edge_mm.toFixed(1)} mm`}
          more={(p) => (
            <>
              {p.words[0]?.toUpperCase()}
              {p.words.slice(1)} Small contrast {p.small.toFixed(2)} step in the photograph, at most{" "}
              {p.allowed.toFixed(2)} in the painting.
            </>
          )}
        />
      </Section>
      <Section title="Texture of the skin">
        {texture && texture.marks === 0 && <Say>This skin is smooth: paint no pores and no creases.</Say>}
        {texture && texture.marks > 0 && (
          <>
            <Say>
              About <strong>{texture.marks} marks</strong>, {texture.gap_mm.toFixed(1)} mm from one another,
              never in a pattern, only in the light. Each dark wants a light beside it, towards the lamp:
              alone it looks like a spot.
            </Say>
            <Downloads files={[{ label: "Stencil at true size, SVG", href: file("stencil.svg") }]} />
          </>
        )}
      </Section>
    </>
  );
}
