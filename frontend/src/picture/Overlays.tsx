import { Circle, Group, Line, Path, Text } from "react-konva";
import type { Schemas } from "../api/client";
import type { Size } from "./useView";

/** A grid of columns and rows, light over dark so that it shows on any value. */
export function GridOverlay({ size, columns, rows, px }: { size: Size; columns: number; rows: number; px: number }) {
  const lines: number[][] = [];
  for (let i = 0; i <= columns; i++) lines.push([(size.width * i) / columns, 0, (size.width * i) / columns, size.height]);
  for (let i = 0; i <= rows; i++) lines.push([0, (size.height * i) / rows, size.width, (size.height * i) / rows]);
  return (
    <>
      {lines.map((points, i) => (
        <Group key={i} listening={false}>
          <Line points={points} stroke="#000000" opacity={0.55} strokeWidth={2.4 * px} />
          <Line points={points} stroke="#ffffff" strokeWidth={1 * px} />
        </Group>
      ))}
    </>
  );
}

/** Outlines of the value shapes with the number of their group. */
export function OutlinesOverlay({ outlines, size, px }: { outlines: Schemas["OutlinesOut"]; size: Size; px: number }) {
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
            <Text key={`n${i}`} x={o.x - font} y={o.y - font / 2} width={2 * font} align="center" text={String(o.group + 1)} fontSize={font} fontStyle="700" fill="#ffffff" stroke="#000000" strokeWidth={3 * line} fillAfterStrokeEnabled />
          )
        );
      })}
    </Group>
  );
}

/** Lines from root to tip: a dot where a strand grows, an open arrow where it ends. */
export function DirectedLines({ lines, size, px, bold = false }: { lines: number[][]; size: Size; px: number; bold?: boolean }) {
  return (
    <>
      {lines.map((flat, i) => {
        const points = flat.map((v, j) => v * (j % 2 ? size.height : size.width));
        const n = points.length;
        const tip = [points[n - 2] ?? 0, points[n - 1] ?? 0] as const;
        const back = [points[Math.max(0, n - 4)] ?? 0, points[Math.max(1, n - 3)] ?? 0] as const;
        const turn = Math.atan2(tip[1] - back[1], tip[0] - back[0]);
        const head = [2.6, -2.6].flatMap((a, k) => {
          const at = [tip[0] + 7 * px * Math.cos(turn + a), tip[1] + 7 * px * Math.sin(turn + a)];
          return k ? at : [...at, ...tip];
        });
        const width = bold ? 3 : 1.3;
        return (
          <Group key={i} listening={false}>
            <Line points={points} stroke={bold ? "#ffffff" : "#000000"} opacity={bold ? 1 : 0.6} strokeWidth={(width + 2) * px} lineCap="round" />
            <Line points={points} stroke={bold ? "#000000" : "#ffffff"} strokeWidth={width * px} lineCap="round" dash={bold ? [9 * px, 5 * px] : []} />
            <Line points={head} stroke={bold ? "#000000" : "#ffffff"} strokeWidth={width * px} lineCap="round" />
            <Circle x={points[0] ?? 0} y={points[1] ?? 0} radius={(bold ? 5 : 3) * px} fill={bold ? "#000000" : "#ffffff"} stroke={bold ? "#ffffff" : "#000000"} strokeWidth={1 * px} />
          </Group>
        );
      })}
    </>
  );
}
