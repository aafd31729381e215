/** A point of the picture, in fractions of its width and height. */
export type Spot = [number, number];

/** A fraction kept inside the picture. */
export const inside = (fraction: number) => Math.min(1, Math.max(0, fraction));

/** A point of a stroke, short enough to send; a stroke may run a little over the picture's edge. */
export const rounded = ([x, y]: Spot): Spot => [short(x), short(y)];

const short = (v: number) => Math.round(Math.min(1.4, Math.max(-0.4, v)) * 10000) / 10000;

/** First and last point of a stroke; null when there are none. */
export function ends(points: Spot[]): [Spot, Spot] | null {
  const [first, last] = [points[0], points[points.length - 1]];
  return first && last ? [first, last] : null;
}
