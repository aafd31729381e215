import { Box, Button, MenuItem, TextField, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useState } from "react";
import { Circle } from "react-konva";
import type { Mixture, Schemas } from "../../api/client";
import { useComputed, useRegionMap } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import { RectangleMark, SpotMark } from "../../picture/Overlays";
import type { Spot } from "../../picture/spots";
import { ends, inside } from "../../picture/spots";
import { Say, Section, Toggle } from "../../sheet/parts";
import { Legend } from "./Legend";
import { useTubes } from "../../sheet/useTubes";
import { useLeft } from "../../sitter/stored";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { MixtureLine } from "./MixtureLine";
import { NearSection } from "./NearSection";
import { useTubeChoice } from "./useTubeChoice";
import { textSize } from "../../theme";

interface Place {
  start: Spot;
  end: Spot | null;
  what?: "shape" | "group";
}

/** A place as the server is asked for it. */
function queryOf({ start, end, what }: Place): string {
  const query = new URLSearchParams({ x: part(start[0]), y: part(start[1]) });
  if (end) {
    query.set("x2", part(end[0]));
    query.set("y2", part(end[1]));
  }
  if (what) query.set("what", what);
  return query.toString();
}

/** A spot or a rectangle: its mixture, others that would do, nudges, and holding it to the picture. */
export function SpotJob({ sitter }: JobProps) {
  const tubes = useTubes(sitter);
  const settings = sitter.settings.flesh;
  const { change, isPending } = useChange(sitter, "flesh");
  const [shape, setShape] = useLeft<"spot" | "rectangle" | "shape" | "group">(
    `spot-what-${sitter.id}`,
    "spot",
  );
  const map = useRegionMap(sitter);
  const { add } = useTubeChoice(sitter, tubes);
  const [place, setPlace] = useLeft<Place | null>(`spot-${sitter.id}`, null);
  const [held, setHeld] = useState(false);
  const [pointer, setPointer] = useState<Spot | null>(null);
  const [name, setName] = useState("");
  const query = place ? queryOf(place) : "";
  const found = useComputed<Schemas["SpotOut"]>(sitter, "flesh/spot", query, place !== null);
  const without = settings.without;
  const forbid = (key: string) =>
    change(
      { without: [...without, key], must: settings.must.filter((k) => k !== key) },
      `Without ${tubes.get(key)?.name ?? key}`,
    );
  const pin = (mixture: Mixture) => {
    if (!found.data) return;
    const title = name.trim() || found.data.place;
    const pin = {
      name: title,
      target_lab: found.data.target_lab,
      parts: mixture.parts,
      locked: true,
      film_mm: mixture.film_mm,
    };
    change({}, `Pin ${title}`, { pins: { add: [pin] } });
    setName("");
  };
  const actions = (mixture: Mixture) => (
    <Box sx={{ display: "flex", flexWrap: "wrap", gap: 0.5, mt: 0.5 }}>
      <Button color="inherit" size="small" variant="outlined" onClick={() => pin(mixture)}>
        Pin
      </Button>
      {Object.keys(mixture.parts).map((key) => (
        <Button
          key={key}
          color="inherit"
          size="small"
          onClick={() => forbid(key)}
          sx={{ fontWeight: 400, fontSize: textSize.fine }}
        >
          without {tubes.get(key)?.name ?? key}
        </Button>
      ))}
    </Box>
  );
  const best = found.data?.mixture;
  const sheet = (
    <>
      <ToggleButtonGroup
        exclusive
        fullWidth
        value={shape}
        aria-label="What to read"
        onChange={(_, v: typeof shape | null) => v && setShape(v)}
        sx={{ mb: 1.5 }}
      >
        <ToggleButton value="spot">spot</ToggleButton>
        <ToggleButton value="rectangle">rectangle</ToggleButton>
        <ToggleButton value="shape">shape</ToggleButton>
        <ToggleButton value="group">value group</ToggleButton>
      </ToggleButtonGroup>
      {map.data && map.data.places.length > 0 && (
        <TextField
          select
          fullWidth
          size="small"
          label="or a place of the face"
          value=""
          sx={{ mb: 1.5 }}
          onChange={(e) => {
            const spot = map.data?.places.find((p) => p.name === e.target.value);
            if (spot) {
              setShape("spot");
              setPlace({ start: [spot.x, spot.y], end: null });
            }
          }}
        >
          {map.data.places.map((p) => (
            <MenuItem key={p.name} value={p.name}>
              {p.name}
            </MenuItem>
          ))}
        </TextField>
      )}
      <Section title={found.data?.place ?? "A spot"}>
        {!place && <Say quiet>{invitations[shape]}</Say>}
        {found.data && found.data.against_skin.length > 0 && (
          <Say>Against this skin at the same value: {found.data.against_skin.join(", ")}.</Say>
        )}
        {found.isError && <Say>{found.error.message}</Say>}
        {best && (
          <>
            <Box
              sx={{ display: "flex", height: 96, bgcolor: "#919191", p: 1.5, mb: 1 }}
              role="img"
              aria-label={`Photograph ${best.seen_hex}, target ${best.target_hex}, mixture ${best.predicted_hex}`}
            >
              <Box sx={{ flex: 1, bgcolor: best.seen_hex }} />
              <Box sx={{ flex: 1, bgcolor: best.target_hex }} />
              <Box sx={{ flex: 1, bgcolor: best.predicted_hex }} />
            </Box>
            <Legend
              of={[
                ["photograph", best.seen_value],
                ["target", best.target_value],
                ["mixture", best.target_value + best.value_error],
              ]}
            />
            <TextField
              size="small"
              fullWidth
              label="Name to pin it by"
              value={name}
              placeholder={found.data?.place}
              onChange={(e) => setName(e.target.value)}
              slotProps={{ htmlInput: { maxLength: 60 } }}
              sx={{ mb: 0.5 }}
            />
            <MixtureLine mixture={best} tubes={tubes} title="best" onAdd={add} action={actions(best)} />
            {found.data?.alternatives.map((m, i) => (
              <MixtureLine
                key={Object.keys(m.parts).join()}
                mixture={m}
                tubes={tubes}
                title={`or, ${i + 2}`}
                action={actions(m)}
              />
            ))}
            {found.data && (
              <Say quiet>
                L*, a*, b* {found.data.made.lab.map((v) => v.toFixed(0)).join(", ")}; chroma{" "}
                {found.data.made.chroma.toFixed(0)}, hue {found.data.made.hue.toFixed(0)}°
                {found.data.made.hiding !== null &&
                  `; one coat of ${found.data.made.film_mm} mm hides ` +
                    `${(found.data.made.hiding * 100).toFixed(0)} % of what lies below`}
                .
              </Say>
            )}
            <Toggle label="Hold the mixture to the picture" on={held} onChange={setHeld} />
          </>
        )}
        {without.length > 0 && (
          <Button
            color="inherit"
            variant="outlined"
            fullWidth
            onClick={() => change({ without: [] }, "Allow every tube")}
          >
            Allow again: {without.map((k) => tubes.get(k)?.name ?? k).join(", ")}
          </Button>
        )}
      </Section>
      {place && best && (shape === "shape" || shape === "group") && (
        <NearSection sitter={sitter} spot={place.start} what={shape} />
      )}
      {found.data && found.data.nudges.length > 0 && (
        <Section title="Adjust it">
          {found.data.nudges.map((n) => (
            <Box
              key={n.direction}
              sx={{
                display: "flex",
                gap: 1,
                alignItems: "center",
                py: 0.6,
                borderBottom: 1,
                borderColor: "divider",
                fontSize: textSize.small,
              }}
            >
              <Box sx={{ width: 34, height: 34, bgcolor: n.predicted_hex, flex: "none" }} />
              <Box sx={{ flex: 1 }}>
                <strong>{n.direction}</strong>: 1 {tubes.get(n.tube)?.name ?? n.tube} to {n.pile} of it
                {n.side_effects && <Box sx={{ color: "text.secondary" }}>also {n.side_effects}</Box>}
              </Box>
            </Box>
          ))}
        </Section>
      )}
    </>
  );
  useWall({
    tool: shape === "rectangle" ? "draw" : "pick",
    force: shape === "shape" || shape === "group" ? { outlines: true } : {},
    straight: true,
    busy: isPending || found.isFetching,
    onPick: (spot) =>
      setPlace({
        start: spot,
        end: null,
        ...(shape === "shape" || shape === "group" ? { what: shape } : {}),
      }),
    onStroke: (points) => {
      const line = ends(points);
      if (line) setPlace({ start: line[0], end: line[1] });
    },
    onPointer: (spot) => held && setPointer(spot),
    overlay: (px, size) => (
      <>
        {place && !place.end && <SpotMark spot={place.start} size={size} px={px} />}
        {place?.end && <RectangleMark from={place.start} to={place.end} size={size} px={px} />}
        {held && pointer && best && (
          <Circle
            listening={false}
            x={pointer[0] * size.width}
            y={pointer[1] * size.height}
            radius={26 * px}
            fill={best.predicted_hex}
          />
        )}
      </>
    ),
  });
  return sheet;
}

const invitations = {
  spot: "Press anywhere on the picture: the mixture for that spot comes here.",
  rectangle: "Drag a rectangle: the mixture for its mean colour comes here.",
  shape: "Press a value shape: the mixture for its mean colour comes here.",
  group: "Press anywhere: the mixture for that value group of the skin, hair or cloth you press comes here.",
};

const part = (v: number) => inside(v).toFixed(4);
