import type Konva from "konva";
import { Circle, Group, Line, Path, Rect, Text } from "react-konva";
import type { Schemas } from "../api/client";
import type { Spot } from "./spots";
import type { Size } from "./useView";
import { textSize } from "../theme";

/** The canvas's grid with its margin numbers, light over dark so that it shows on any value. */
export function GridOverlay({
  grid,
  canvasWidth,
  size,
  px,
}: {
  grid: Schemas["GridOut"];
  canvasWidth: number;
  size: Size;
  px: number;
}) {
  const scale = size.width / canvasWidth;
  const edge = [0, 0, size.width, 0, size.width, size.height, 0, size.height, 0, 0];
  const lines = [edge, ...grid.lines.map((line) => line.map((v) => v * scale))];
  const number = {
    fontSize: textSize.fine * px,
    fontStyle: "700",
    fill: "#ffffff",
    stroke: "#000000",
    strokeWidth: 3 * px,
    fillAfterStrokeEnabled: true,
    listening: false,
  };
  return (
    <>
      {lines.map((points, i) => (
        <Group key={i} listening={false}>
          <Line points={points} stroke="#000000" opacity={0.55} strokeWidth={2.4 * px} />
          <Line points={points} stroke="#ffffff" strokeWidth={1 * px} />
        </Group>
      ))}
      {grid.columns.map(([at, name]) => (
        <Text
          key={`c${name}`}
          {...number}
          x={at * scale - 20 * px}
          y={4 * px}
          width={40 * px}
          align="center"
          text={name}
        />
      ))}
      {grid.rows.map(([at, name]) => (
        <Text key={`r${name}`} {...number} x={5 * px} y={at * scale - 7 * px} text={name} />
      ))}
    </>
  );
}

const edgeWeights = { hard: 4.2, firm: 2.6, soft: 1.3, lost: 0 } as const;

/** Edges by weight of line: hard ones heavy, soft ones thin, lost ones dotted. */
export function EdgesOverlay({ edges, size, px }: { edges: Schemas["EdgeOut"][]; size: Size; px: number }) {
  return (
    <>
      {edges.map((e, i) => {
        const points = e.points.map((v, j) => v * (j % 2 ? size.height : size.width));
        const weight = edgeWeights[e.kind];
        return weight === 0 ? (
          <Line
            key={i}
            listening={false}
            points={points}
            stroke="#ffffff"
            strokeWidth={1.2 * px}
            dash={[1 * px, 6 * px]}
            lineCap="round"
          />
        ) : (
          <Group key={i} listening={false}>
            <Line
              points={points}
              stroke="#ffffff"
              opacity={0.8}
              strokeWidth={(weight + 1.6) * px}
              lineCap="round"
              lineJoin="round"
            />
            <Line
              points={points}
              stroke="#000000"
              strokeWidth={weight * px}
              lineCap="round"
              lineJoin="round"
            />
          </Group>
        );
      })}
    </>
  );
}

/** White words with a black rim: they can be read on any picture. */
function Words({ px, ...text }: Konva.TextConfig & { px: number }) {
  return (
    <Text
      {...text}
      fontStyle="700"
      fill="#ffffff"
      stroke="#000000"
      strokeWidth={3.5 * px}
      fillAfterStrokeEnabled
    />
  );
}

/** A measured line with ticks at its ends, the plumb and the level it leans from, and its words. */
export function MeasureLine({
  start,
  end,
  words,
  size,
  px,
  bold = false,
  at,
}: {
  start: Spot;
  end: Spot;
  words: string;
  size: Size;
  px: number;
  bold?: boolean;
  at?: Spot | undefined;
}) {
  const [x1, y1, x2, y2] = [
    start[0] * size.width,
    start[1] * size.height,
    end[0] * size.width,
    end[1] * size.height,
  ];
  const length = Math.max(1e-6, Math.hypot(x2 - x1, y2 - y1));
  const [nx, ny] = [(-(y2 - y1) / length) * 7 * px, ((x2 - x1) / length) * 7 * px];
  const parts = [
    [x1, y1, x2, y2],
    [x1 - nx, y1 - ny, x1 + nx, y1 + ny],
    [x2 - nx, y2 - ny, x2 + nx, y2 + ny],
  ];
  return (
    <Group listening={false}>
      {bold && (
        <Line
          points={[x1, y1, x2, y1, x2, y2]}
          stroke="#ffffff"
          strokeWidth={1 * px}
          dash={[4 * px, 4 * px]}
        />
      )}
      {parts.map((points, i) => (
        <Line key={i} points={points} stroke="#ffffff" strokeWidth={(bold ? 5 : 3.6) * px} />
      ))}
      {parts.map((points, i) => (
        <Line key={`k${i}`} points={points} stroke="#000000" strokeWidth={(bold ? 2.2 : 1.2) * px} />
      ))}
      <Words
        x={at?.[0] ?? (x1 + x2) / 2 + 8 * px}
        y={at?.[1] ?? (y1 + y2) / 2 - 8 * px}
        text={words}
        fontSize={14 * px}
        px={px}
      />
    </Group>
  );
}

/** Regions as outlines with their names. */
export function RegionsOverlay({ map, size, px }: { map: Schemas["RegionMapOut"]; size: Size; px: number }) {
  const scale = size.width / 1000;
  const line = px / scale;
  return (
    <Group scaleX={scale} scaleY={scale} listening={false}>
      {map.outlines.map((o, i) => (
        <Group key={i}>
          <Path data={o.path} stroke="#ffffff" opacity={0.75} strokeWidth={3.4 * line} />
          <Path data={o.path} stroke="#000000" strokeWidth={1.4 * line} />
        </Group>
      ))}
      {map.outlines
        .filter((o) => o.radius > 9 * line)
        .map((o, i) => (
          <Text
            key={`n${i}`}
            x={o.x - 60 * line}
            y={o.y - 8 * line}
            width={120 * line}
            align="center"
            text={o.region.replace("_", " ")}
            fontSize={14 * line}
            fontStyle="700"
            fill="#ffffff"
            stroke="#000000"
            strokeWidth={3.5 * line}
            fillAfterStrokeEnabled
          />
        ))}
    </Group>
  );
}

/** One shape picked out: its outline heavy, all else as it is. */
export function ShapeOverlay({
  outlines,
  shape,
  size,
  px,
}: {
  outlines: Schemas["OutlinesOut"];
  shape: number;
  size: Size;
  px: number;
}) {
  const scale = size.width / outlines.width;
  const found = outlines.outlines.find((o) => o.shape === shape);
  if (!found) return null;
  return (
    <Group scaleX={scale} scaleY={scale} listening={false}>
      <Path data={found.path} stroke="#ffffff" strokeWidth={(7 * px) / scale} />
      <Path
        data={found.path}
        stroke="#000000"
        strokeWidth={(3 * px) / scale}
        dash={[(9 * px) / scale, (5 * px) / scale]}
      />
    </Group>
  );
}

/** A numbered mark at a spot. */
export function SpotMark({
  spot,
  name = "",
  size,
  px,
}: {
  spot: Spot;
  name?: string;
  size: Size;
  px: number;
}) {
  const [x, y] = [spot[0] * size.width, spot[1] * size.height];
  return (
    <Group listening={false}>
      <Circle x={x} y={y} radius={11 * px} stroke="#ffffff" strokeWidth={4 * px} />
      <Circle x={x} y={y} radius={11 * px} stroke="#000000" strokeWidth={1.5 * px} />
      {name && <Words x={x + 15 * px} y={y - 8 * px} text={name} fontSize={16 * px} px={px} />}
    </Group>
  );
}

/** A rectangle between two spots, seen on light and on dark. */
export function RectangleMark({ from, to, size, px }: { from: Spot; to: Spot; size: Size; px: number }) {
  const box = {
    x: Math.min(from[0], to[0]) * size.width,
    y: Math.min(from[1], to[1]) * size.height,
    width: Math.abs(to[0] - from[0]) * size.width,
    height: Math.abs(to[1] - from[1]) * size.height,
  };
  return (
    <Group listening={false}>
      <Rect {...box} stroke="#ffffff" strokeWidth={4 * px} />
      <Rect {...box} stroke="#000000" strokeWidth={1.5 * px} />
    </Group>
  );
}

/** Outlines of the value shapes with the number of their group. */
export function OutlinesOverlay({
  outlines,
  size,
  px,
}: {
  outlines: Schemas["OutlinesOut"];
  size: Size;
  px: number;
}) {
  const scale = size.width / outlines.width;
  const line = px / scale;
  return (
    <Group scaleX={scale} scaleY={scale} listening={false}>
      {outlines.outlines.map((o, i) => (
        <Group key={i}>
          <Path data={o.path} stroke="#ffffff" opacity={0.7} strokeWidth={2.6 * line} />
          <Path data={o.path} stroke="#000000" strokeWidth={1.1 * line} />
        </Group>
      ))}
      {outlines.outlines.map((o, i) => {
        const font = Math.min(15 * line, o.radius * 1.4);
        return (
          font > 7 * line && (
            <Text
              key={`n${i}`}
              x={o.x - font}
              y={o.y - font / 2}
              width={2 * font}
              align="center"
              text={String(o.group + 1)}
              fontSize={font}
              fontStyle="700"
              fill="#ffffff"
              stroke="#000000"
              strokeWidth={3 * line}
              fillAfterStrokeEnabled
            />
          )
        );
      })}
    </Group>
  );
}
