import { Box, Button, MenuItem, TextField } from "@mui/material";
import { useState } from "react";
import { Line, Text } from "react-konva";
import type { Schemas } from "../../api/client";
import { useFrame, useRegionMap, useRegions } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import { RegionsOverlay, SpotMark } from "../../picture/Overlays";
import type { Spot } from "../../picture/spots";
import { rounded } from "../../picture/spots";
import { Handle, Say, Section, Toggle } from "../../sheet/parts";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { textSize } from "../../theme";

type RegionName = Schemas["ScribbleSettings"]["region"];
const names: RegionName[] = [
  "skin",
  "hair",
  "facial_hair",
  "garment",
  "background",
  "brows",
  "lips",
  "eyes",
  "mouth",
  "spectacles",
  "hat",
  "jewellery",
  "erase",
];
const spoken: Record<string, string> = {
  erase: "nothing: rub strokes out",
  mouth: "inside of the mouth, teeth",
  jewellery: "jewellery, metal",
};
const words = (name: string) => spoken[name] ?? name.replace("_", " ");
const closing: RegionName[] = ["mouth", "spectacles", "hat", "jewellery"];

/** Who is where: regions as found, and strokes that correct them. */
export function RegionsJob({ sitter }: JobProps) {
  const frame = useFrame(sitter);
  const regions = useRegions(sitter);
  const map = useRegionMap(sitter);
  const { change, isPending } = useChange(sitter, "regions");
  const [region, setRegion] = useState<RegionName>("skin");
  const [width, setWidth] = useState(0.02);
  const [places, setPlaces] = useState(false);
  const [naming, setNaming] = useState(false);
  const [name, setName] = useState("");
  const own = sitter.settings.regions.names;
  const pick = (spot: Spot) => {
    const title = name.trim();
    if (!title) return;
    const [x, y] = rounded(spot).map((v) => Math.min(1, Math.max(0, v))) as Spot;
    change(
      { names: [...own.filter((p) => p.name !== title), { name: title, x, y }] },
      `Name a place: ${title}`,
    );
    setName("");
    setNaming(false);
  };
  const scribbles = sitter.settings.regions.scribbles;
  const canvasHeight = sitter.settings.reference.canvas_height_mm;
  const draw = (points: Spot[]) => {
    const thinned = points.filter((_, i) => i % 2 === 0 || i === points.length - 1).map(rounded);
    change({}, region === "erase" ? "Rub out" : `Mark ${words(region)}`, {
      scribbles: { add: [{ region, points: thinned, width }] },
    });
  };
  const sure = regions.data?.sure ?? {};
  const sheet = (
    <>
      <Section title="Who is where">
        <Say>
          {regions.data?.sentence ?? (regions.isError ? regions.error.message : "Looking for the sitter …")}
        </Say>
        <Box
          component="table"
          aria-label="Regions"
          sx={{
            width: "100%",
            borderCollapse: "collapse",
            fontSize: textSize.body,
            "& td, & th": { py: 0.4, textAlign: "right", fontWeight: "inherit" },
            "& td:first-of-type, & th:first-of-type": { textAlign: "left" },
          }}
        >
          <thead>
            <Box component="tr" sx={{ color: "text.secondary", fontSize: textSize.fine }}>
              <th>region</th>
              <th>of the picture</th>
              <th>certainty</th>
            </Box>
          </thead>
          <tbody>
            {Object.entries(regions.data?.shares ?? {})
              .filter(([, v]) => v >= 0.0005)
              .sort((a, b) => b[1] - a[1])
              .map(([k, v]) => (
                <Box component="tr" key={k} sx={{ borderTop: 1, borderColor: "divider" }}>
                  <td>{k.replace("_", " ")}</td>
                  <td>{(v * 100).toFixed(v < 0.01 ? 1 : 0)} %</td>
                  <td>{sure[k] === undefined ? "from the face" : `${(sure[k] * 100).toFixed(0)} %`}</td>
                </Box>
              ))}
          </tbody>
        </Box>
        <Toggle label="Names of the places of the face" on={places} onChange={setPlaces} />
      </Section>
      <Section title="Correct it">
        <TextField
          select
          fullWidth
          size="small"
          label="The stroke says"
          value={region}
          onChange={(e) => setRegion(e.target.value as RegionName)}
          sx={{ my: 1 }}
        >
          {names.map((name) => (
            <MenuItem key={name} value={name}>
              {words(name)}
            </MenuItem>
          ))}
        </TextField>
        <Handle
          label="Stroke"
          value={width}
          least={0.004}
          most={0.08}
          step={0.002}
          shown={(v) => `${(v * canvasHeight).toFixed(0)} mm wide`}
          onChange={setWidth}
        />
        {closing.includes(region) && (
          <Say>
            Draw round it: a stroke that comes back to where it began is filled. This one is never guessed.
          </Say>
        )}
        <Say quiet>
          Draw over what is wrong. A stroke speaks for what looks like it and can be reached without crossing
          an edge: a dab mends a corner, a long stroke claims a whole passage. Hold the space bar to move the
          picture; Ctrl+Z takes a stroke back.
        </Say>
        {scribbles.length > 0 && (
          <Button
            color="inherit"
            variant="outlined"
            fullWidth
            onClick={() =>
              change({}, "Remove all strokes", { scribbles: { start: 0, remove: scribbles.length } })
            }
          >
            Remove {scribbles.length} {scribbles.length === 1 ? "stroke" : "strokes"}
          </Button>
        )}
      </Section>
      <Section title="Places of the figure">
        <Say quiet>A shoulder, a blade, a hand: name it and touch it, and every list calls it so.</Say>
        <TextField
          fullWidth
          size="small"
          label="Name of a place"
          value={name}
          onChange={(e) => {
            setName(e.target.value);
            setNaming(e.target.value.trim() !== "");
          }}
          slotProps={{ htmlInput: { maxLength: 60 } }}
          sx={{ my: 1 }}
        />
        {naming && <Say>Now touch the place on the picture.</Say>}
        {own.map((p) => (
          <Box
            key={p.name}
            sx={{ display: "flex", alignItems: "center", borderBottom: 1, borderColor: "divider" }}
          >
            <Box sx={{ flex: 1 }}>{p.name}</Box>
            <Button
              color="inherit"
              aria-label={`Forget ${p.name}`}
              onClick={() => change({ names: own.filter((q) => q.name !== p.name) }, `Forget ${p.name}`)}
            >
              Forget
            </Button>
          </Box>
        ))}
      </Section>
    </>
  );
  useWall({
    force: { regions: false },
    tool: naming ? "pick" : "draw",
    onStroke: draw,
    onPick: pick,
    busy: isPending || regions.isFetching,
    strokeWidth: width * (frame.data?.height ?? 1000),
    overlay: (px, size) => (
      <>
        {map.data && <RegionsOverlay map={map.data} size={size} px={px} />}
        {scribbles.map((s, i) => (
          <Line
            key={i}
            listening={false}
            points={s.points.flatMap(([x, y]) => [x * size.width, y * size.height])}
            stroke={s.region === "erase" ? "#000000" : "#ffffff"}
            opacity={0.8}
            dash={[6 * px, 6 * px]}
            strokeWidth={3 * px}
          />
        ))}
        {own.map((p) => (
          <SpotMark key={p.name} spot={[p.x, p.y]} name={p.name} size={size} px={px} />
        ))}
        {places &&
          map.data?.places.map((p) => (
            <Text
              key={p.name}
              listening={false}
              x={p.x * size.width - 60 * px}
              y={p.y * size.height - 6 * px}
              width={120 * px}
              align="center"
              text={p.name}
              fontSize={11.5 * px}
              fill="#ffffff"
              stroke="#000000"
              strokeWidth={3 * px}
              fillAfterStrokeEnabled
            />
          ))}
      </>
    ),
  });
  return sheet;
}
