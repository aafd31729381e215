import { Box, Button, ButtonBase, MenuItem, TextField, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useState } from "react";
import { Line, Rect } from "react-konva";
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
  { key: "own", label: "own", said: "Two colours of yours that pass into one another." },
];
const hues: readonly Hue[] = ["as photographed", "neutral", "garment", "shadow flesh"];
const MOST = 14;
/** Width of a frame beside that of the picture. */
const FRAME = 0.03;
const directions = [
  { turn: 0, label: "from above to below" },
  { turn: -90, label: "from left to right" },
  { turn: 90, label: "from right to left" },
  { turn: -45, label: "from the upper left" },
  { turn: 45, label: "from the upper right" },
] as const;

/** How light the background is beside every part of the outline. */
export function BackgroundJob({ sitter }: JobProps) {
  const settings = sitter.settings.passes;
  const found = useBackground(sitter);
  const { change, isPending } = useChange(sitter, "passes");
  const [drawing, setDrawing] = useState(false);
  const [chosen, setChosen] = useState<number | null>(null);
  const [framed, setFramed] = useState<string | null>(null);
  const frame = found.data?.frames.find((f) => f.name === framed);
  const stretches = found.data?.stretches ?? [];
  const key = sitter.keys["background"] ?? "";
  useWall({
    busy: found.isFetching || isPending,
    tool: drawing ? "draw" : "pan",
    onStroke: (points) => {
      if (points.length > 1) change({ lost: [...settings.lost, { points }] }, "Lose an edge");
    },
    picture: `${base(sitter.id)}/background/${settings.backdrop}.png?v=${key}`,
    overlay: (px, size) => (
      <>
        {frame && (
          <Rect
            x={-FRAME * size.width}
            y={-FRAME * size.width}
            width={size.width * (1 + 2 * FRAME)}
            height={size.height + 2 * FRAME * size.width}
            stroke={frame.hex}
            strokeWidth={FRAME * size.width * 2}
            listening={false}
          />
        )}
        <Stretches of={frame ? [] : stretches} chosen={chosen} px={px} size={size} />
      </>
    ),
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
        {settings.backdrop === "own" && found.data && (
          <OwnTones
            own={settings.backdrop_own}
            offers={found.data.offers}
            steps={found.data.steps}
            onChange={(own, words) => change({ backdrop_own: own }, words)}
          />
        )}
        <TextField
          select
          fullWidth
          disabled={settings.backdrop === "own"}
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
      <Section title="Frame">
        <Box role="group" aria-label="Frame" sx={{ display: "flex", flexWrap: "wrap", gap: 1, mb: 1 }}>
          {found.data?.frames.map((f) => (
            <Swatch
              key={f.name}
              name={f.name}
              hex={f.hex}
              chosen={framed === f.name}
              onClick={() => setFramed(framed === f.name ? null : f.name)}
            />
          ))}
        </Box>
        <Say quiet>
          {frame
            ? `${frame.name}: ${frame.words}`
            : "Press one to see it round the picture; the first closes it off most calmly."}
        </Say>
      </Section>
      <Section title="Edges to lose">
        <Toggle label="Draw along them" on={drawing} onChange={setDrawing} />
        <Say quiet>
          {settings.backdrop === "photo" || settings.backdrop === "own"
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

/** A colour to press. */
function Swatch({
  name,
  hex,
  chosen,
  onClick,
}: {
  name: string;
  hex: string;
  chosen: boolean;
  onClick: () => void;
}) {
  return (
    <ButtonBase
      aria-label={name}
      aria-pressed={chosen}
      title={name}
      onClick={onClick}
      sx={{
        width: 44,
        height: 44,
        bgcolor: hex,
        border: chosen ? 3 : 1,
        borderColor: chosen ? "text.primary" : "divider",
      }}
    />
  );
}

type Own = Schemas["BackdropSettings"];

/** The two colours of a background of one's own, taken from the sitter or the board, and where they run. */
function OwnTones({
  own,
  offers,
  steps,
  onChange,
}: {
  own: Own;
  offers: readonly Schemas["OfferOut"][];
  steps: number;
  onChange: (own: Own, words: string) => void;
}) {
  const same = (one: readonly number[], other: readonly number[]) =>
    one.every((v, i) => Math.abs(v - (other[i] ?? 0)) < 0.01);
  return (
    <Box sx={{ mb: 1 }}>
      {(["first", "last"] as const).map((end) => (
        <Box
          key={end}
          role="group"
          aria-label={end === "first" ? "Begins in" : "Ends in"}
          sx={{ display: "flex", flexWrap: "wrap", gap: 1, alignItems: "center", mb: 1 }}
        >
          <Box sx={{ width: 70 }}>{end === "first" ? "Begins in" : "Ends in"}</Box>
          {offers.map((o) => (
            <Swatch
              key={o.name}
              name={o.name}
              hex={o.hex}
              chosen={same(o.lab, own[end])}
              onClick={() => onChange({ ...own, [end]: o.lab }, `Background ${o.name}`)}
            />
          ))}
        </Box>
      ))}
      <TextField
        select
        fullWidth
        size="small"
        label="Runs"
        value={directions.find((d) => d.turn === own.turn)?.turn ?? 0}
        onChange={(e) => onChange({ ...own, turn: Number(e.target.value) }, "Turn the background")}
        sx={{ mt: 1, mb: 1 }}
      >
        {directions.map((d) => (
          <MenuItem key={d.turn} value={d.turn}>
            {d.label}
          </MenuItem>
        ))}
      </TextField>
      <Say quiet>
        {steps === 1
          ? "Near enough in value to run into one another."
          : `In ${steps} tones, each laid beside the last. Pinned mixtures can be chosen too.`}
      </Say>
    </Box>
  );
}
