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

/** The rectangle that a stroke spans from its first point to its last, kept inside the picture. */
export function spanned(points: Spot[]) {
  const line = ends(points);
  if (!line) return null;
  const [a, b] = line;
  return {
    x1: inside(Math.min(a[0], b[0])),
    y1: inside(Math.min(a[1], b[1])),
    x2: inside(Math.max(a[0], b[0])),
    y2: inside(Math.max(a[1], b[1])),
  };
}
