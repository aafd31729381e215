// @vitest-environment jsdom
import { act, renderHook } from "@testing-library/react";
import { expect, it, vi } from "vitest";
import type { Spot } from "./spots";
import { usePointers, type Place } from "./usePointers";

/** A wall of 100 by 100 pixels over a picture of the same size. */
function wall(tool: "pan" | "draw" | "pick", more = {}) {
  const told = {
    zoomAt: vi.fn<(factor: number, place: Place) => void>(),
    panBy: vi.fn<(dx: number, dy: number) => void>(),
    onPick: vi.fn<(s: Spot) => void>(),
    onStroke: vi.fn<(p: Spot[]) => void>(),
    onPointer: vi.fn<(s: Spot | null) => void>(),
  };
  const spotAt = ({ x, y }: Place): Spot => [x / 100, y / 100];
  const given = { tool, straight: false, held: () => false, spotAt, ...told, ...more };
  const { result } = renderHook(() => usePointers(given));
  const element = document.createElement("div");
  element.setPointerCapture = () => undefined;
  const send =
    (what: "onPointerDown" | "onPointerMove" | "onPointerUp") =>
    (x: number, y: number, id = 1) => {
      const event = { currentTarget: element, clientX: x, clientY: y, pointerId: id, button: 0 };
      act(() => result.current.handlers[what](event as unknown as React.PointerEvent));
    };
  return {
    ...told,
    result,
    down: send("onPointerDown"),
    move: send("onPointerMove"),
    up: send("onPointerUp"),
  };
}

it("picks where it was pressed, unless the picture was moved", () => {
  const { down, move, up, onPick, panBy } = wall("pick");
  down(40, 50);
  move(42, 51);
  up(42, 51);
  expect(onPick).toHaveBeenCalledExactlyOnceWith([0.42, 0.51]);
  expect(panBy).not.toHaveBeenCalled();
  down(40, 50);
  move(60, 50);
  up(60, 50);
  expect(onPick).toHaveBeenCalledTimes(1);
  expect(panBy).toHaveBeenCalledWith(20, 0);
});

it("picks nothing beside the picture", () => {
  const { down, up, onPick } = wall("pick");
  down(120, 50);
  up(120, 50);
  expect(onPick).not.toHaveBeenCalled();
});

it("draws what the pointer passes, and only the ends where strokes are straight", () => {
  for (const straight of [false, true]) {
    const { down, move, up, onStroke, result } = wall("draw", { straight });
    down(10, 10);
    move(20, 10);
    move(30, 20);
    expect(result.current.stroke).toHaveLength(straight ? 2 : 3);
    up(30, 20);
    expect(onStroke.mock.calls[0]?.[0].at(-1)).toEqual([0.3, 0.2]);
    expect(result.current.stroke).toEqual([]);
  }
});

it("moves the picture instead of drawing while the space bar is held", () => {
  const { down, move, up, onStroke, panBy } = wall("draw", { held: () => true });
  down(10, 10);
  move(30, 15);
  up(30, 15);
  expect(onStroke).not.toHaveBeenCalled();
  expect(panBy).toHaveBeenCalledWith(20, 5);
});

it("two fingers zoom about their middle and draw nothing", () => {
  const { down, move, up, zoomAt, onStroke } = wall("draw");
  down(20, 50, 1);
  down(40, 50, 2);
  move(60, 50, 2);
  expect(zoomAt).toHaveBeenCalledExactlyOnceWith(2, { x: 40, y: 50 });
  up(60, 50, 2);
  up(20, 50, 1);
  expect(onStroke).not.toHaveBeenCalled();
});
