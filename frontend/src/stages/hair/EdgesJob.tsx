import { Box } from "@mui/material";
import { useState, type ReactNode } from "react";
import { Circle, Group } from "react-konva";
import type { Schemas } from "../../api/client";
import { useHairEdges } from "../../api/hooks";
import { Say, Section, Toggle } from "../../sheet/parts";
import { PlaceList, usePlaces } from "../../sheet/places";
import { useWall } from "../../sitter/wall";
import { useTubes } from "../../sheet/useTubes";
import { MixtureLine } from "../flesh/MixtureLine";
import type { JobProps } from "../job";
import { GreyBeard, useLightForms } from "./LightForms";

type Pair = Schemas["PairOut"];
type Spot = Schemas["PlanHairlineSpot"];

const mm = (v: number) => `${v.toFixed(1)} mm`;
const more = (v: number) => `${v >= 0 ? "+" : "−"}${Math.abs(v).toFixed(1)}`;

/** Where hair meets skin, and brows, moustache and beard as shapes. */
export function EdgesJob({ sitter }: JobProps) {
  const found = useHairEdges(sitter);
  const [readings, setReadings] = useState(true);
  const tubes = useTubes(sitter);
  const data = found.data;
  const forms = useLightForms(sitter, data?.forms ?? null);
  const spots = data?.hairline ?? [];
  const listed = spots.map((s, i) => ({ ...s, place: `hairline ${i + 1}` }));
  const places = usePlaces(listed);
  useWall({
    busy: found.isFetching,
    ...forms.wall,
    overlay: (px, size) => (
      <>
        {readings &&
          [...spots, ...(data?.cheek_line ?? [])].map((s, i) => (
            <Group key={i} x={s.x * size.width} y={s.y * size.height} listening={false}>
              <Circle
                radius={(2 + s.wanted_mm * 0.6) * px}
                stroke="#ffffff"
                strokeWidth={1.5 * px}
                dash={[3 * px, 2 * px]}
              />
              <Circle
                radius={(1.5 + s.seen_mm * 0.6) * px}
                fill={s.too_hard ? "#000000" : "transparent"}
                stroke="#ffffff"
                strokeWidth={2 * px}
              />
            </Group>
          ))}
        {forms.overlay(px, size)}
        {places.mark(px, size)}
      </>
    ),
  });
  return (
    <>
      <Section title="Hairline">
        {found.isPending && <Say quiet>Reading where hair meets skin …</Say>}
        {found.isError && <Say>{found.error.message}</Say>}
        {data && spots.length === 0 && (
          <Say>No hairline is seen: the hair falls over it, or no skin lies beside its roots.</Say>
        )}
        {data && spots.length > 0 && (
          <>
            <Summary spots={spots} />
            <Say>
              {data.has_shadow
                ? "The hair throws a shadow on the skin before it: leave it in, it holds the hair down."
                : "No shadow of the hair shows on the skin. Add a soft one, so that the hair does not seem to hover."}
            </Say>
            {data.shadow && <MixtureLine mixture={data.shadow} tubes={tubes} title="Shadow on the skin" />}
            <Say>
              About <strong>{data.first_hairs}</strong> first fine hairs, rooted at differing depths a little
              behind the line.
            </Say>
            <Toggle label="Show the readings" on={readings} onChange={setReadings} />
          </>
        )}
        {listed.length > 0 && (
          <>
            <Say>Seen, and as soft as it is to be painted:</Say>
            <PlaceList
              of={listed}
              places={places}
              right={(s) => `${mm(s.seen_mm)} → ${mm(s.wanted_mm)}${s.too_hard ? ", too hard" : ""}`}
              more={(s) =>
                `Skin shows through ${Math.round(s.through * 100)} % of the first hair${
                  s.shadow_steps >= 0.05
                    ? `; before it the skin lies ${s.shadow_steps.toFixed(1)} steps in its shadow`
                    : ""
                }.`
              }
            />
          </>
        )}
        {data && spots.length > 0 && <Say quiet>When in doubt, soften it further than it shows.</Say>}
      </Section>
      {data?.brows && <PairSection title="Brows" pair={data.brows} />}
      {data?.moustache && (
        <PairSection title="Moustache" pair={data.moustache}>
          {data.gap_mm !== null && (
            <Say>
              {data.gap_mm < 1
                ? "Moustache and beard run together, which makes a face look older; a little skin between them helps."
                : `Leave ${mm(data.gap_mm)} of skin bare between moustache and beard; without it a face looks older.`}
            </Say>
          )}
        </PairSection>
      )}
      {data && data.beard_apart !== null && (
        <Section title="Beard">
          <Say>
            {data.beard_apart
              ? "It stands apart from the skin: let its edge be seen, softer at the cheek than at the jaw."
              : "It belongs to the skin: carry the flesh on under it and grade it in, so that it begins nowhere."}
          </Say>
          <Summary spots={data.cheek_line} />
        </Section>
      )}
      {data?.forms && <GreyBeard found={data.forms} hand={forms} tubes={tubes} />}
    </>
  );
}

function Summary({ spots }: { spots: readonly Spot[] }) {
  const widths = spots.map((s) => s.seen_mm).sort((a, b) => a - b);
  const middle = widths[Math.floor(widths.length / 2)] ?? 0;
  const through = spots.reduce((sum, s) => sum + s.through, 0) / spots.length;
  return (
    <Say>
      From skin to hair it takes {mm(middle)} on average, {mm(widths[0] ?? 0)} where it is hardest. Skin shows
      through {Math.round(through * 100)} % of the first hair.
    </Say>
  );
}

function PairSection({ title, pair, children }: { title: string; pair: Pair; children?: ReactNode }) {
  return (
    <Section title={title}>
      <Profile left={pair.left.widths_mm} right={pair.right.widths_mm} />
      <Say>
        Full width is reached {Math.round(pair.left.full_at * 100)} % of the way out at the left,{" "}
        {Math.round(pair.right.full_at * 100)} % at the right. The line turns {turns(pair.left)} at the left
        and {turns(pair.right)} at the right.
      </Say>
      <Say>
        Right against left: {more(pair.length_mm)} mm long, {more(pair.width_mm)} mm wide, {more(pair.slope)}
        °, {more(pair.height_mm)} mm high.
      </Say>
      {pair.upper_mm !== null && pair.lower_mm !== null && (
        <Say>
          Above, skin passes into hair within {mm(pair.upper_mm)}, below within {mm(pair.lower_mm)}.{" "}
          {pair.firm_above
            ? "The upper edge is the firmer one here; as a rule it is blended and the lower one firm."
            : "Blend the upper edge and keep the lower one firm."}
        </Say>
      )}
      {pair.alike && <Say>They mirror almost exactly. No face does: look again.</Say>}
      {children}
    </Section>
  );
}

const turns = (shape: Pair["left"]) =>
  shape.turns_at.length === 0
    ? "nowhere"
    : `${shape.turns_at.map((at) => `${Math.round(at * 100)} %`).join(" and ")} of the way out`;

/** Widths from the outer end of the left to the outer end of the right, as a drawing. */
function Profile({ left, right }: { left: readonly number[]; right: readonly number[] }) {
  const all = [...[...left].reverse(), 0, ...right];
  const most = Math.max(...all, 0.1);
  const step = 300 / Math.max(1, all.length - 1);
  const half = (w: number) => (w / most) * 26;
  const top = all.map((w, i) => `${(i * step).toFixed(1)},${(30 - half(w)).toFixed(1)}`);
  const bottom = all.map((w, i) => `${(i * step).toFixed(1)},${(30 + half(w)).toFixed(1)}`).reverse();
  return (
    <Box
      component="svg"
      viewBox="0 0 300 60"
      role="img"
      aria-label={`Widths, widest ${most.toFixed(1)} mm`}
      sx={{ width: "100%", height: 60, display: "block", mb: 1 }}
    >
      <polygon points={[...top, ...bottom].join(" ")} fill="#2b2b2b" />
    </Box>
  );
}
