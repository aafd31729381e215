import { createContext, useContext } from "react";

/** How the ladder counts and whose values it shows; a habit of the painter's, the same for every sitter. */
export interface LadderWay {
  /** 0 black to 10 white, or 9 dark to 1 light. */
  count: "up" | "down";
  of: "picture" | "sitter";
}

export const plainLadder: LadderWay = { count: "up", of: "picture" };

export const LadderWayContext = createContext<[LadderWay, (way: LadderWay) => void]>([
  plainLadder,
  () => undefined,
]);
export const useLadderWay = () => useContext(LadderWayContext);

/** A value as the painter counts it. */
export const counted = (value: number, count: LadderWay["count"]) => (count === "up" ? value : 10 - value);
