import { ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useState } from "react";
import { pictureUrl, type Schemas } from "../../api/client";
import { useEyes } from "../../api/hooks";
import { SpotMark } from "../../picture/Overlays";
import { Say, Section } from "../../sheet/parts";
import { Value } from "../../sheet/Value";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { PlaceList, usePlaces } from "../../sheet/places";

type Part = Schemas["EyePartOut"];
const EYE = 900;

/** An enlarged eye: the value of each part, in the order of painting, and what painters check. */
export function EyesJob({ sitter }: JobProps) {
  const eyes = useEyes(sitter);
  const [side, setSide] = useState<"left" | "right">("left");
  const eye = eyes.data?.find((e) => e.side === side);
  const parts = (eye?.parts ?? []).map((p) => ({ ...p, place: p.name }));
  const places = usePlaces(parts);
  const { canvas_width_mm, canvas_height_mm } = sitter.settings.reference;
  const [left, top, right, bottom] = eye?.box ?? [0, 0, 1, 1];
  const aspect = ((bottom - top) * canvas_height_mm) / ((right - left) * canvas_width_mm);
  const size =
    aspect <= 1
      ? { width: EYE, height: Math.round(EYE * aspect) }
      : { width: Math.round(EYE / aspect), height: EYE };
  useWall(
    eye
      ? {
          busy: eyes.isFetching,
          picture: pictureUrl(sitter, `eye-${side}`),
          size,
          plain: true,
          overlay: (px, shown) => (
            <>
              {places.chosen && (
                <SpotMark
                  spot={[places.chosen.x, places.chosen.y]}
                  name={places.chosen.place}
                  size={shown}
                  px={px}
                />
              )}
            </>
          ),
        }
      : { busy: eyes.isFetching },
  );
  return (
    <>
      <ToggleButtonGroup
        exclusive
        fullWidth
        value={side}
        aria-label="Which eye"
        sx={{ mb: 1.5 }}
        onChange={(_, v: typeof side | null) => v && setSide(v)}
      >
        <ToggleButton value="left">left eye</ToggleButton>
        <ToggleButton value="right">right eye</ToggleButton>
      </ToggleButtonGroup>
      <Section title="In the order of painting">
        {eyes.isPending && <Say quiet>Looking into the eyes …</Say>}
        {eyes.isError && <Say>{eyes.error.message}</Say>}
        {eyes.data?.length === 0 && <Say>No face was found, so no eyes either.</Say>}
        <PlaceList<Part & { place: string }>
          of={parts}
          places={places}
          numbered
          right={(p) =>
            p.value === null ? (
              "not seen"
            ) : (
              <strong>
                <Value of={p.value} />
              </strong>
            )
          }
        />
      </Section>
      {eye && (
        <Section title="What to check">
          {eye.checks.map((c) => (
            <Say key={c.words}>
              {c.holds ? "✓ " : "! "}
              {c.words}
            </Say>
          ))}
          <Say quiet>The white of an eye is a grey; left and right are the picture's.</Say>
        </Section>
      )}
    </>
  );
}
