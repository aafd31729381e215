import { useMemo } from "react";
import type { Sitter } from "../api/client";
import { useLibrary } from "../api/hooks";
import type { Tubes } from "./Recipe";

/** Names and colours of every tube a sitter's recipes may name. */
export function useTubes(sitter: Sitter): Tubes {
  const library = useLibrary();
  const own = sitter.settings.flesh.own;
  return useMemo(() => {
    const known: Tubes = new Map(library.data?.tubes.map((t) => [t.key, t]));
    // A tube taken off the rack since it was set out here: its pigment stands in for what the library no longer lists.
    for (const tube of own ?? []) {
      const like = known.get(tube.pigment);
      if (!known.has(tube.key) && like) known.set(tube.key, { ...like, name: tube.name, left_ml: null });
    }
    return known;
  }, [library.data, own]);
}
