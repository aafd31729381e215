import type { Sitter } from "../../api/client";
import { useFlesh, useValues } from "../../api/hooks";
import { Say, Section } from "../../sheet/parts";
import type { Tubes } from "../../sheet/Recipe";
import { counted, useLadderWay } from "../../sitter/ladderWay";
import type { Job } from "../job";
import { MixtureLine } from "./MixtureLine";
import { useTubeChoice } from "./useTubeChoice";

/** A mixture for each value group of the skin. */
export function useGroupsMixJob(sitter: Sitter, tubes: Tubes): Job {
  const settings = sitter.settings.flesh;
  const flesh = useFlesh(sitter);
  const [{ count }] = useLadderWay();
  const values = useValues(sitter);
  const { add, isPending } = useTubeChoice(sitter, tubes);
  const names = new Map(values.data?.plan.groups.map((g) => [g.index, g.name]));
  const sheet = (
    <Section title="Flesh, light to dark">
      {flesh.isPending && <Say quiet>Mixing …</Say>}
      {flesh.isError && <Say>{flesh.error.message}</Say>}
      {flesh.data?.mixtures.length === 0 && <Say>No skin is marked yet. Scribble over the skin in Reference.</Say>}
      {[...(flesh.data?.mixtures ?? [])].reverse().map((m) => (
        <MixtureLine key={m.group} mixture={m} tubes={tubes} title={`${(m.group ?? 0) + 1} ${names.get(m.group ?? -1) ?? ""}`} onAdd={add} />
      ))}
      {flesh.data && (
        <Say quiet>
          These tubes reach from value {counted(flesh.data.darkest, count).toFixed(1)} to {counted(flesh.data.lightest, count).toFixed(1)}; the photograph is {settings.clip ? "cut off" : "eased"} into that. Left half of a swatch: wanted. Right half: predicted.
        </Say>
      )}
    </Section>
  );
  return { sheet, wall: { busy: flesh.isFetching || isPending } };
}
