import { createContext, useContext, useLayoutEffect, useSyncExternalStore, type ReactNode } from "react";
import type { Look } from "../picture/look";
import type { Spot } from "../picture/spots";
import type { Size } from "../picture/useView";

/** What the open job asks of the wall. */
export interface Wall {
  tool?: "pan" | "draw" | "pick";
  strokeWidth?: number | undefined;
  onStroke?: (points: Spot[]) => void;
  onPick?: (spot: Spot) => void;
  /** A stroke is a straight line from where it began. */
  straight?: boolean;
  /** Ways of looking that the job needs, without changing the painter's own. */
  force?: Partial<Look>;
  onPointer?: (spot: Spot | null) => void;
  overlay?: (px: number, size: Size) => ReactNode;
  /** Stands in for the picture of the tray: a canvas after a pass, a cut under the hand. */
  picture?: string | null | undefined;
  /** A second picture to its right, instead of the photograph. */
  beside?: string | null;
  /** A transparent picture laid over it. */
  veil?: string | null;
  size?: Size | undefined;
  plain?: boolean;
  cuts?: number[];
  onDragCut?: (cuts: number[]) => void;
  onDropCut?: (cuts: number[]) => void;
  locked?: number[] | undefined;
  reach?: { darkest: number; lightest: number } | undefined;
  busy?: boolean;
  /** The whole wall is the job's: a board or a table instead of the picture. */
  instead?: ReactNode;
  /** A strip between the picture and the tray. */
  below?: ReactNode;
  onTray?: (look: Look) => Look;
}

/** Where the open job leaves its wishes and the wall finds them. */
export class WallStore {
  private wall: Wall = {};
  private readonly watchers = new Set<() => void>();

  read = () => this.wall;
  put = (wall: Wall) => {
    this.wall = wall;
    this.watchers.forEach((tell) => tell());
  };
  watch = (tell: () => void) => {
    this.watchers.add(tell);
    return () => this.watchers.delete(tell);
  };
}

export const WallContext = createContext(new WallStore());

/** Say what the wall does while this job is open. */
export function useWall(wall: Wall) {
  const store = useContext(WallContext);
  useLayoutEffect(() => store.put(wall));
  useLayoutEffect(() => () => store.put({}), [store]);
}

/** What the open job asks of the wall. */
export function useWishes(): Wall {
  const store = useContext(WallContext);
  return useSyncExternalStore(store.watch, store.read);
}
