import { useState } from "react";
import { pictureUrl } from "../../api/client";
import { useHighlights } from "../../api/hooks";
import { Say, Section, Toggle } from "../../sheet/parts";
import { Value } from "../../sheet/Value";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { PlaceList, usePlaces } from "../../sheet/places";

const groups = [
  ["wet eye or lip", "Wet: eyes and lips"],
  ["damp skin", "Damp skin"],
  ["sheen", "Sheen of the skin"],
  ["hair", "Hair"],
] as const;

/** Where surfaces mirror the light: of what kind, how sharp, how warm, and what to do for each. */
export function HighlightsJob({ sitter }: JobProps) {
  const found = useHighlights(sitter);
  const [veil, setVeil] = useState(true);
  const lights = found.data ?? [];
  const places = usePlaces(lights);
  useWall({
    busy: found.isFetching,
    veil: veil ? pictureUrl(sitter, "shine") : null,
    overlay: places.mark,
  });
  return (
    <>
      <Toggle label="Dim what does not shine" on={veil} onChange={setVeil} />
      {found.isPending && <Say quiet>Taking the shine off the skin …</Say>}
      {found.isError && <Say>{found.error.message}</Say>}
      {found.data?.length === 0 && <Say>Nothing shines: the skin is matt, or the light is soft.</Say>}
      {groups.map(([kind, title]) => {
        const own = lights.filter((h) => h.kind === kind);
        return (
          own.length > 0 && (
            <Section key={kind} title={title}>
              <PlaceList
                of={own}
                places={places}
                right={(h) => (
                  <>
                    {h.edge}, <Value of={h.value} />
                  </>
                )}
                more={(h) => (
                  <>
                    {h.temperature === "alike"
                      ? "Of its surround's temperature"
                      : `${h.temperature === "cooler" ? "Cooler" : "Warmer"} than its surround`}
                    ; {h.how}.
                  </>
                )}
              />
            </Section>
          )
        );
      })}
      <Say quiet>
        What a surface mirrors keeps the colour of the lamp. Pure white is for wet sparkle alone; everywhere
        else the light carries some of the skin.
      </Say>
    </>
  );
}
