import { Box, Button, MenuItem, TextField, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useState } from "react";
import { Line } from "react-konva";
import { pictureUrl, type Schemas, type Settings } from "../../api/client";
import { useChange, useFrame, useRegions } from "../../api/hooks";
import type { Spot } from "../../picture/PictureStage";
import { Handle, NumberField, Say, Section } from "../../sheet/parts";
import { Workspace, type StageProps } from "../../sitter/Workspace";

type RegionName = Schemas["ScribbleSettings"]["region"];
const regionNames: RegionName[] = ["skin", "hair", "facial_hair", "garment", "background", "brows", "lips", "eyes"];
const words = (name: string) => name.replace("_", " ");
const canvases: [number, number][] = [[200, 250], [240, 300], [300, 375], [300, 400], [400, 500], [500, 600], [210, 297], [203, 254]];

/** The photograph on the canvas: frame, straighten, grid, and who is where. */
export function ReferenceStage({ sitter, look, onLook }: StageProps) {
  const [job, setJob] = useState<"look" | "frame" | "scribble">("look");
  const [region, setRegion] = useState<RegionName>("skin");
  const settings = sitter.settings.reference;
  const frame = useFrame(sitter);
  const regions = useRegions(sitter);
  const reference = useChange(sitter, "reference");
  const scribble = useChange(sitter, "regions");
  const scribbles = sitter.settings.regions.scribbles ?? [];
  const aspect = frame.data?.photograph_aspect ?? sitter.height / sitter.width;
  const whole = { width: 1000, height: 1000 * aspect };
  const width = settings.canvas_width_mm ?? 300;
  const height = settings.canvas_height_mm ?? 400;

  const set = (part: Partial<Settings["reference"]>, change: string) => reference.change(part, change);
  const centre = ([x, y]: Spot) => set({ centre_x: clamp(x), centre_y: clamp(y) }, "Move the frame");
  const draw = (points: Spot[]) => {
    const thinned = points.filter((_, i) => i % 2 === 0 || i === points.length - 1).map(([x, y]) => [inside(x), inside(y)] as [number, number]);
    scribble.change({ scribbles: [...scribbles, { region, points: thinned, width: 0.02 }] }, `Scribble ${words(region)}`);
  };

  const sheet = (
    <>
      <ToggleButtonGroup exclusive fullWidth value={job} aria-label="Tool" onChange={(_, v: typeof job | null) => v && setJob(v)} sx={{ mb: 2 }}>
        <ToggleButton value="look">Look</ToggleButton>
        <ToggleButton value="frame">Frame</ToggleButton>
        <ToggleButton value="scribble">Scribble</ToggleButton>
      </ToggleButtonGroup>
      <Section title="Canvas">
        <TextField select fullWidth size="small" label="Canvas size" sx={{ mb: 1.5 }}
          value={canvases.some(([w, h]) => w === width && h === height) ? `${width}x${height}` : "own"}
          onChange={(e) => {
            const [w, h] = e.target.value.split("x").map(Number);
            if (w && h) set({ canvas_width_mm: w, canvas_height_mm: h }, `Canvas ${w} × ${h} mm`);
          }}>
          {canvases.map(([w, h]) => <MenuItem key={`${w}x${h}`} value={`${w}x${h}`}>{w} × {h} mm</MenuItem>)}
          <MenuItem value="own">own size</MenuItem>
        </TextField>
        <Box sx={{ display: "flex", gap: 1, alignItems: "center", mb: 1 }}>
          <NumberField label="Width" unit="mm" value={width} least={10} most={5000} onChange={(v) => set({ canvas_width_mm: v }, `Canvas width ${v} mm`)} />
          <NumberField label="Height" unit="mm" value={height} least={10} most={5000} onChange={(v) => set({ canvas_height_mm: v }, `Canvas height ${v} mm`)} />
        </Box>
        <Button color="inherit" variant="outlined" fullWidth onClick={() => set({ canvas_width_mm: height, canvas_height_mm: width }, "Turn the canvas")}>Turn the canvas</Button>
      </Section>
      <Section title="Frame">
        {job === "frame" ? <Say quiet>Press on the photograph where the middle of the canvas should be.</Say> : null}
        <Handle label="Closer" value={settings.zoom ?? 1} least={1} most={6} step={0.05} shown={(v) => `${v.toFixed(2)} ×`} onChange={(v) => set({ zoom: v }, "Frame closer")} />
        <Handle label="Straighten" value={settings.straighten ?? 0} least={-15} most={15} step={0.1} shown={(v) => `${v.toFixed(1)}°`} onChange={(v) => set({ straighten: v }, "Straighten")} />
        {frame.data && <Say quiet>Framed at {frame.data.width} × {frame.data.height} pixels; one pixel is {frame.data.mm_per_px.toFixed(2)} mm on the canvas.</Say>}
      </Section>
      <Section title="Looking">
        <Handle label="Squint" value={settings.squint ?? 0.012} least={0.002} most={0.05} step={0.001} shown={(v) => `${(v * height).toFixed(1)} mm`} onChange={(v) => set({ squint: v }, "Squint")} />
        <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
          <NumberField whole label="Grid columns" value={settings.grid_columns ?? 3} least={1} most={40} onChange={(v) => set({ grid_columns: v }, "Grid")} />
          <NumberField whole label="Grid rows" value={settings.grid_rows ?? 4} least={1} most={40} onChange={(v) => set({ grid_rows: v }, "Grid")} />
        </Box>
      </Section>
      <Section title="Who is where">
        <Say>{regions.data?.sentence ?? (regions.isError ? regions.error.message : "Looking for the sitter …")}</Say>
        {regions.data && (
          <Say quiet>
            {Object.entries(regions.data.shares).filter(([, v]) => v >= 0.0005).sort((a, b) => b[1] - a[1]).map(([k, v]) => `${words(k)} ${(v * 100).toFixed(v < 0.01 ? 1 : 0)} %`).join(", ")}.
          </Say>
        )}
        <TextField select fullWidth size="small" label="Scribble over" value={region} onChange={(e) => { setRegion(e.target.value as RegionName); setJob("scribble"); }} sx={{ my: 1 }}>
          {regionNames.map((name) => <MenuItem key={name} value={name}>{words(name)}</MenuItem>)}
        </TextField>
        {job === "scribble" && <Say quiet>Draw over what is {words(region)}. Hold the space bar to move the picture.</Say>}
        {scribbles.length > 0 && (
          <Button color="inherit" variant="outlined" fullWidth onClick={() => scribble.change({ scribbles: [] }, "Clear scribbles")}>Clear {scribbles.length} {scribbles.length === 1 ? "scribble" : "scribbles"}</Button>
        )}
      </Section>
    </>
  );
  const framing = job === "frame";
  return (
    <Workspace sitter={sitter} sheet={sheet} onLook={onLook}
      look={job === "scribble" ? { ...look, regions: true } : look}
      tool={framing ? "pick" : job === "scribble" ? "draw" : "pan"}
      onPick={centre} onStroke={draw} busy={scribble.isPending || regions.isFetching}
      plain={framing} picture={framing ? pictureUrl(sitter, "photograph", "photograph") : undefined}
      size={framing ? whole : undefined} strokeWidth={0.02 * (frame.data?.height ?? 1000)}
      overlay={(px, size) => (
        <>
          {framing && frame.data && <FrameOverlay corners={frame.data.corners as Spot[]} width={whole.width} height={whole.height} px={px} />}
          {job === "scribble" && scribbles.map((s, i) => (
            <Line key={i} listening={false} points={s.points.flatMap(([x, y]) => [x * size.width, y * size.height])} stroke="#ffffff" opacity={0.8} dash={[6 * px, 6 * px]} strokeWidth={3 * px} />
          ))}
        </>
      )} />
  );
}

function FrameOverlay({ corners, width, height, px }: { corners: Spot[]; width: number; height: number; px: number }) {
  const points = corners.flatMap(([x, y]) => [x * width, y * height]);
  const first = points.slice(0, 2);
  const ring = [0, 0, width, 0, width, height, 0, height, 0, 0, ...points.slice(0, 2), ...points.slice(6, 8), ...points.slice(4, 6), ...points.slice(2, 4), ...first];
  return (
    <>
      <Line listening={false} closed points={ring} fill="#919191" opacity={0.72} />
      <Line listening={false} closed points={points} stroke="#ffffff" strokeWidth={4 * px} />
      <Line listening={false} closed points={points} stroke="#111111" strokeWidth={1.6 * px} />
    </>
  );
}

const clamp = (v: number) => Math.min(1, Math.max(0, v));
const inside = (v: number) => Math.round(Math.min(1.4, Math.max(-0.4, v)) * 10000) / 10000;
