import { Box, Button, FormControlLabel, MenuItem, Switch, TextField, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Circle } from "react-konva";
import { base, call, type Mixture, type Schemas, type Sitter } from "../../api/client";
import { useChange, useRegionMap } from "../../api/hooks";
import { RectangleMark, SpotMark } from "../../picture/Overlays";
import type { Spot } from "../../picture/PictureStage";
import { ends, inside } from "../../picture/spots";
import { Say, Section } from "../../sheet/parts";
import type { Tubes } from "../../sheet/Recipe";
import { counted, useLadderWay } from "../../sitter/ladderWay";
import type { Job } from "../job";
import { MixtureLine } from "./MixtureLine";
import { useTubeChoice } from "./useTubeChoice";

interface Place {
  start: Spot;
  end: Spot | null;
  what?: "shape" | "group";
}

/** A spot or a rectangle: its mixture, others that would do, nudges, and holding it to the picture. */
export function useSpotJob(sitter: Sitter, active: boolean, tubes: Tubes): Job {
  const settings = sitter.settings.flesh;
  const { change, isPending } = useChange(sitter, "flesh");
  const [{ count }] = useLadderWay();
  const [shape, setShape] = useState<"point" | "rectangle" | "shape" | "group">("point");
  const map = useRegionMap(sitter);
  const { add } = useTubeChoice(sitter, tubes);
  const [place, setPlace] = useState<Place | null>(null);
  const [held, setHeld] = useState(false);
  const [pointer, setPointer] = useState<Spot | null>(null);
  const [name, setName] = useState("");
  const query = place ? `x=${part(place.start[0])}&y=${part(place.start[1])}${place.end ? `&x2=${part(place.end[0])}&y2=${part(place.end[1])}` : ""}${place.what ? `&what=${place.what}` : ""}` : "";
  const found = useQuery({
    queryKey: ["spot", sitter.id, sitter.keys["spot"], query],
    queryFn: () => call<Schemas["SpotOut"]>(`${base(sitter.id)}/flesh/spot?${query}`),
    enabled: active && place !== null,
    placeholderData: (old) => old,
  });
  const without = settings.without ?? [];
  const forbid = (key: string) => change({ without: [...without, key], must: (settings.must ?? []).filter((k) => k !== key) }, `Without ${tubes.get(key)?.name ?? key}`);
  const pin = (mixture: Mixture) => {
    if (!found.data) return;
    const title = name.trim() || found.data.place;
    change({ pins: [...(settings.pins ?? []), { name: title, target_lab: found.data.target_lab, parts: mixture.parts, locked: true }] }, `Pin ${title}`);
    setName("");
  };
  const actions = (mixture: Mixture) => (
    <Box sx={{ display: "flex", flexWrap: "wrap", gap: 0.5, mt: 0.5 }}>
      <Button color="inherit" size="small" variant="outlined" onClick={() => pin(mixture)}>Pin</Button>
      {Object.keys(mixture.parts).map((key) => (
        <Button key={key} color="inherit" size="small" onClick={() => forbid(key)} sx={{ fontWeight: 400, fontSize: 13 }}>without {tubes.get(key)?.name ?? key}</Button>
      ))}
    </Box>
  );
  const best = found.data?.mixture;
  const sheet = (
    <>
      <ToggleButtonGroup exclusive fullWidth value={shape} aria-label="What to read" onChange={(_, v: typeof shape | null) => v && setShape(v)} sx={{ mb: 1.5 }}>
        <ToggleButton value="point">point</ToggleButton>
        <ToggleButton value="rectangle">rectangle</ToggleButton>
        <ToggleButton value="shape">shape</ToggleButton>
        <ToggleButton value="group">group</ToggleButton>
      </ToggleButtonGroup>
      {map.data && map.data.places.length > 0 && (
        <TextField select fullWidth size="small" label="or a place of the face" value="" sx={{ mb: 1.5 }}
          onChange={(e) => {
            const spot = map.data?.places.find((p) => p.name === e.target.value);
            if (spot) { setShape("point"); setPlace({ start: [spot.x, spot.y], end: null }); }
          }}>
          {map.data.places.map((p) => <MenuItem key={p.name} value={p.name}>{p.name}</MenuItem>)}
        </TextField>
      )}
      <Section title={found.data?.place ?? "A spot"}>
        {!place && <Say quiet>{invitations[shape]}</Say>}
        {found.isError && <Say>{found.error.message}</Say>}
        {best && (
          <>
            <Box sx={{ display: "flex", height: 96, bgcolor: "#919191", p: 1.5, mb: 1 }} role="img" aria-label={`Seen ${best.seen_hex}, wanted ${best.target_hex}, predicted ${best.predicted_hex}`}>
              <Box sx={{ flex: 1, bgcolor: best.seen_hex }} /><Box sx={{ flex: 1, bgcolor: best.target_hex }} /><Box sx={{ flex: 1, bgcolor: best.predicted_hex }} />
            </Box>
            <Say quiet>Seen in the photograph (value {counted(best.seen_value, count).toFixed(1)}), wanted within the paint&rsquo;s reach ({counted(best.target_value, count).toFixed(1)}), predicted.</Say>
            <TextField size="small" fullWidth label="Name to pin it by" value={name} placeholder={found.data?.place} onChange={(e) => setName(e.target.value)} slotProps={{ htmlInput: { maxLength: 60 } }} sx={{ mb: 0.5 }} />
            <MixtureLine mixture={best} tubes={tubes} title="best" onAdd={add} action={actions(best)} />
            {found.data?.alternatives.map((m, i) => <MixtureLine key={Object.keys(m.parts).join()} mixture={m} tubes={tubes} title={`or, ${i + 2}`} action={actions(m)} />)}
            {found.data && <Say quiet>L*, a*, b* {found.data.made.lab.map((v) => v.toFixed(0)).join(", ")}; chroma {found.data.made.chroma.toFixed(0)}, hue {found.data.made.hue.toFixed(0)}°{found.data.made.hiding !== null && `; one coat of ${found.data.made.film_mm} mm hides ${(found.data.made.hiding * 100).toFixed(0)} % of what lies below`}.</Say>}
            <FormControlLabel control={<Switch color="default" checked={held} onChange={(_, on) => setHeld(on)} />} label="Hold the mixture to the picture" />
          </>
        )}
        {without.length > 0 && <Button color="inherit" variant="outlined" fullWidth onClick={() => change({ without: [] }, "Allow every tube")}>Allow again: {without.map((k) => tubes.get(k)?.name ?? k).join(", ")}</Button>}
      </Section>
      {found.data && found.data.nudges.length > 0 && (
        <Section title="Nudges">
          {found.data.nudges.map((n) => (
            <Box key={n.direction} sx={{ display: "flex", gap: 1, alignItems: "center", py: 0.6, borderBottom: 1, borderColor: "divider", fontSize: 14.5 }}>
              <Box sx={{ width: 34, height: 34, bgcolor: n.predicted_hex, flex: "none" }} />
              <Box sx={{ flex: 1 }}><strong>{n.direction}</strong>: 1 {tubes.get(n.tube)?.name ?? n.tube} to {n.pile} of it{n.side_effects && <Box sx={{ color: "text.secondary" }}>also {n.side_effects}</Box>}</Box>
            </Box>
          ))}
        </Section>
      )}
    </>
  );
  return {
    sheet,
    wall: {
      tool: shape === "rectangle" ? "draw" : "pick",
      force: shape === "shape" || shape === "group" ? { outlines: true } : {},
      straight: true,
      busy: isPending || (active && found.isFetching),
      onPick: (spot) => setPlace({ start: spot, end: null, ...(shape === "shape" || shape === "group" ? { what: shape } : {}) }),
      onStroke: (points) => {
        const line = ends(points);
        if (line) setPlace({ start: line[0], end: line[1] });
      },
      onPointer: (spot) => held && setPointer(spot),
      overlay: (px, size) => (
        <>
          {place && !place.end && <SpotMark spot={place.start} size={size} px={px} />}
          {place?.end && <RectangleMark from={place.start} to={place.end} size={size} px={px} />}
          {held && pointer && best && <Circle listening={false} x={pointer[0] * size.width} y={pointer[1] * size.height} radius={26 * px} fill={best.predicted_hex} />}
        </>
      ),
    },
  };
}

const invitations = {
  point: "Press anywhere on the picture: the mixture for that spot comes here.",
  rectangle: "Drag a rectangle: the mixture for its mean colour comes here.",
  shape: "Press a value shape: the mixture for its mean colour comes here.",
  group: "Press anywhere: the mixture for that value group of the skin, hair or cloth you press comes here.",
};

const part = (v: number) => inside(v).toFixed(4);
