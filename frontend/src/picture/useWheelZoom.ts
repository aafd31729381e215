import { useEffect, type RefObject } from "react";
import type { Place } from "./usePointers";

/** The wheel zooms about the pointer. React listens passively; the page must not scroll under the picture. */
export function useWheelZoom(
  box: RefObject<HTMLElement | null>,
  zoomAt: (factor: number, place: Place) => void,
) {
  useEffect(() => {
    const element = box.current;
    const wheel = (e: WheelEvent) => {
      e.preventDefault();
      const rect = (e.currentTarget as HTMLElement).getBoundingClientRect();
      const factor = Math.exp(-e.deltaY * (e.ctrlKey ? 0.01 : 0.0015));
      zoomAt(factor, { x: e.clientX - rect.left, y: e.clientY - rect.top });
    };
    element?.addEventListener("wheel", wheel, { passive: false });
    return () => element?.removeEventListener("wheel", wheel);
  }, [box, zoomAt]);
}
