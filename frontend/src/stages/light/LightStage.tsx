import { Box, FormControlLabel, Switch } from "@mui/material";
import { useState } from "react";
import { Circle, Text } from "react-konva";
import { pictureUrl } from "../../api/client";
import { useChange, useLight } from "../../api/hooks";
import { Handle, Say, Section } from "../../sheet/parts";
import { Workspace, type StageProps } from "../../sitter/Workspace";

/** Points of maximum luminosity and the four zones that spread from them. */
export function LightStage({ sitter, look, onLook }: StageProps) {
  const settings = sitter.settings.light;
  const light = useLight(sitter);
  const { change, isPending } = useChange(sitter, "light");
  const [zones, setZones] = useState(true);
  const direction = light.data?.direction;
  const sheet = (
    <>
      <Section title="Where the light comes from">
        {direction ? (
          <Say>From the {direction.words}. {Math.round(direction.confidence * 100)} % of the skin&rsquo;s values follow from one light in that place; take it as a hint, not as a measurement.</Say>
        ) : (
          <Say quiet>{light.data ? "No face shows it: the direction of the light is read off the forms of a face." : light.isError ? light.error.message : "Looking for the light …"}</Say>
        )}
      </Section>
      <Section title="Points of maximum luminosity">
        {light.data?.points.length === 0 && <Say>No lights stand out on the skin. Is the skin marked in Reference?</Say>}
        <Box component="ol" sx={{ pl: 3, m: 0 }}>
          {light.data?.points.map((p, i) => (
            <Box component="li" key={i} sx={{ fontSize: 15.5, py: 0.6, borderBottom: 1, borderColor: "divider" }}>
              <Box sx={{ display: "flex", justifyContent: "space-between" }}><span>{p.place}</span><strong>{p.value.toFixed(1)}</strong></Box>
            </Box>
          ))}
        </Box>
        {light.data && <Say quiet>Skin below value {light.data.shadow_below.toFixed(1)} counts as shadow: no zone enters it. The upper lip is never highlighted.</Say>}
      </Section>
      <Section title="Zones">
        <FormControlLabel control={<Switch color="default" checked={zones} onChange={(_, on) => setZones(on)} />} label="Show the zones" />
        <Handle label="Zone 1 reaches" value={settings.zone_1_reach ?? 0.045} least={0.01} most={0.12} step={0.005} shown={(v) => `${(v * 100).toFixed(1)} % of the face`} onChange={(v) => change({ zone_1_reach: v }, "Zone 1")} />
        <Handle label="Squint before looking" value={settings.squint ?? 0.006} least={0.002} most={0.03} step={0.001} shown={(v) => `${(v * (sitter.settings.reference.canvas_height_mm ?? 400)).toFixed(1)} mm`} onChange={(v) => change({ squint: v }, "Squint for lights")} />
        <Say quiet>Zone 2 reaches twice as far as zone 1, zone 3 further, zone 4 fades out at the shadow. The same light colour goes on each time: brightness comes from the build-up.</Say>
      </Section>
    </>
  );
  const grey = look.picture === "colour" ? { ...look, picture: "grey" as const } : look;
  return (
    <Workspace sitter={sitter} look={grey} onLook={onLook} sheet={sheet} busy={light.isFetching || isPending}
      veil={zones ? pictureUrl(sitter, "zones", "light") : null}
      overlay={(px, size) => light.data?.points.map((p, i) => (
        <Dot key={i} x={p.x * size.width} y={p.y * size.height} number={i + 1} px={px} flipped={look.mirror || look.upsideDown} />
      ))} />
  );
}

function Dot({ x, y, number, px, flipped }: { x: number; y: number; number: number; px: number; flipped: boolean }) {
  return (
    <>
      <Circle listening={false} x={x} y={y} radius={9 * px} fill="#111111" stroke="#ffffff" strokeWidth={1.5 * px} />
      {!flipped && <Text listening={false} x={x - 12 * px} y={y - 6.5 * px} width={24 * px} align="center" text={String(number)} fontSize={13 * px} fontStyle="700" fill="#ffffff" />}
    </>
  );
}
