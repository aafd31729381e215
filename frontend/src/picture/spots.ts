import type { Spot } from "./PictureStage";

/** A fraction kept inside the picture. */
export const inside = (fraction: number) => Math.min(1, Math.max(0, fraction));

/** First and last point of a stroke; null when there are none. */
export function ends(points: Spot[]): [Spot, Spot] | null {
  const [first, last] = [points[0], points[points.length - 1]];
  return first && last ? [first, last] : null;
}
