import { expect, test } from "vitest";
import { stroked, type Mark } from "./strokes";

const line = (steps: number[], pressure = () => 0.5): Mark[] => {
  let x = 0;
  return steps.map((step, i) => ({ at: [(x += step), 0.5], time: i * 10, pressure: pressure() }));
};

test("a pen's pressure is the width", () => {
  const pressures = [0.9, 0.8, 0.5, 0.2];
  let i = 0;
  expect(stroked(line([0.1, 0.1, 0.1, 0.1], () => pressures[i++] ?? 0))).toEqual(pressures);
});

test("a flick at the end thins out, an even stroke does not", () => {
  const even = stroked(line(Array<number>(20).fill(0.01)));
  const flick = stroked(line([...Array<number>(14).fill(0.01), 0.04, 0.06, 0.08, 0.09, 0.1, 0.1]));
  expect((even.at(-1) ?? 0) / Math.max(...even.slice(3))).toBeGreaterThan(0.9);
  expect((flick.at(-1) ?? 0) / Math.max(...flick)).toBeLessThan(0.5);
});
