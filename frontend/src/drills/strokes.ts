import type { Spot } from "./useDrills";

/** One point of a drawn line: where, when in ms, and how hard a pen pressed. */
export interface Mark {
  at: Spot;
  time: number;
  pressure: number;
}

/**
 * Widths along a stroke, 0 to 1: a pen's own pressure where it has one; for a mouse or a finger, the faster
 * it moves the thinner, as a brush does.
 */
export function stroked(line: Mark[]): number[] {
  const pressures = line.map((m) => m.pressure);
  if (Math.max(...pressures) - Math.min(...pressures) > 0.05) return pressures;
  const speeds = line.map((m, i) => {
    const before = line[Math.max(0, i - 2)] ?? m;
    const took = Math.max(1, m.time - before.time);
    return Math.hypot(m.at[0] - before.at[0], m.at[1] - before.at[1]) / took;
  });
  const slow = median(speeds) || 1e-6;
  return speeds.map((speed) => 1 / (1 + speed / slow));
}

function median(numbers: number[]): number {
  const sorted = [...numbers].sort((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)] ?? 0;
}
