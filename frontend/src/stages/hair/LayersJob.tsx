import { Box, Button, MenuItem, TextField, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useState } from "react";
import { base, pictureUrl, type Schemas } from "../../api/client";
import { useHairLayers } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import { Downloads, useFileUrl } from "../../sheet/Download";
import { Handle, NumberField, Say, Section, Toggle } from "../../sheet/parts";
import { Row } from "../../sheet/Row";
import { Scrubber } from "../../sheet/Scrubber";
import { spoken } from "../../sheet/spoken";
import { useTubes } from "../../sheet/useTubes";
import { useStored } from "../../sitter/stored";
import { useWall } from "../../sitter/wall";
import { MixtureLine } from "../flesh/MixtureLine";
import type { JobProps } from "../job";
import { types } from "./LockDetails";
import { textSize } from "../../theme";

type Way = Schemas["PlanWay"];

const glazes = {
  tie: "one that ties light and dark",
  warm: "one that warms",
  cool: "one that cools",
  darken: "one that darkens",
  "in turn": "two hues in turn, over darks and lights",
};

const hours = (h: number) => (h < 1 ? `${Math.round(h * 60)} min` : `${h.toFixed(1)} h`);
const brush = (mm: number) => (mm < 1 ? mm.toFixed(1) : mm.toFixed(0));

/** Masses or strands, and the hair painted layer by layer with real strokes. */
export function LayersJob({ sitter, look }: JobProps) {
  const settings = sitter.settings.hair;
  const found = useHairLayers(sitter);
  const file = useFileUrl(sitter);
  const tubes = useTubes(sitter);
  const { change, isPending } = useChange(sitter, "hair");
  const [stored, setNumber] = useStored(`hair-layer-${sitter.id}`, 99);
  const [painted, setPainted] = useState(true);
  const [band, setBand] = useState(false);
  const layers = found.data?.layers ?? [];
  const number = Math.min(Math.max(1, stored), Math.max(1, layers.length));
  const layer = layers[number - 1];
  const head = found.data?.kinds.find((k) => k.kind === "hair");
  useWall({
    busy: found.isFetching || isPending,
    picture:
      painted && layer
        ? `${base(sitter.id)}/hair/layers/${number}/picture?v=${sitter.keys["hair/layers"] ?? ""}`
        : undefined,
    veil: band ? pictureUrl(sitter, "hair-band") : null,
    onTray: (next) => {
      if (next.picture !== look.picture) setPainted(false);
      return next;
    },
  });
  return (
    <>
      <ToggleButtonGroup
        exclusive
        fullWidth
        value={painted}
        aria-label="Picture"
        onChange={(_, v: boolean | null) => v !== null && setPainted(v)}
        sx={{ mb: 2 }}
      >
        <ToggleButton value={true}>Painted</ToggleButton>
        <ToggleButton value={false}>Reference</ToggleButton>
      </ToggleButtonGroup>
      {found.isPending && <Say quiet>Stroking the hair, layer by layer …</Say>}
      {found.isError && <Say>{found.error.message}</Say>}
      {found.data && layers.length === 0 && (
        <Say>{found.data.refused || "No hair is marked. Draw over the hair in Reference, regions."}</Say>
      )}
      {layer && (
        <Section title="After each layer">
          <Scrubber
            before="Layer before"
            next="Next layer"
            label="After layer"
            number={number}
            count={layers.length}
            onChange={setNumber}
          />
          <MixtureLine
            mixture={layer.mixed}
            tubes={tubes}
            title={`${number}  ${layer.name}`}
            note={
              <Box sx={{ fontSize: textSize.small, mt: 0.6 }}>
                {layer.strokes > 0 && (
                  <>
                    <strong>{layer.strokes}</strong> strokes
                    {layer.strays > 0 && ` (${layer.strays} of them strays)`},{" "}
                  </>
                )}
                up to {brush(layer.width_mm)} mm wide with {layer.tool}, film {layer.film_mm.toFixed(2)} mm
                wet
                {layer.dilution ? `, ${layer.dilution.words}` : ""}, about {spoken(layer.minutes)}.{" "}
                {layer.said}
                {layer.tones.length > 1 && <Tones tones={layer.tones} />}
                {layer.looks.length > 0 && <Looks looks={layer.looks} />}
              </Box>
            }
          />
          <Say quiet>
            Then this mass stands {layer.error.toFixed(2)} steps from the squinted photograph on average; the
            layer brings its place {layer.gain.toFixed(2)} nearer. It is pass {layer.number} of the plan.
          </Say>
        </Section>
      )}
      {found.data && layers.length > 0 && (
        <>
          <Section title="Masses or strands">
            <WayLine
              way={found.data.approach.masses}
              on={found.data.approach.chosen === "masses"}
              pick={() => change({ way: "masses" }, "Paint in masses")}
            />
            <WayLine
              way={found.data.approach.strands}
              on={found.data.approach.chosen === "strands"}
              pick={() => change({ way: "strands" }, "Paint in strands")}
            />
            <Say>{found.data.approach.why}</Say>
            <Say quiet>
              A hair is {found.data.approach.hair_mm.toFixed(2)} mm wide on this canvas. Brushes of 2 to 8
              hairs give neither.
            </Say>
            <Box sx={{ display: "flex", gap: 1, my: 1 }}>
              <NumberField
                label="Hours for the hair"
                value={settings.hours ?? 0}
                least={0}
                most={1000}
                onChange={(v) => change({ hours: v > 0 ? v : null, way: null }, "Hours for the hair")}
              />
              {settings.way && (
                <Button
                  color="inherit"
                  variant="outlined"
                  onClick={() => change({ way: null }, "By the hours")}
                >
                  By the hours
                </Button>
              )}
            </Box>
            <Handle
              label="Layers"
              value={settings.layers ?? layers.filter((l) => l.mass.startsWith("Hair")).length}
              least={3}
              most={9}
              step={1}
              onChange={(v) => change({ layers: v }, "Layers of the hair")}
            />
            <TextField
              select
              fullWidth
              size="small"
              label="Type of the hair"
              value={settings.type ?? ""}
              onChange={(e) =>
                change({ type: (e.target.value || null) as (typeof types)[number] | null }, "Type of hair")
              }
              slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
              sx={{ mb: 1 }}
            >
              <MenuItem value="">each lock as it looks{head ? ` (mostly ${head.type})` : ""}</MenuItem>
              {types.map((t) => (
                <MenuItem key={t} value={t}>
                  {t}
                </MenuItem>
              ))}
            </TextField>
            <Handle
              label="Disorder of the strokes"
              value={settings.disorder ?? 0}
              least={0}
              most={60}
              step={1}
              shown={(v) => (settings.disorder === null && v === 0 ? "as its type" : `${v}°`)}
              onChange={(v) => change({ disorder: v > 0 ? v : null }, "Disorder of the hair")}
            />
            <Toggle
              label="A few light hairs early"
              on={settings.early_lights}
              onChange={(v) => change({ early_lights: v }, "Early light hairs")}
            />
            <TextField
              select
              fullWidth
              size="small"
              label="Glaze over the hair, before the lights are restated"
              value={settings.glaze ?? ""}
              onChange={(e) =>
                change(
                  { glaze: (e.target.value || null) as (typeof settings)["glaze"] },
                  "Glaze over the hair",
                )
              }
              slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
              sx={{ mt: 1 }}
            >
              <MenuItem value="">none</MenuItem>
              {Object.entries(glazes).map(([key, words]) => (
                <MenuItem key={key} value={key}>
                  {words}
                </MenuItem>
              ))}
            </TextField>
          </Section>
          <Section title="Shine">
            {found.data.shine.map((s) => (
              <Box key={s.mass} sx={{ mb: 1 }}>
                <Say>
                  <strong>{s.mass.charAt(0).toUpperCase() + s.mass.slice(1)}</strong>: {s.word} (
                  {(s.index * 10).toFixed(0)} of 10). Its lights are {s.temperature}. {s.advice}
                </Say>
              </Box>
            ))}
            <Toggle label="Show where this light should lie" on={band} onChange={setBand} />
          </Section>
          <Section title={`All ${layers.length} layers`}>
            {layers.map((l, i) => (
              <Row key={i} pressed={i + 1 === number} onClick={() => setNumber(i + 1)}>
                <Box aria-hidden sx={{ width: 26, height: 20, bgcolor: l.hex, flex: "none" }} />
                <span style={{ flex: 1 }}>
                  {i + 1} {l.name}
                </span>
                <span>{spoken(l.minutes)}</span>
              </Row>
            ))}
          </Section>
          <Section title="Download">
            <Downloads
              files={[
                { label: "Strokes, SVG", href: file("strokes.svg") },
                { label: "Practice sheet, PDF", href: file("hair_practice.pdf") },
              ]}
            />
          </Section>
        </>
      )}
    </>
  );
}

/** The mixtures that the strokes of a layer vary in, as wide as so many strokes take them. */
function Tones({ tones }: { tones: Schemas["PlanHairTone"][] }) {
  return (
    <Box component="ul" aria-label="Mixtures of the strokes" sx={{ p: 0, mt: 0.8, mb: 0 }}>
      {tones.map((tone) => (
        <Box
          component="li"
          key={tone.words}
          sx={{ display: "flex", alignItems: "center", gap: 1, listStyle: "none" }}
        >
          <Box aria-hidden sx={{ width: 26, height: 16, bgcolor: tone.hex, flex: "none" }} />
          <span>
            <strong>{tone.strokes}</strong> {tone.words ? `with ${tone.words}` : "as it is"}
          </span>
        </Box>
      ))}
    </Box>
  );
}

/** A glaze over each tone that it goes over: before and after. */
function Looks({ looks }: { looks: Schemas["PlanGlazeLook"][] }) {
  return (
    <Box component="ul" aria-label="The glaze over each tone" sx={{ display: "flex", gap: 2, p: 0, my: 0.8 }}>
      {looks.map((look) => (
        <Box component="li" key={look.tone} sx={{ listStyle: "none" }}>
          <Box aria-hidden sx={{ display: "flex" }}>
            <Box sx={{ width: 30, height: 22, bgcolor: look.before_hex }} />
            <Box sx={{ width: 30, height: 22, bgcolor: look.after_hex }} />
          </Box>
          {look.tone}
        </Box>
      ))}
    </Box>
  );
}

/** One way with its brushes, hours and what it gives up. */
function WayLine({ way, on, pick }: { way: Way; on: boolean; pick: () => void }) {
  const widest = way.brushes_mm[0] ?? 0;
  const finest = way.brushes_mm[way.brushes_mm.length - 1] ?? 0;
  return (
    <>
      <Row pressed={on} onClick={pick} sx={{ justifyContent: "space-between" }}>
        <span>{way.way}</span>
        <span>
          {hours(way.hours)}, {way.strokes} strokes
        </span>
      </Row>
      <Box sx={{ fontSize: textSize.small, py: 0.6, color: on ? "text.primary" : "text.secondary" }}>
        Brushes {brush(widest)} to {brush(finest)} mm. Lost: {way.lost}
        {way.neither && " One of its brushes is too fine for a mass and too wide for a hair."}
      </Box>
    </>
  );
}
