import { Box, Button, MenuItem, TextField, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useState } from "react";
import { Line } from "react-konva";
import { base, type Schemas } from "../../api/client";
import { useBackground } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import type { Size } from "../../picture/useView";
import { Say, Section, Toggle } from "../../sheet/parts";
import { Row } from "../../sheet/Row";
import { Value } from "../../sheet/Value";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";

type Design = Schemas["PassSettings"]["backdrop"];
type Hue = Schemas["PassSettings"]["backdrop_hue"];

const designs: readonly { key: Design; label: string; said: string }[] = [
  { key: "photo", label: "as it is", said: "As photographed." },
  {
    key: "counter",
    label: "counter",
    said: "Dark where the figure is light, light where it is dark.",
  },
  { key: "halo", label: "halo", said: "A glow behind the head that sinks towards the edges." },
];
const hues: readonly Hue[] = ["as photographed", "neutral", "garment", "shadow flesh"];
const MOST = 14;

/** How light the background is beside every part of the outline. */
export function BackgroundJob({ sitter }: JobProps) {
  const settings = sitter.settings.passes;
  const found = useBackground(sitter);
  const { change, isPending } = useChange(sitter, "passes");
  const [drawing, setDrawing] = useState(false);
  const [chosen, setChosen] = useState<number | null>(null);
  const stretches = found.data?.stretches ?? [];
  const key = sitter.keys["background"] ?? "";
  useWall({
    busy: found.isFetching || isPending,
    tool: drawing ? "draw" : "pan",
    onStroke: (points) => {
      if (points.length > 1) change({ lost: [...settings.lost, { points }] }, "Lose an edge");
    },
    picture: `${base(sitter.id)}/background/${settings.backdrop}.png?v=${key}`,
    overlay: (px, size) => <Stretches of={stretches} chosen={chosen} px={px} size={size} />,
  });
  const design = designs.find((d) => d.key === settings.backdrop);
  const longest = stretches
    .map((s, i) => ({ ...s, i }))
    .sort((a, b) => b.length_mm - a.length_mm)
    .slice(0, MOST);
  return (
    <>
      <Section title="Background">
        <ToggleButtonGroup
          exclusive
          fullWidth
          value={settings.backdrop}
          aria-label="Design"
          onChange={(_, v: Design | null) =>
            v && change({ backdrop: v }, `Background ${designs.find((d) => d.key === v)?.label ?? v}`)
          }
          sx={{ mb: 1 }}
        >
          {designs.map((d) => (
            <ToggleButton key={d.key} value={d.key}>
              {d.label}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        <Say>{design?.said} The figure itself stays as it is.</Say>
        <TextField
          select
          fullWidth
          size="small"
          label="Its colour"
          value={settings.backdrop_hue}
          onChange={(e) => change({ backdrop_hue: e.target.value as Hue }, `Background ${e.target.value}`)}
          sx={{ mt: 1, mb: 1 }}
        >
          {hues.map((h) => (
            <MenuItem key={h} value={h}>
              {h === "garment" || h === "shadow flesh" ? `an echo of the ${h}` : h}
            </MenuItem>
          ))}
        </TextField>
        {found.data && (
          <Say>
            <strong>{Math.round(found.data.found_share * 100)} %</strong> of the outline stands out by a step
            or more.
          </Say>
        )}
        {found.isError && <Say>{found.error.message}</Say>}
      </Section>
      <Section title="Edges to lose">
        <Toggle label="Draw along them" on={drawing} onChange={setDrawing} />
        <Say quiet>
          {settings.backdrop === "photo"
            ? "They count once the background is designed: choose counter or halo."
            : "Where you draw, the background comes within half a step of the figure."}
        </Say>
        {settings.lost.map((_, i) => (
          <Box key={i} sx={{ display: "flex", alignItems: "center" }}>
            <Box sx={{ flex: 1 }}>Edge {i + 1}</Box>
            <Button
              color="inherit"
              aria-label={`Find edge ${i + 1} again`}
              onClick={() => change({ lost: settings.lost.filter((__, j) => j !== i) }, "Find an edge again")}
            >
              Remove
            </Button>
          </Box>
        ))}
      </Section>
      <Section title="Found and lost">
        <Box component="ul" aria-label="Stretches" sx={{ listStyle: "none", p: 0, m: 0 }}>
          {longest.map((s) => (
            <Box component="li" key={s.i}>
              <Row
                pressed={chosen === s.i}
                onClick={() => setChosen(chosen === s.i ? null : s.i)}
                sx={{ justifyContent: "space-between" }}
              >
                <span>
                  {s.kind}, {s.place}
                </span>
                <span>
                  <Value of={s.inside} /> against <Value of={s.outside} />
                </span>
              </Row>
            </Box>
          ))}
        </Box>
      </Section>
    </>
  );
}

const dashes = { found: undefined, soft: [7, 5], lost: [1, 5] } as const;

function Stretches({
  of,
  chosen,
  px,
  size,
}: {
  of: readonly Schemas["StretchOut"][];
  chosen: number | null;
  px: number;
  size: Size;
}) {
  return (
    <>
      {of.map((s, i) => {
        const points = s.points.flatMap(([x, y]) => [x * size.width, y * size.height]);
        const dash = dashes[s.kind]?.map((d) => d * px);
        const width = (chosen === i ? 4 : 1.6) * px;
        return (
          <Line
            key={i}
            points={points}
            stroke="#ffffff"
            shadowColor="#000000"
            shadowBlur={2 * px}
            shadowOpacity={0.9}
            strokeWidth={width}
            lineCap="round"
            listening={false}
            {...(dash ? { dash } : {})}
          />
        );
      })}
    </>
  );
}
