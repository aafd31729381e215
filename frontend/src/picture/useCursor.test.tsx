// @vitest-environment jsdom
import { act, renderHook } from "@testing-library/react";
import { expect, it, vi } from "vitest";
import type { Spot } from "./spots";
import { useCursor } from "./useCursor";
import { labelSpots } from "./labels";
import { ends, rounded } from "./spots";

function cursor(tool: "pan" | "draw" | "pick", more = {}) {
  const [onPick, onStroke] = [vi.fn<(s: Spot) => void>(), vi.fn<(p: Spot[]) => void>()];
  const given = {
    tool,
    straight: false,
    mirror: false,
    upsideDown: false,
    onPick,
    onStroke,
    onMove: undefined,
    ...more,
  };
  const { result } = renderHook(() => useCursor(given));
  const press = (...keys: string[]) =>
    keys.map((key) => {
      let used = false;
      act(() => {
        used = result.current.key(key.replace("fine ", ""), key.startsWith("fine"));
      });
      return used;
    });
  return { result, press, onPick, onStroke };
}

it("picks where the arrows led", () => {
  const { press, onPick } = cursor("pick");
  press("Enter", "ArrowRight", "ArrowRight", "fine ArrowDown", "Enter");
  expect(onPick).toHaveBeenCalledTimes(1);
  expect(onPick.mock.calls[0]?.[0][0]).toBeCloseTo(0.52);
  expect(onPick.mock.calls[0]?.[0][1]).toBeCloseTo(0.502);
});

it("goes where the arrow points on a mirrored or turned picture", () => {
  const mirrored = cursor("pick", { mirror: true });
  mirrored.press("ArrowRight", "Enter");
  expect(mirrored.onPick.mock.calls[0]?.[0][0]).toBeCloseTo(0.49);
  const turned = cursor("pick", { upsideDown: true });
  turned.press("ArrowDown", "Enter");
  expect(turned.onPick.mock.calls[0]?.[0][1]).toBeCloseTo(0.49);
});

it("draws between two presses of Enter and lets go with Escape", () => {
  const { press, onStroke, result } = cursor("draw");
  press("ArrowRight", "Enter", "ArrowRight", "ArrowDown", "Enter");
  expect(onStroke.mock.calls[0]?.[0]).toHaveLength(3);
  press("Enter", "ArrowRight", "Escape");
  expect(result.current.stroke).toEqual([]);
  expect(result.current.at).toBeNull();
  expect(onStroke).toHaveBeenCalledTimes(1);
});

it("a straight stroke has two ends only", () => {
  const { press, onStroke } = cursor("draw", { straight: true });
  press("ArrowRight", "Enter", "ArrowRight", "ArrowRight", "ArrowRight", "Enter");
  expect(onStroke.mock.calls[0]?.[0]).toHaveLength(2);
  expect(onStroke.mock.calls[0]?.[0][1]?.[0]).toBeCloseTo(0.54);
});

it("leaves the keys alone where the picture is only moved", () => {
  const { press } = cursor("pan");
  expect(press("ArrowRight", "Enter")).toEqual([false, false]);
});

it("words of lines do not cover one another", () => {
  const line = { start: [0.5, 0.2] as Spot, end: [0.5, 0.6] as Spot };
  const spots = labelSpots(
    [line, line, { start: [0.1, 0.2], end: [0.1, 0.6] }],
    { width: 1000, height: 1000 },
    1,
  );
  expect(Math.abs((spots[0]?.[1] ?? 0) - (spots[1]?.[1] ?? 0))).toBeGreaterThanOrEqual(18);
  expect(spots[2]?.[1]).toBe(spots[0]?.[1]);
});

it("strokes are short numbers within reach of the picture, and know their ends", () => {
  expect(rounded([0.123456, 9])).toEqual([0.1235, 1.4]);
  expect(
    ends([
      [0, 0],
      [1, 1],
      [2, 2],
    ]),
  ).toEqual([
    [0, 0],
    [2, 2],
  ]);
  expect(ends([])).toBeNull();
});
