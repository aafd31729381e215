import type { Schemas, Sitter } from "../../api/client";
import { useChange } from "../../api/useChange";
import { useRack } from "../../rack/useRack";
import type { Tubes } from "../../sheet/Recipe";

type Own = Schemas["TubeSettings"];
type FleshPart = Partial<Sitter["settings"]["flesh"]>;

/** Which tubes are set out. A tube of the painter's own is set out with its readings, so that a plan stays what it was. */
export function useTubeChoice(sitter: Sitter, tubes: Tubes) {
  const settings = sitter.settings.flesh;
  const rack = useRack();
  const { change, isPending } = useChange(sitter, "flesh");
  const kept = settings.own;
  const onRack = (key: string): Own | undefined => {
    const tube = rack.data?.find((t) => t.key === key);
    return tube && { key, name: tube.name, pigment: tube.pigment, swatches: tube.swatches };
  };
  const needed = (keys: string[]) => [
    ...new Set([...keys, ...settings.pins.flatMap((p) => Object.keys(p.parts))]),
  ];
  const ownOf = (keys: string[], newest: boolean): Own[] =>
    needed(keys).flatMap((key) => {
      const before = kept.find((t) => t.key === key);
      const now = onRack(key);
      const tube = newest ? (now ?? before) : (before ?? now);
      return tube ? [tube] : [];
    });
  const setTubes = (next: string[], words: string, more: FleshPart = {}) => {
    if (!next.length) return;
    const stays = (keys: string[] | undefined) => (keys ?? []).filter((k) => next.includes(k));
    change(
      {
        palette: "own",
        tubes: next,
        own: ownOf(next, false),
        must: stays(settings.must),
        without: stays(settings.without),
        ...more,
      },
      words,
    );
  };
  const add = (key: string) => setTubes([...settings.tubes, key], `Add ${tubes.get(key)?.name ?? key}`);
  /** Tubes set out whose readings on the rack are newer. */
  const outdated = kept.filter((tube) => {
    const now = onRack(tube.key);
    return now !== undefined && JSON.stringify(sorted(now)) !== JSON.stringify(sorted(tube));
  });
  const renew = () => change({ own: ownOf(settings.tubes, true) }, "Newest readings of the tubes");
  return { setTubes, add, outdated, renew, isPending };
}

const sorted = (tube: Own) => {
  const s = tube.swatches;
  return [
    tube.name,
    tube.pigment,
    s ? [s.masstone, s.tint ?? null, s.over_black ?? null, s.over_white ?? null, s.wash ?? null] : null,
  ];
};
