import type { Schemas } from "../../api/client";

type Framed = Pick<Schemas["FramingOut"], "corners" | "canvas_width_mm" | "canvas_height_mm">;

/** SVG transform from a photograph one wide to mm of the canvas: its crop may be turned, and mirrored. */
export function onCanvas(
  { corners, canvas_width_mm: width, canvas_height_mm: height }: Framed,
  aspect: number,
  mirror: boolean,
) {
  const [first, second, , last] = corners.map(([x, y]) => [x, y * aspect] as const);
  if (!first || !second || !last) return undefined;
  const [across, down] = [
    [second[0] - first[0], second[1] - first[1]],
    [last[0] - first[0], last[1] - first[1]],
  ] as [[number, number], [number, number]];
  const perAcross = width / (across[0] ** 2 + across[1] ** 2);
  const perDown = height / (down[0] ** 2 + down[1] ** 2);
  const [a, c, b, d] = [across[0] * perAcross, across[1] * perAcross, down[0] * perDown, down[1] * perDown];
  const [e, f] = [-(a * first[0] + c * first[1]), -(b * first[0] + d * first[1])];
  const numbers = mirror ? [-a, b, -c, d, width - e, f] : [a, b, c, d, e, f];
  return `matrix(${numbers.join(" ")})`;
}
