import { Button } from "@mui/material";
import { useState } from "react";
import { Line } from "react-konva";
import type { Schemas } from "../../api/client";
import { useChange } from "../../api/useChange";
import { rounded, type Spot } from "../../picture/spots";
import type { Size } from "../../picture/useView";
import { Handle, Say, Section, Toggle } from "../../sheet/parts";
import { PlaceList, usePlaces } from "../../sheet/places";
import { useTubes } from "../../sheet/useTubes";
import type { Wall } from "../../sitter/wall";
import { MixtureLine } from "../flesh/MixtureLine";
import type { JobProps } from "../job";
import { nearest } from "./bend";

type Forms = Schemas["FormsOut"];

/** A press takes hold of the form it is nearest to, within this part of the picture. */
const NEAR = 0.04;

/** Longer lists fold. */
const FEW = 8;

/** The light-forms of a grey beard: what the wall shows of them and what a stroke does to them. */
export function useLightForms(sitter: JobProps["sitter"], found: Forms | null) {
  const [shown, setShown] = useState(true);
  const [moving, setMoving] = useState(false);
  const settings = sitter.settings.hair;
  const { change } = useChange(sitter, "hair");
  const forms = found?.forms ?? [];
  const listed = forms.map((f, i) => ({ ...f, place: `form ${i + 1}` }));
  const places = usePlaces(listed);

  const move = ([from, ...rest]: Spot[]) => {
    const end = rest.at(-1);
    const held =
      from &&
      nearest(
        forms.map((f): Spot[] => [[f.x, f.y]]),
        from,
        NEAR,
      );
    const form = held && forms[held.stroke];
    if (!form || !end) return;
    const own = form.move === null ? undefined : settings.form_moves[form.move];
    const [to_x, to_y] = rounded([Math.min(1, Math.max(0, end[0])), Math.min(1, Math.max(0, end[1]))]);
    const next = { x: own?.x ?? form.x, y: own?.y ?? form.y, to_x, to_y };
    change({}, "Move a light-form", {
      form_moves: own && form.move !== null ? { start: form.move, remove: 1, add: [next] } : { add: [next] },
    });
  };

  const overlay = (px: number, size: Size) =>
    shown && (
      <>
        {forms.flatMap((form, i) =>
          form.touches.map((touch, side) => (
            <Line
              key={`${i}-${side}`}
              listening={false}
              points={touch.map((v, n) => v * (n % 2 ? size.height : size.width))}
              stroke={form.in_shadow === side ? "#7c7c7c" : "#ffffff"}
              strokeWidth={2 * px}
              lineCap="round"
            />
          )),
        )}
        {places.mark(px, size)}
      </>
    );

  return {
    overlay,
    wall: (moving && found
      ? { tool: "draw", straight: true, strokeWidth: 1, onStroke: move }
      : {}) satisfies Wall,
    places,
    listed,
    shown,
    setShown,
    moving,
    setMoving,
    moves: settings.form_moves.length,
    size: settings.form_size,
    resize: (form_size: number) => change({ form_size }, "Size of the light-forms"),
    asFound: () =>
      change({}, "Light-forms as found", {
        form_moves: { start: 0, remove: settings.form_moves.length, add: [] },
      }),
  };
}

interface GreyBeardProps {
  found: Forms;
  hand: ReturnType<typeof useLightForms>;
  tubes: ReturnType<typeof useTubes>;
}

/** How many there are, how large, what each adds, what they are painted with. */
export function GreyBeard({ found, hand, tubes }: GreyBeardProps) {
  const [all, setAll] = useState(false);
  const few = hand.listed.filter((form, i) => i < FEW || form.move !== null);
  return (
    <Section title="Grey beard">
      <Say>
        <strong>{found.forms.length}</strong> separate light-forms,{" "}
        {found.evenness < 0.15 ? "evenly spread" : "unevenly spread: move some apart"}. Set two touches at
        each, {found.long_mm.toFixed(0)} mm long, along the growth; of those beside the shadow one falls into
        it.
      </Say>
      <Handle
        label="Size of a form"
        value={hand.size}
        least={0.5}
        most={2}
        step={0.05}
        shown={(v) => `${((found.long_mm / hand.size) * v).toFixed(0)} mm`}
        onChange={hand.resize}
      />
      <Toggle label="Show them" on={hand.shown} onChange={hand.setShown} />
      <Toggle label="Move them: pull one to where it is wanted" on={hand.moving} onChange={hand.setMoving} />
      {hand.moves > 0 && (
        <Button color="inherit" variant="outlined" size="small" onClick={hand.asFound} sx={{ mb: 1 }}>
          All as found
        </Button>
      )}
      {found.light && <MixtureLine mixture={found.light} tubes={tubes} title="Light of the beard" />}
      <Say>What each adds, in steps above the beard around it:</Say>
      <PlaceList
        of={all ? hand.listed : few}
        places={hand.places}
        right={(form) =>
          `${form.gain >= 0 ? "+" : "−"}${Math.abs(form.gain).toFixed(2)}${form.move === null ? "" : ", moved"}`
        }
      />
      {!all && hand.listed.length > few.length && (
        <Button color="inherit" size="small" onClick={() => setAll(true)}>
          {hand.listed.length - few.length} more
        </Button>
      )}
    </Section>
  );
}
