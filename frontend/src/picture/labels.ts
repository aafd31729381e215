import type { Spot } from "./PictureStage";
import type { Size } from "./useView";

const HEIGHT = 18;
const WIDTH = 130;

/** Where the words of lines stand, in picture pixels: beside their middles, moved down where they would cover others. */
export function labelSpots(lines: { start: Spot; end: Spot }[], size: Size, px: number): Spot[] {
  const placed: Spot[] = [];
  for (const { start, end } of lines) {
    const x = ((start[0] + end[0]) / 2) * size.width + 8 * px;
    let y = ((start[1] + end[1]) / 2) * size.height - 8 * px;
    const covers = () =>
      placed.some((p) => Math.abs(p[0] - x) < WIDTH * px && Math.abs(p[1] - y) < HEIGHT * px);
    while (covers()) y += (HEIGHT / 2) * px;
    placed.push([x, y]);
  }
  return placed;
}
