import type { Spot } from "../../picture/spots";

const distance = ([ax, ay]: Spot, [bx, by]: Spot) => Math.hypot(ax - bx, ay - by);

/** The stroke nearest to a spot and its nearest point; null when none is near enough. */
export function nearest(strokes: readonly (readonly Spot[])[], spot: Spot, within: number) {
  let best: { stroke: number; point: number; away: number } | null = null;
  strokes.forEach((points, stroke) =>
    points.forEach((p, point) => {
      const away = distance(p, spot);
      if (away <= within && (!best || away < best.away)) best = { stroke, point, away };
    }),
  );
  return best as { stroke: number; point: number; away: number } | null;
}

/** A stroke pulled at one of its points; the others follow the less the farther along they are. */
export function bent(points: readonly Spot[], at: number, by: Spot): Spot[] {
  const along = points.map((p, i) => (i === 0 ? 0 : distance(p, points[i - 1] ?? p)));
  const place = along.map((_, i) => along.slice(0, i + 1).reduce((sum, v) => sum + v, 0));
  const whole = place[place.length - 1] ?? 1;
  const held = place[at] ?? 0;
  return points.map(([x, y], i) => {
    const far = ((place[i] ?? 0) - held) / (0.35 * whole || 1);
    const share = Math.exp(-far * far);
    return [x + by[0] * share, y + by[1] * share];
  });
}

/** What is left of a list when some of its entries are rubbed out, as one edit; null when none is. */
export function without<T>(rows: readonly T[], gone: ReadonlySet<number>) {
  const numbers = [...gone].sort((a, b) => a - b);
  const [first, last] = [numbers[0], numbers[numbers.length - 1]];
  if (first === undefined || last === undefined) return null;
  const add = rows.slice(first, last + 1).filter((_, i) => !gone.has(first + i));
  return { start: first, remove: last - first + 1, add };
}
