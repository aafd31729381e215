import { expect, it } from "vitest";
import { onCanvas } from "./onCanvas";

type Spot = [number, number];
const ASPECT = 1.25;
const canvas = { canvas_width_mm: 300, canvas_height_mm: 400 };
const ends: Spot[] = [
  [0, 0],
  [300, 0],
  [300, 400],
  [0, 400],
];

/** Where a spot of the photograph, in fractions, comes to lie on the canvas. */
function laid(corners: Spot[], mirror: boolean, [x, y]: Spot): Spot {
  const text = onCanvas({ corners, ...canvas }, ASPECT, mirror) ?? "";
  const [a = 0, b = 0, c = 0, d = 0, e = 0, f = 0] = text.slice(7, -1).split(" ").map(Number);
  return [a * x + c * y * ASPECT + e, b * x + d * y * ASPECT + f];
}

/** A crop of the canvas's proportions, turned about its middle. */
function turned(degrees: number): Spot[] {
  const [s, k] = [Math.sin((degrees * Math.PI) / 180), Math.cos((degrees * Math.PI) / 180)];
  return ends
    .map(([x, y]) => [(x - 150) / 1000, (y - 200) / 1000] as Spot)
    .map(([x, y]) => [0.5 + k * x - s * y, (0.6 + s * x + k * y) / ASPECT]);
}

it.each([0, 7, -30])("lays the corners of a crop turned by %d° on those of the canvas", (degrees) => {
  for (const mirror of [false, true])
    turned(degrees).forEach((corner, n) => {
      const [x, y] = laid(turned(degrees), mirror, corner);
      const [wantedX, wantedY] = ends[n] ?? [NaN, NaN];
      expect(x).toBeCloseTo(mirror ? 300 - wantedX : wantedX);
      expect(y).toBeCloseTo(wantedY);
    });
});
