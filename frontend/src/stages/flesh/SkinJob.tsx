import { useFlesh, useValues } from "../../api/hooks";
import { Say, Section } from "../../sheet/parts";
import { useCounted } from "../../sheet/Value";
import { useTubes } from "../../sheet/useTubes";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { MixtureLine } from "./MixtureLine";
import { useTubeChoice } from "./useTubeChoice";

/** A mixture for each value group of the skin. */
export function SkinJob({ sitter }: JobProps) {
  const tubes = useTubes(sitter);
  const settings = sitter.settings.flesh;
  const flesh = useFlesh(sitter);
  const value = useCounted();
  const values = useValues(sitter);
  const { add, isPending } = useTubeChoice(sitter, tubes);
  const names = new Map(values.data?.plan.groups.map((g) => [g.index, g.name]));
  const sheet = (
    <Section title="Flesh, light to dark">
      {flesh.isPending && <Say quiet>Mixing …</Say>}
      {flesh.isError && <Say>{flesh.error.message}</Say>}
      {flesh.data?.mixtures.length === 0 && (
        <Say>No skin is marked yet. Draw over the skin in Reference, regions.</Say>
      )}
      {[...(flesh.data?.mixtures ?? [])].reverse().map((m) => (
        <MixtureLine
          key={m.group}
          mixture={m}
          tubes={tubes}
          title={`${(m.group ?? 0) + 1} ${names.get(m.group ?? -1) ?? ""}`}
          onAdd={add}
        />
      ))}
      {flesh.data && (
        <Say quiet>
          These tubes reach from value {value(flesh.data.darkest)} to {value(flesh.data.lightest)}; the
          photograph is {settings.clip ? "clipped" : "compressed"} into that. Left half of a swatch: target.
          Right half: mixture.
        </Say>
      )}
    </Section>
  );
  useWall({ busy: flesh.isFetching || isPending });
  return sheet;
}
