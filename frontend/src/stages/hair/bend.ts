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

/** Distance from a spot to the piece of a line between two others. */
function toPiece([x, y]: Spot, [ax, ay]: Spot, [bx, by]: Spot): number {
  const [dx, dy] = [bx - ax, by - ay];
  const along = ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1);
  const t = Math.min(1, Math.max(0, along));
  return Math.hypot(x - ax - t * dx, y - ay - t * dy);
}

/** Whether a line is rubbed over: a quick stroke has few points, so the way between them counts too. */
export function rubbed(line: readonly Spot[], rubber: readonly Spot[], within: number): boolean {
  const spots = rubber.flatMap((end, i): Spot[] => {
    const start = rubber[i - 1] ?? end;
    const steps = Math.max(1, Math.ceil(distance(start, end) / (within / 2)));
    return Array.from({ length: steps }, (_, n): Spot => {
      const t = (n + 1) / steps;
      return [start[0] + (end[0] - start[0]) * t, start[1] + (end[1] - start[1]) * t];
    });
  });
  return spots.some((spot) => line.some((end, i) => toPiece(spot, line[i - 1] ?? end, end) <= within));
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
