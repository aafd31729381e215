import { useRef, useState } from "react";
import type { Spot } from "./spots";

/** A place on the screen, in pixels of the wall. */
export interface Place {
  x: number;
  y: number;
}

interface Given {
  tool: "pan" | "draw" | "pick";
  straight: boolean;
  /** The space bar is held: whatever the tool, the picture is moved. */
  held: () => boolean;
  spotAt: (place: Place) => Spot;
  zoomAt: (factor: number, place: Place) => void;
  panBy: (dx: number, dy: number) => void;
  onPick: ((spot: Spot) => void) | undefined;
  onStroke: ((points: Spot[]) => void) | undefined;
  onPointer: ((spot: Spot | null) => void) | undefined;
}

/** A press that moved less than so many pixels in all is a pick, not a move. */
const STILL = 6;
const CLOSEST = 10;

const apart = (a: Place, b: Place) => Math.max(CLOSEST, Math.hypot(a.x - b.x, a.y - b.y));

function placeOf(e: React.PointerEvent): Place {
  const rect = e.currentTarget.getBoundingClientRect();
  return { x: e.clientX - rect.left, y: e.clientY - rect.top };
}

/** What fingers, pen and mouse do on the wall: move and pinch the picture, pick a spot, draw a stroke. */
export function usePointers(given: Given) {
  const { tool, straight, held, spotAt, zoomAt, panBy, onPick, onStroke, onPointer } = given;
  const [stroke, setStroke] = useState<Spot[]>([]);
  const pointers = useRef(new Map<number, Place>());
  const moving = useRef(false);
  const travel = useRef(0);

  const down = (e: React.PointerEvent) => {
    const at = placeOf(e);
    e.currentTarget.setPointerCapture(e.pointerId);
    pointers.current.set(e.pointerId, at);
    moving.current = tool !== "draw" || held() || e.button === 1 || pointers.current.size > 1;
    setStroke(moving.current ? [] : [spotAt(at)]);
  };
  const move = (e: React.PointerEvent) => {
    const at = placeOf(e);
    const before = pointers.current.get(e.pointerId);
    onPointer?.(spotAt(at));
    if (!before) return;
    if (pointers.current.size === 2) {
      const other = [...pointers.current.entries()].find(([id]) => id !== e.pointerId)?.[1];
      if (other) {
        const middle = { x: (at.x + other.x) / 2, y: (at.y + other.y) / 2 };
        zoomAt(apart(at, other) / apart(before, other), middle);
      }
      panBy((at.x - before.x) / 2, (at.y - before.y) / 2);
    } else if (moving.current) {
      travel.current += Math.hypot(at.x - before.x, at.y - before.y);
      if (tool !== "pick" || travel.current > STILL) panBy(at.x - before.x, at.y - before.y);
    } else if (stroke.length) {
      const here = spotAt(at);
      setStroke((points) => (straight && points[0] ? [points[0], here] : [...points, here]));
    }
    pointers.current.set(e.pointerId, at);
  };
  const up = (e: React.PointerEvent) => {
    const alone = pointers.current.size === 1;
    pointers.current.delete(e.pointerId);
    if (alone && tool === "pick" && travel.current <= STILL) {
      const spot = spotAt(placeOf(e));
      if (spot.every((v) => v >= 0 && v <= 1)) onPick?.(spot);
    }
    if (alone && stroke.length > 1) onStroke?.(stroke);
    travel.current = 0;
    setStroke([]);
  };
  const cancel = (e: React.PointerEvent) => {
    pointers.current.delete(e.pointerId);
    setStroke([]);
  };
  const handlers = {
    onPointerDown: down,
    onPointerMove: move,
    onPointerUp: up,
    onPointerCancel: cancel,
    onPointerLeave: () => onPointer?.(null),
  };
  return { stroke, handlers };
}
