import { Button, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useState } from "react";
import { Circle, Line } from "react-konva";
import { base, call, pictureUrl, type Schemas, type Settings } from "../../api/client";
import { useFrame } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import type { Spot } from "../../picture/spots";
import { ends, inside } from "../../picture/spots";
import { Handle, Say, Section, Toggle } from "../../sheet/parts";
import { useNotice } from "../../sitter/notice";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { CanvasSection } from "./CanvasSection";
import { Framings } from "./Framings";

type Tool = "none" | "place" | "level" | "corners";

/** The frame: canvas, crop, level, corners, mirror. */
export function FrameJob({ sitter }: JobProps) {
  const settings = sitter.settings.reference;
  const frame = useFrame(sitter);
  const notice = useNotice();
  const { change, isPending } = useChange(sitter, "reference");
  const [tool, setTool] = useState<Tool>("none");
  const [corners, setCorners] = useState<Spot[]>([]);
  const set = (part: Partial<Settings["reference"]>, words: string) => change(part, words);
  const height = settings.canvas_height_mm;
  const aspect = frame.data?.photograph_aspect ?? sitter.height / sitter.width;
  const whole = { width: 1000, height: 1000 * aspect };
  const onPhotograph = tool === "place" || tool === "corners";

  const level = async (points: Spot[]) => {
    const line = ends(points);
    if (!line) return;
    const [a, b] = line;
    try {
      const found = await call<Schemas["LevelOut"]>(
        `${base(sitter.id)}/reference/level?x1=${part(a[0])}&y1=${part(a[1])}&x2=${part(b[0])}&y2=${part(b[1])}`,
      );
      set({ straighten: found.straighten }, `Straighten to ${found.straighten.toFixed(1)}°`);
    } catch (error) {
      notice((error as Error).message);
    }
  };
  const pick = (spot: Spot) => {
    if (tool === "place") set({ centre_x: part(spot[0]), centre_y: part(spot[1]) }, "Move the frame");
    if (tool !== "corners") return;
    const next = [...corners, spot];
    if (next.length < 4) {
      setCorners(next);
      return;
    }
    setCorners([]);
    setTool("none");
    set({ keystone: clockwise(next) }, "Set the four corners");
  };

  const sheet = (
    <>
      <CanvasSection settings={settings} onSet={set} />
      <Framings sitter={sitter} aspect={aspect} onSet={set} />
      <Section title="Frame">
        <ToggleButtonGroup
          exclusive
          fullWidth
          value={tool}
          aria-label="Frame tool"
          onChange={(_, v: Tool | null) => {
            setTool(v ?? "none");
            setCorners([]);
          }}
          sx={{ mb: 1 }}
        >
          <ToggleButton value="place">Centre</ToggleButton>
          <ToggleButton value="level">Straighten</ToggleButton>
          <ToggleButton value="corners">Square up</ToggleButton>
        </ToggleButtonGroup>
        <Say quiet>
          {
            {
              none: "Centre the frame, straighten by a line, or square up by four corners that should be a rectangle.",
              place: "Press on the photograph where the middle of the canvas should be.",
              level: "Draw along something that should be level or upright.",
              corners: `Press on the four corners of something rectangular: ${4 - corners.length} to go.`,
            }[tool]
          }
        </Say>
        <Handle
          label="Zoom in"
          value={settings.zoom}
          least={1}
          most={6}
          step={0.05}
          shown={(v) => `${v.toFixed(2)} ×`}
          onChange={(v) => set({ zoom: v }, "Zoom in")}
        />
        <Handle
          label="Turned by"
          value={settings.straighten}
          least={-15}
          most={15}
          step={0.1}
          shown={(v) => `${v.toFixed(1)}°`}
          onChange={(v) => set({ straighten: v }, "Straighten")}
        />
        <Toggle
          label="Mirror the sitter on the canvas"
          on={settings.mirror}
          onChange={(on) => set({ mirror: on }, on ? "Mirror the sitter" : "Unmirror the sitter")}
        />
        {settings.keystone && (
          <Button
            color="inherit"
            variant="outlined"
            fullWidth
            onClick={() => set({ keystone: null }, "Clear the corners")}
          >
            Clear the four corners
          </Button>
        )}
        {frame.data && (
          <Say quiet>
            Framed at {frame.data.width} × {frame.data.height} pixels; one pixel is{" "}
            {frame.data.mm_per_px.toFixed(2)} mm on the canvas. The photograph itself is never changed.
          </Say>
        )}
      </Section>
      <Section title="Looking">
        <Handle
          label="Squint"
          value={settings.squint}
          least={0.002}
          most={0.05}
          step={0.001}
          shown={(v) => `${(v * height).toFixed(1)} mm`}
          onChange={(v) => set({ squint: v }, "Squint")}
        />
      </Section>
    </>
  );
  useWall({
    busy: isPending,
    tool: onPhotograph ? "pick" : tool === "level" ? "draw" : "pan",
    onPick: pick,
    onStroke: (points) => void level(points),
    straight: tool === "level",
    plain: onPhotograph,
    ...(onPhotograph
      ? { picture: pictureUrl(sitter, tool === "place" ? "square" : "photograph"), size: whole }
      : {}),
    overlay: (px) =>
      onPhotograph && (
        <>
          {frame.data && (tool === "place" || !settings.keystone) && (
            <FrameOverlay corners={frame.data.corners} width={whole.width} height={whole.height} px={px} />
          )}
          {(tool === "corners" ? corners : []).map(([x, y], i) => (
            <Circle
              key={i}
              listening={false}
              x={x * whole.width}
              y={y * whole.height}
              radius={6 * px}
              fill="#ffffff"
              stroke="#000000"
              strokeWidth={2 * px}
            />
          ))}
          {tool === "corners" && settings.keystone && corners.length === 0 && (
            <Line
              listening={false}
              closed
              points={settings.keystone.flatMap(([x, y]) => [x * whole.width, y * whole.height])}
              stroke="#ffffff"
              dash={[8 * px, 5 * px]}
              strokeWidth={2.5 * px}
            />
          )}
        </>
      ),
  });
  return sheet;
}

function FrameOverlay({
  corners,
  width,
  height,
  px,
}: {
  corners: Spot[];
  width: number;
  height: number;
  px: number;
}) {
  const points = corners.flatMap(([x, y]) => [x * width, y * height]);
  const first = points.slice(0, 2);
  const ring = [
    0,
    0,
    width,
    0,
    width,
    height,
    0,
    height,
    0,
    0,
    ...points.slice(0, 2),
    ...points.slice(6, 8),
    ...points.slice(4, 6),
    ...points.slice(2, 4),
    ...first,
  ];
  return (
    <>
      <Line listening={false} closed points={ring} fill="#919191" opacity={0.72} />
      <Line listening={false} closed points={points} stroke="#ffffff" strokeWidth={4 * px} />
      <Line listening={false} closed points={points} stroke="#111111" strokeWidth={1.6 * px} />
    </>
  );
}

const part = (v: number) => Math.round(inside(v) * 10000) / 10000;

/** Four spots in the order top left, top right, bottom right, bottom left. */
function clockwise(spots: Spot[]): [Spot, Spot, Spot, Spot] {
  const middle = [0, 1].map((i) => spots.reduce((sum, s) => sum + (s[i] ?? 0), 0) / spots.length) as Spot;
  const round = [...spots].sort(
    (a, b) => Math.atan2(a[1] - middle[1], a[0] - middle[0]) - Math.atan2(b[1] - middle[1], b[0] - middle[0]),
  );
  return round as [Spot, Spot, Spot, Spot];
}
