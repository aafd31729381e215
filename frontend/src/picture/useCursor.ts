import { useState } from "react";
import { inside } from "./spots";
import type { Spot } from "./spots";

const STEP = 0.01;
const arrows: Record<string, Spot> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

interface Given {
  tool: "pan" | "draw" | "pick";
  straight: boolean;
  /** The picture as it hangs: arrows go where they point on the screen. */
  mirror: boolean;
  upsideDown: boolean;
  onPick: ((spot: Spot) => void) | undefined;
  onStroke: ((points: Spot[]) => void) | undefined;
  onMove: ((spot: Spot) => void) | undefined;
}

/**
 * Picking and drawing without a pointer: arrows move a cross over the picture (with Shift in finer steps),
 * Enter picks, or begins and ends a stroke; Escape lets go.
 */
export function useCursor({ tool, straight, mirror, upsideDown, onPick, onStroke, onMove }: Given) {
  const [at, setAt] = useState<Spot | null>(null);
  const [stroke, setStroke] = useState<Spot[]>([]);
  const key = (name: string, fine: boolean): boolean => {
    if (tool === "pan") return false;
    const arrow = arrows[name];
    if (arrow) {
      const step = fine ? STEP / 5 : STEP;
      const turned = upsideDown ? -1 : 1;
      const from = at ?? [0.5, 0.5];
      const next: Spot = [
        inside(from[0] + arrow[0] * step * turned * (mirror ? -1 : 1)),
        inside(from[1] + arrow[1] * step * turned),
      ];
      setAt(next);
      onMove?.(next);
      if (stroke.length) setStroke(straight ? [stroke[0] as Spot, next] : [...stroke, next]);
      return true;
    }
    if (name === "Escape" && (at || stroke.length)) {
      setAt(null);
      setStroke([]);
      return true;
    }
    if (name !== "Enter" || !at) return false;
    if (tool === "pick") onPick?.(at);
    else if (stroke.length > 1) {
      onStroke?.(stroke);
      setStroke([]);
    } else setStroke([at]);
    return true;
  };
  return { at: tool === "pan" ? null : at, stroke, key };
}
