import { Box, Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Circle, Line } from "react-konva";
import { base, pictureUrl, send, type Schemas } from "../../api/client";
import { useSkinColour } from "../../api/hooks";
import { rounded, type Spot } from "../../picture/spots";
import { Say, Section, Toggle } from "../../sheet/parts";
import { Recipe } from "../../sheet/Recipe";
import { useTubes } from "../../sheet/useTubes";
import { useWall } from "../../sitter/wall";
import { MixtureLine } from "../flesh/MixtureLine";
import type { JobProps } from "../job";
import { PlaceList, usePlaces } from "../../sheet/places";
import { textSize } from "../../theme";

/** Where skin changes colour at equal value, what shadows borrow, and colour along a drawn line. */
export function ColourJob({ sitter }: JobProps) {
  const found = useSkinColour(sitter);
  const tubes = useTubes(sitter);
  const [veil, setVeil] = useState(true);
  const [line, setLine] = useState<Spot[] | null>(null);
  const list = found.data?.places ?? [];
  const places = usePlaces(list);
  const stops = useMutation({
    mutationFn: (points: Spot[]) =>
      send<Schemas["StopOut"][]>("POST", `${base(sitter.id)}/light/line`, { points }),
  });
  const draw = (points: Spot[]) => {
    const thinned = points.filter((_, i) => i % 2 === 0 || i === points.length - 1).map(rounded);
    if (thinned.length < 2) return;
    setLine(thinned);
    setVeil(false);
    stops.mutate(thinned);
  };
  useWall({
    tool: "draw",
    strokeWidth: 1,
    onStroke: draw,
    busy: found.isFetching || stops.isPending,
    veil: veil ? pictureUrl(sitter, "turns") : null,
    overlay: (px, size) => (
      <>
        {line && (
          <Line
            listening={false}
            points={line.flatMap(([x, y]) => [x * size.width, y * size.height])}
            stroke="#000000"
            strokeWidth={2 * px}
          />
        )}
        {line &&
          stops.data?.map((s, i) => (
            <Circle
              key={i}
              listening={false}
              x={s.x * size.width}
              y={s.y * size.height}
              radius={8 * px}
              fill={s.mixture.predicted_hex}
              stroke="#000000"
              strokeWidth={2 * px}
            />
          ))}
        {places.mark(px, size)}
      </>
    ),
  });
  return (
    <>
      <Section title="Along a line">
        <Say quiet>
          Draw over a cheek or a lock: the fewest colours that describe the way are told, in order. Hold the
          space bar to move the picture.
        </Say>
        {stops.isError && <Say>{stops.error.message}</Say>}
        {line &&
          stops.data?.map((s, i) => (
            <MixtureLine
              key={i}
              mixture={s.mixture}
              tubes={tubes}
              title={`${i + 1}, at ${Math.round(s.along * 100)} %`}
              note={
                s.base > 0 && (
                  <Box sx={{ fontSize: textSize.fine, mt: 0.6, color: "text.secondary" }}>
                    or {s.base} of the one before and
                    <Recipe parts={s.added} tubes={tubes} />
                  </Box>
                )
              }
            />
          ))}
        {line && (
          <Button
            color="inherit"
            variant="outlined"
            fullWidth
            sx={{ mt: 1 }}
            onClick={() => {
              setLine(null);
              setVeil(true);
            }}
          >
            Clear the line
          </Button>
        )}
      </Section>
      <Section title="Where skin changes colour">
        <Toggle label="Hatch the changes" on={veil} onChange={setVeil} />
        {found.isPending && <Say quiet>Comparing colours at equal value …</Say>}
        {found.isError && <Say>{found.error.message}</Say>}
        {found.data && list.length === 0 && <Say>No named place of the skin stands out in colour.</Say>}
        <PlaceList of={list} places={places} right={(p) => `${p.turn} by ${p.by.toFixed(0)}`} />
        <Legend />
        <Say quiet>
          Against this skin's own colour at the same value: blood shows over bone and cartilage, a beard
          greys.
        </Say>
      </Section>
      {found.data && (
        <Section title="Shadows">
          {found.data.sides && <Say>The shadow side is {found.data.sides}, light and shade taken out.</Say>}
          {found.data.borrowed.map((b) => (
            <Say key={b.shadow}>
              The {b.shadow} takes colour from the {b.neighbour}.
            </Say>
          ))}
          {found.data.borrowed.length === 0 && (
            <Say quiet>No shadow takes its colour plainly from cloth or wall.</Say>
          )}
        </Section>
      )}
      {found.data && found.data.whites.length > 0 && (
        <Section title="Whites">
          {found.data.whites.map((w) => (
            <MixtureLine key={`${w.x} ${w.y}`} mixture={w.mixture} tubes={tubes} title={w.words} />
          ))}
        </Section>
      )}
    </>
  );
}

const marks = [
  ["repeating-linear-gradient(135deg, #111 0 3px, #ddd 3px 6px)", "redder"],
  ["repeating-linear-gradient(45deg, #111 0 3px, #ddd 3px 6px)", "yellower"],
  ["radial-gradient(#111 35%, #ddd 36%) 0 0 / 6px 6px", "greyer"],
  ["repeating-linear-gradient(0deg, #111 0 3px, #ddd 3px 6px)", "stronger in colour"],
] as const;

function Legend() {
  return (
    <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1.5, my: 1, fontSize: textSize.small }}>
      {marks.map(([background, word]) => (
        <Box key={word} sx={{ display: "flex", alignItems: "center", gap: 0.6 }}>
          <Box aria-hidden sx={{ width: 22, height: 16, background }} />
          {word}
        </Box>
      ))}
    </Box>
  );
}
