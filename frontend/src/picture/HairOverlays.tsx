import { Circle, Group, Line, Text } from "react-konva";
import type { Schemas } from "../api/client";
import type { Spot } from "./spots";
import type { Size } from "./useView";

type GrowthLine = Schemas["GrowthLineOut"];

const scaled = (flat: readonly number[], size: Size) =>
  flat.map((v, i) => v * (i % 2 ? size.height : size.width));

interface Common {
  size: Size;
  px: number;
}

/** Growth lines: the root part solid, the free part dotted, a dot at the root; the surer the heavier. */
export function GrowthLines({
  lines,
  numbered,
  size,
  px,
}: Common & { lines: readonly GrowthLine[]; numbered: boolean }) {
  return (
    <>
      {lines.map((line, i) => {
        const points = scaled(line.points, size);
        const cut = 2 * line.root_end;
        const width = (0.7 + 1.8 * line.sure) * px;
        const [x = 0, y = 0] = points;
        return (
          <Group key={i} listening={false}>
            <Line
              points={points}
              stroke="#000000"
              opacity={0.55}
              strokeWidth={width + 2 * px}
              lineCap="round"
            />
            <Line points={points.slice(0, cut + 2)} stroke="#ffffff" strokeWidth={width} lineCap="round" />
            <Line
              points={points.slice(cut)}
              stroke="#ffffff"
              strokeWidth={width}
              lineCap="round"
              dash={[0.1 * px, 4.5 * px]}
            />
            <Circle x={x} y={y} radius={2.6 * px} fill="#ffffff" stroke="#000000" strokeWidth={px} />
            {numbered && (
              <Text
                x={x + 4 * px}
                y={y - 6 * px}
                text={String(i + 1)}
                fontSize={11 * px}
                fontStyle="700"
                fill="#ffffff"
                stroke="#000000"
                strokeWidth={2.5 * px}
                fillAfterStrokeEnabled
              />
            )}
          </Group>
        );
      })}
    </>
  );
}

/** Strokes the painter drew from root to tip: dashed, an open arrow at the tip. */
export function DrawnStrokes({
  strokes,
  chosen = null,
  size,
  px,
}: Common & { strokes: readonly (readonly Spot[])[]; chosen?: number | null }) {
  return (
    <>
      {strokes.map((stroke, i) => {
        const points = scaled(stroke.flat(), size);
        const n = points.length;
        const tip = [points[n - 2] ?? 0, points[n - 1] ?? 0] as const;
        const back = [points[Math.max(0, n - 4)] ?? 0, points[Math.max(1, n - 3)] ?? 0] as const;
        const turn = Math.atan2(tip[1] - back[1], tip[0] - back[0]);
        const head = [2.6, -2.6].flatMap((a, k) => {
          const at = [tip[0] + 9 * px * Math.cos(turn + a), tip[1] + 9 * px * Math.sin(turn + a)];
          return k ? at : [...at, ...tip];
        });
        const width = (chosen === i ? 4.5 : 3) * px;
        return (
          <Group key={i} listening={false}>
            <Line points={points} stroke="#ffffff" strokeWidth={width + 2 * px} lineCap="round" />
            <Line
              points={points}
              stroke="#000000"
              strokeWidth={width}
              lineCap="round"
              dash={[9 * px, 5 * px]}
            />
            <Line points={head} stroke="#000000" strokeWidth={width} lineCap="round" />
            <Circle
              x={points[0] ?? 0}
              y={points[1] ?? 0}
              radius={5 * px}
              fill="#000000"
              stroke="#ffffff"
              strokeWidth={px}
            />
          </Group>
        );
      })}
    </>
  );
}

/** A parting or a hairline: a double rule that hair grows away from. */
export function RootLine({ points, size, px }: Common & { points: readonly Spot[] }) {
  const flat = scaled(points.flat(), size);
  return (
    <Group listening={false}>
      <Line points={flat} stroke="#000000" strokeWidth={7 * px} lineCap="round" lineJoin="round" />
      <Line points={flat} stroke="#ffffff" strokeWidth={4 * px} lineCap="round" lineJoin="round" />
      <Line points={flat} stroke="#000000" strokeWidth={1.5 * px} lineCap="round" lineJoin="round" />
    </Group>
  );
}

/** A whorl: a ring as wide as it rules, and a hook that shows which way the hair turns. */
export function WhorlMark({
  at,
  radius,
  turns,
  size,
  px,
}: Common & { at: Spot; radius: number; turns: "clockwise" | "anticlockwise" | "straight" }) {
  const [x, y] = [at[0] * size.width, at[1] * size.height];
  const reach = radius * size.height;
  const sign = turns === "clockwise" ? 1 : turns === "anticlockwise" ? -1 : 0;
  const hooks = [0, 1, 2, 3].map((k) =>
    Array.from({ length: 9 }, (_, n) => {
      const out = 0.25 * reach + (0.6 * reach * n) / 8;
      const angle = (k * Math.PI) / 2 + sign * 0.9 * (n / 8);
      return [x + out * Math.cos(angle), y + out * Math.sin(angle)];
    }).flat(),
  );
  return (
    <Group listening={false}>
      <Circle x={x} y={y} radius={reach} stroke="#ffffff" strokeWidth={2.5 * px} />
      <Circle x={x} y={y} radius={reach} stroke="#000000" strokeWidth={px} dash={[4 * px, 4 * px]} />
      {hooks.map((points, i) => (
        <Group key={i}>
          <Line points={points} stroke="#000000" strokeWidth={4 * px} lineCap="round" />
          <Line points={points} stroke="#ffffff" strokeWidth={2 * px} lineCap="round" />
        </Group>
      ))}
    </Group>
  );
}

/** Arrows of the brush. */
export function BrushArrows({ lines, size, px }: Common & { lines: readonly (readonly number[])[] }) {
  return (
    <>
      {lines.map((flat, i) => {
        const points = scaled(flat, size);
        return (
          <Group key={i} listening={false}>
            <Line points={points} stroke="#000000" opacity={0.5} strokeWidth={3.4 * px} lineCap="round" />
            <Line points={points} stroke="#ffffff" strokeWidth={1.6 * px} lineCap="round" />
          </Group>
        );
      })}
    </>
  );
}
