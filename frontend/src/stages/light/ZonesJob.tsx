import { Box } from "@mui/material";
import { useState } from "react";
import { Circle, Text } from "react-konva";
import { pictureUrl } from "../../api/client";
import { useLight } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import { Handle, Say, Section, Toggle } from "../../sheet/parts";
import { Value } from "../../sheet/Value";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";

/** Light peaks and the four zones round them. */
export function ZonesJob({ sitter, look }: JobProps) {
  const settings = sitter.settings.light;
  const light = useLight(sitter);
  const { change, isPending } = useChange(sitter, "light");
  const [zones, setZones] = useState(true);
  const direction = light.data?.direction;
  const face = light.data?.face_mm;
  const reach = (v: number) => (face ? `${(v * face).toFixed(1)} mm` : `${(v * 100).toFixed(1)} %`);
  useWall({
    busy: light.isFetching || isPending,
    force: look.picture === "colour" ? { picture: "grey" } : {},
    veil: zones ? pictureUrl(sitter, "zones") : null,
    overlay: (px, size) =>
      light.data?.peaks.map((p, i) => (
        <Dot
          key={i}
          x={p.x * size.width}
          y={p.y * size.height}
          number={i + 1}
          px={px}
          flipped={look.mirror || look.upsideDown}
        />
      )),
  });
  return (
    <>
      <Section title="Where the light comes from">
        {direction ? (
          <Say>
            From the {direction.words}. One light in that place explains{" "}
            {Math.round(direction.confidence * 100)} % of how light and dark the skin is; take it as a hint,
            not as a measurement.
          </Say>
        ) : (
          <Say quiet>
            {light.data
              ? "No face shows it: the direction of the light is read off the forms of a face."
              : light.isError
                ? light.error.message
                : "Looking for the light …"}
          </Say>
        )}
      </Section>
      <Section title="Light peaks">
        {light.data?.peaks.length === 0 && (
          <Say>No lights stand out on the skin. Is the skin marked in Reference?</Say>
        )}
        <Box component="ol" sx={{ pl: 3, m: 0 }}>
          {light.data?.peaks.map((p) => (
            <Box
              component="li"
              key={p.place}
              sx={{ fontSize: 15.5, py: 0.6, borderBottom: 1, borderColor: "divider" }}
            >
              <Box sx={{ display: "flex", justifyContent: "space-between" }}>
                <span>{p.place}</span>
                <strong>
                  <Value of={p.value} />
                </strong>
              </Box>
            </Box>
          ))}
        </Box>
      </Section>
      <Section title="Zones">
        <Toggle label="Show the zones" on={zones} onChange={setZones} />
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
          Zone 2 ends at {reach(2 * settings.zone_1_reach)}, zone 3 at {reach(3.5 * settings.zone_1_reach)},
          zone 4 where the shadow begins
          {light.data && (
            <>
              {" "}
              (value <Value of={light.data.shadow_below} />)
            </>
          )}
          . Keep to a single light colour: where the coats lie over one another it comes out lightest by
          itself.
        </Say>
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
}

function Dot({ x, y, number, px, flipped }: DotProps) {
  return (
    <>
      <Circle
        listening={false}
        x={x}
        y={y}
        radius={9 * px}
        fill="#111111"
        stroke="#ffffff"
        strokeWidth={1.5 * px}
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
