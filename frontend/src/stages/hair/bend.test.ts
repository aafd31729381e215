import { describe, expect, it } from "vitest";
import type { Spot } from "../../picture/spots";
import { bent, nearest, rubbed, without } from "./bend";

const line: Spot[] = [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10].map((i) => [i / 10, 0.5]);

describe("a guide after it is drawn", () => {
  it("follows the hand where it is held and stays at its far end", () => {
    const pulled = bent(line, 5, [0, 0.1]);
    expect(pulled[5]?.[1]).toBeCloseTo(0.6);
    expect(Math.abs((pulled[0]?.[1] ?? 0) - 0.5)).toBeLessThan(0.02);
    const heights = pulled.slice(0, 6).map((p) => p[1]);
    expect(heights).toEqual([...heights].sort((a, b) => a - b));
  });

  it("is found by its nearest point, if that is near enough", () => {
    const other: Spot[] = [
      [0, 0.9],
      [1, 0.9],
    ];
    expect(nearest([other, line], [0.31, 0.52], 0.05)).toMatchObject({ stroke: 1, point: 3 });
    expect(nearest([other, line], [0.3, 0.7], 0.05)).toBeNull();
  });

  it("is rubbed over between its points and between those of a quick stroke", () => {
    const long: Spot[] = [
      [0.5, 0],
      [0.5, 1],
    ];
    const across: Spot[] = [
      [0, 0.4],
      [1, 0.4],
    ];
    expect(rubbed(long, across, 0.015)).toBe(true);
    expect(rubbed(long, [[0.45, 0.4]], 0.015)).toBe(false);
    expect(rubbed([[0.3, 0.41]], across, 0.015)).toBe(true);
  });

  it("is rubbed out in one edit that keeps what lies between", () => {
    expect(without(["a", "b", "c", "d"], new Set([1, 3]))).toEqual({ start: 1, remove: 3, add: ["c"] });
    expect(without(["a"], new Set())).toBeNull();
  });
});
