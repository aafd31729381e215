import { Box, Button, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useState } from "react";
import { Circle, Line, Text } from "react-konva";
import { pictureUrl, type Schemas } from "../../api/client";
import { usePeaks } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import { rounded, type Spot } from "../../picture/spots";
import { Handle, Say, Section, Toggle } from "../../sheet/parts";
import { Value } from "../../sheet/Value";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { PlaceList, usePlaces } from "../../sheet/places";

type Tool = "look" | "add" | "move" | "limit";
type Ceiling = Schemas["PlanCeiling"];

const NEAR = 0.03;
const said = (list: readonly string[]) => list.join(", ");

/** Light peaks, the four zones round them, the outer limit, and how light each may become. */
export function PeaksJob({ sitter, look }: JobProps) {
  const settings = sitter.settings.light;
  const found = usePeaks(sitter);
  const { change, isPending } = useChange(sitter, "light");
  const [zones, setZones] = useState(true);
  const [rays, setRays] = useState(false);
  const [tool, setTool] = useState<Tool>("look");
  const peaks = found.data?.peaks ?? [];
  const places = usePlaces(peaks);
  const wrong = (found.data?.ceilings ?? []).filter((c) => c.over >= 0.1 || c.vanishing);
  const danger = usePlaces<Ceiling>(wrong);
  const spots = (): Spot[] => settings.peaks ?? peaks.map((p): Spot => [p.x, p.y]);
  const face = found.data?.face_mm;
  const reach = (v: number) => (face ? `${(v * face).toFixed(1)} mm` : `${(v * 100).toFixed(1)} %`);
  const near = ([x, y]: Spot) => peaks.find((p) => Math.hypot(p.x - x, p.y - y) < NEAR);
  const at = (place: string) => peaks.findIndex((p) => p.place === place);
  const remove = (place: string) => {
    change({ peaks: spots().filter((_, i) => i !== at(place)) }, `Remove the peak, ${place}`);
    places.choose(place);
  };
  const pick = (spot: Spot) => {
    const inside = rounded(spot);
    if (tool === "add") change({ peaks: [...spots(), inside] }, "Add a light peak");
    else if (tool === "move" && places.chosen) {
      const moved = at(places.chosen.place);
      change({ peaks: spots().map((s, i) => (i === moved ? inside : s)) }, "Move a light peak");
      setTool("look");
    } else {
      const hit = near(spot);
      if (hit) places.choose(hit.place);
    }
  };
  const draw = (points: Spot[]) => {
    const thinned = points.filter((_, i) => i % 3 === 0 || i === points.length - 1).map(rounded);
    if (thinned.length > 2)
      change({ limits: [...settings.limits, { points: thinned }] }, "Outer limit of the light");
  };
  useWall({
    tool: tool === "limit" ? "draw" : "pick",
    strokeWidth: 1,
    onStroke: draw,
    onPick: pick,
    busy: found.isFetching || isPending,
    force: look.picture === "colour" ? { picture: "grey" } : {},
    veil: zones ? pictureUrl(sitter, "zones") : null,
    overlay: (px, size) => (
      <>
        {rays &&
          found.data?.rays.map((flat, i) => (
            <Line
              key={i}
              listening={false}
              points={flat.map((v, j) => v * (j % 2 ? size.height : size.width))}
              stroke="#000000"
              strokeWidth={1.2 * px}
            />
          ))}
        {settings.limits.map((l, i) => (
          <Line
            key={i}
            listening={false}
            closed
            points={l.points.flatMap(([x, y]) => [x * size.width, y * size.height])}
            stroke="#000000"
            strokeWidth={2.5 * px}
            dash={[2 * px, 7 * px]}
            lineCap="round"
          />
        ))}
        {peaks.map((p, i) => (
          <Dot
            key={p.place}
            x={p.x * size.width}
            y={p.y * size.height}
            number={i + 1}
            px={px}
            flipped={look.mirror || look.upsideDown}
            chosen={places.chosen?.place === p.place}
          />
        ))}
        {danger.mark(px, size)}
      </>
    ),
  });
  return (
    <>
      <ToggleButtonGroup
        exclusive
        fullWidth
        value={tool}
        aria-label="Tool"
        sx={{ mb: 1.5 }}
        onChange={(_, v: Tool | null) => v && setTool(v)}
      >
        <ToggleButton value="look">choose</ToggleButton>
        <ToggleButton value="add">add a peak</ToggleButton>
        <ToggleButton value="move" disabled={!places.chosen}>
          move it
        </ToggleButton>
        <ToggleButton value="limit">draw a limit</ToggleButton>
      </ToggleButtonGroup>
      <Section title="Light peaks">
        {found.isPending && <Say quiet>Looking for the lights …</Say>}
        {found.isError && <Say>{found.error.message}</Say>}
        {found.data && peaks.length === 0 && (
          <Say>No lights stand out on the skin. Is the skin marked in Reference?</Say>
        )}
        <PlaceList
          of={peaks}
          places={places}
          numbered
          right={(p) => (
            <strong>
              <Value of={p.value} />
            </strong>
          )}
          more={(p) => (
            <>
              It stands {p.prominence.toFixed(1)} steps above the way to the next.
              <Box>
                <Button color="inherit" size="small" onClick={() => setTool("move")}>
                  Move it
                </Button>
                <Button color="inherit" size="small" onClick={() => remove(p.place)}>
                  Remove it
                </Button>
              </Box>
            </>
          )}
        />
        {settings.peaks && (
          <Button
            color="inherit"
            variant="outlined"
            fullWidth
            sx={{ mt: 1 }}
            onClick={() => change({ peaks: null }, "Light peaks as found")}
          >
            As found in the photograph
          </Button>
        )}
        {found.data && found.data.missing.length > 0 && (
          <Say quiet>Usual places without a peak: {said(found.data.missing)}.</Say>
        )}
        {found.data && found.data.extra.length > 0 && (
          <Say quiet>Peaks at other places: {said(found.data.extra)}.</Say>
        )}
      </Section>
      <Section title="How light they may be">
        {found.data && wrong.length === 0 && (
          <Say>Every light keeps to its value group, and none is in danger of vanishing.</Say>
        )}
        <PlaceList
          of={wrong}
          places={danger}
          right={(c) =>
            c.vanishing ? "in danger of vanishing" : `${c.over.toFixed(1)} steps over ${c.ceiling.toFixed(1)}`
          }
          more={(c) =>
            c.vanishing
              ? "It hardly stands off what it turns from. Darken that side until the two lie a step apart."
              : c.in_shadow
                ? "Inside a shadow a light is at most about a step above its neighbour, and looks brilliant all the same."
                : "It would leave its value group. Keep it below the group's upper cut."
          }
        />
      </Section>
      <Section title="Zones">
        <Toggle label="Show the zones" on={zones} onChange={setZones} />
        <Toggle label="Show the way of the strokes" on={rays} onChange={setRays} />
        <Handle
          label="Zone 1 reaches"
          value={settings.zone_1_reach}
          least={0.01}
          most={0.12}
          step={0.005}
          shown={reach}
          onChange={(v) => change({ zone_1_reach: v }, "Zone 1")}
        />
        <Handle
          label="Squint before looking"
          value={settings.squint}
          least={0.002}
          most={0.03}
          step={0.001}
          shown={(v) => `${(v * sitter.settings.reference.canvas_height_mm).toFixed(1)} mm`}
          onChange={(v) => change({ squint: v }, "Squint for lights")}
        />
        <Say quiet>
          Zone 1 has the shape of the light itself and reaches that far on average; zone 2 goes twice as far
          each way, zone 3 three and a half times, zone 4 to the shadow or the limit, where it fades. Keep to
          a single light colour: four coats over one another come out lightest by themselves.
        </Say>
        {settings.limits.map((_, i) => (
          <Box
            key={i}
            sx={{ display: "flex", alignItems: "center", borderBottom: 1, borderColor: "divider" }}
          >
            <Box sx={{ flex: 1 }}>Limit {i + 1}</Box>
            <Button
              color="inherit"
              aria-label={`Remove limit ${i + 1}`}
              onClick={() => change({ limits: settings.limits.filter((__, j) => j !== i) }, "Remove a limit")}
            >
              Remove
            </Button>
          </Box>
        ))}
        {tool === "limit" && (
          <Say quiet>Draw round the light; it goes no farther. The line closes by itself.</Say>
        )}
      </Section>
    </>
  );
}

interface DotProps {
  x: number;
  y: number;
  number: number;
  px: number;
  flipped: boolean;
  chosen: boolean;
}

function Dot({ x, y, number, px, flipped, chosen }: DotProps) {
  return (
    <>
      <Circle
        listening={false}
        x={x}
        y={y}
        radius={(chosen ? 13 : 9) * px}
        fill="#111111"
        stroke="#ffffff"
        strokeWidth={(chosen ? 3 : 1.5) * px}
      />
      {!flipped && (
        <Text
          listening={false}
          x={x - 12 * px}
          y={y - 6.5 * px}
          width={24 * px}
          align="center"
          text={String(number)}
          fontSize={13 * px}
          fontStyle="700"
          fill="#ffffff"
        />
      )}
    </>
  );
}
