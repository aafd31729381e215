import { Box, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useState } from "react";
import { Line } from "react-konva";
import { pictureUrl } from "../../api/client";
import { useForm } from "../../api/hooks";
import { Say, Section, Toggle } from "../../sheet/parts";
import { useTubes } from "../../sheet/useTubes";
import { Value } from "../../sheet/Value";
import { useWall } from "../../sitter/wall";
import { MixtureLine } from "../flesh/MixtureLine";
import type { JobProps } from "../job";
import { PlaceList, usePlaces } from "../../sheet/places";

/** The skin in six classes: what is lit, turning, in its own shadow, or shadowed by something. */
export function FormJob({ sitter }: JobProps) {
  const form = useForm(sitter);
  const tubes = useTubes(sitter);
  const [view, setView] = useState<"form" | "form-grey" | "metal" | "photo">("form");
  const [line, setLine] = useState(true);
  const data = form.data;
  const casts = (data?.casts ?? []).slice(0, 6).map((c, i) => ({ ...c, place: `shadow ${i + 1}` }));
  const places = usePlaces(casts);
  useWall({
    busy: form.isFetching,
    picture: view === "photo" ? null : pictureUrl(sitter, view),
    overlay: (px, size) => (
      <>
        {line &&
          data?.terminator.map((flat, i) => {
            const points = flat.map((v, j) => v * (j % 2 ? size.height : size.width));
            return (
              <Line
                key={i}
                listening={false}
                points={points}
                stroke={view === "photo" ? "#ffffff" : "#000000"}
                strokeWidth={2.5 * px}
                dash={[9 * px, 5 * px]}
              />
            );
          })}
        {places.mark(px, size)}
      </>
    ),
  });
  return (
    <>
      <ToggleButtonGroup
        exclusive
        fullWidth
        value={view}
        aria-label="Look at"
        sx={{ mb: 1 }}
        onChange={(_, v: typeof view | null) => v && setView(v)}
      >
        <ToggleButton value="form">in colour</ToggleButton>
        <ToggleButton value="form-grey">in grey</ToggleButton>
        {data && data.metals.length > 0 && <ToggleButton value="metal">metal</ToggleButton>}
        <ToggleButton value="photo">photograph</ToggleButton>
      </ToggleButtonGroup>
      <Toggle label="Show where form turns into shadow" on={line} onChange={setLine} />
      <Section title="Form of the skin">
        {form.isPending && <Say quiet>Sorting light from shadow …</Say>}
        {form.isError && <Say>{form.error.message}</Say>}
        {data?.classes.length === 0 && <Say>No skin is marked. Draw over it in Reference, regions.</Say>}
        {data?.classes.map((c) => (
          <MixtureLine
            key={c.name}
            mixture={c.mixture}
            tubes={tubes}
            title={`${c.name}, ${Math.round(c.share * 100)} %`}
          />
        ))}
        {data && data.shadow_below > 0 && (
          <Say quiet>
            Skin darker than <Value of={data.shadow_below} /> lies in shadow.
          </Say>
        )}
        {data && data.shadow_below === 0 && data.classes.length > 0 && (
          <Say>No shadow stands apart: the light is flat, or the sitter is lit from all sides.</Say>
        )}
      </Section>
      {data?.passage && (
        <Section title="From light to shadow">
          <Say>{data.passage.words}.</Say>
          <Say>The shadow side is {data.passage.sides}, light and shade taken out.</Say>
        </Section>
      )}
      {data && data.sides.length > 0 && (
        <Section title="Lit side and shadow side">
          {data.sides.map((s) => (
            <Say key={s.region}>
              {s.region}: <Value of={s.lit_value} /> in the light, {Math.round(s.lit_share * 100)} % of it;{" "}
              <Value of={s.shadow_value} /> in the shadow.
            </Say>
          ))}
        </Section>
      )}
      {data?.metals.map((m) => (
        <Section key={m.place} title="Polished">
          <Say>{m.words}</Say>
          {m.tones.map((t) => (
            <MixtureLine
              key={t.name}
              mixture={t.mixture}
              tubes={tubes}
              title={`${t.name}, ${Math.round(t.share * 100)} %`}
            />
          ))}
        </Section>
      ))}
      {data && data.solids.length > 0 && (
        <Section title="As simple solids">
          <Box component="ul" aria-label="Solids" sx={{ listStyle: "none", p: 0, m: 0 }}>
            {data.solids.map((s) => (
              <Box
                component="li"
                key={s.part}
                sx={{ display: "flex", gap: 1.5, alignItems: "center", mb: 1 }}
              >
                <Box
                  component="img"
                  src={pictureUrl(sitter, s.view)}
                  alt=""
                  sx={{ width: 52, height: 52, flex: "none" }}
                />
                <Say>{s.words}</Say>
              </Box>
            ))}
          </Box>
          <Say quiet>
            So it would be if nothing cast a shadow on it and it were of one colour. Where the photograph
            differs, look why.
          </Say>
        </Section>
      )}
      {casts.length > 0 && (
        <Section title="Cast shadows">
          <PlaceList
            of={casts}
            places={places}
            right={(c) => (
              <>
                {c.caster ? `cast by the ${c.caster}` : "what casts it is not plain"}
                <Box component="span" sx={{ color: "text.secondary" }}>
                  {" "}
                  {(c.share * 100).toFixed(1)} %
                </Box>
              </>
            )}
          />
          {data?.direction && !data.direction.from_face && (
            <Say quiet>Without a face, form and cast shadow are told by the outline alone: less sure.</Say>
          )}
        </Section>
      )}
    </>
  );
}
