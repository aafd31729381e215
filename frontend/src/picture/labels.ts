import type { Spot } from "./spots";
import type { Size } from "./useView";

const HEIGHT = 18;
const WIDTH = 130;

/** Towards the end of a line: the middles of measures of one face lie close together. */
const along = (from: number, to: number) => from + (to - from) * 0.72;

/** Where the words of lines stand, in picture pixels: beside them, moved down where they would cover others. */
export function labelSpots(lines: { start: Spot; end: Spot }[], size: Size, px: number): Spot[] {
  const placed: Spot[] = [];
  for (const { start, end } of lines) {
    const x = along(start[0], end[0]) * size.width + 8 * px;
    let y = along(start[1], end[1]) * size.height - 8 * px;
    const covers = () =>
      placed.some((p) => Math.abs(p[0] - x) < WIDTH * px && Math.abs(p[1] - y) < HEIGHT * px);
    while (covers()) y += (HEIGHT / 2) * px;
    placed.push([x, y]);
  }
  return placed;
}
