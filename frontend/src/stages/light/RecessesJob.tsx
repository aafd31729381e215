import { useState } from "react";
import { pictureUrl } from "../../api/client";
import { useRecesses } from "../../api/hooks";
import { Say, Section, Toggle } from "../../sheet/parts";
import { useTubes } from "../../sheet/useTubes";
import { useWall } from "../../sitter/wall";
import { MixtureLine } from "../flesh/MixtureLine";
import type { JobProps } from "../job";
import { PlaceList, usePlaces } from "../../sheet/places";

/** The narrow darks of the face, deepest first, and the two coats they take. */
export function RecessesJob({ sitter }: JobProps) {
  const found = useRecesses(sitter);
  const tubes = useTubes(sitter);
  const [veil, setVeil] = useState(true);
  const list = found.data?.recesses ?? [];
  const places = usePlaces(list);
  useWall({
    busy: found.isFetching,
    veil: veil ? pictureUrl(sitter, "recesses") : null,
    overlay: places.mark,
  });
  return (
    <>
      <Toggle label="Show both coats" on={veil} onChange={setVeil} />
      <Section title="Recesses">
        {found.isPending && <Say quiet>Looking for the deepest places …</Say>}
        {found.isError && <Say>{found.error.message}</Say>}
        {found.data && list.length === 0 && (
          <Say>No narrow dark lies half a step below both its sides. Is the skin marked in Reference?</Say>
        )}
        <PlaceList
          of={list}
          places={places}
          numbered
          right={(r) => `${r.depth.toFixed(1)} steps, ${r.width_mm.toFixed(1)} mm`}
          more={(r) => (
            <>
              {r.length_mm.toFixed(0)} mm long
              {r.soft ? `; soft ${r.soft}, crisp on the other side` : "; both sides alike"}.
            </>
          )}
        />
      </Section>
      {found.data?.first && found.data.dark && (
        <Section title="Two coats">
          <MixtureLine mixture={found.data.first} tubes={tubes} title="first: strong flesh" />
          <MixtureLine mixture={found.data.dark} tubes={tubes} title="over it: the dark" />
          <Say quiet>
            The first covers the valley (hatched) and runs out on its soft side; the dark (solid) covers at
            most half of that, once the first is dry.
          </Say>
        </Section>
      )}
    </>
  );
}
