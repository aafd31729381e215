import { Box, Button } from "@mui/material";
import { useState } from "react";
import { base, type Schemas } from "../../api/client";
import { useComputed } from "../../api/hooks";
import { SpotMark } from "../../picture/Overlays";
import type { Spot } from "../../picture/spots";
import { Handle, Say, Section, Toggle } from "../../sheet/parts";
import { useCounted } from "../../sheet/Value";
import { useLeft } from "../../sitter/stored";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { textSize } from "../../theme";

/** Two spots compared, and one value found everywhere. */
export function CompareJob({ sitter }: JobProps) {
  const shown = useCounted();
  const [spots, setSpots] = useLeft<Spot[]>(`compare-${sitter.id}`, []);
  const [same, setSame] = useState(false);
  const [step, setStep] = useState(5);
  const [tolerance, setTolerance] = useState(0.25);
  const [a, b] = spots;
  const other = b ?? a;
  const query = a && other ? `x1=${a[0]}&y1=${a[1]}&x2=${other[0]}&y2=${other[1]}` : "";
  const found = useComputed<Schemas["ComparisonOut"]>(sitter, "values/compare", query, a !== undefined);
  const pick = (spot: Spot) => setSpots(spots.length === 1 ? [...spots, spot] : [spot]);
  const value = (name: string, spot: Schemas["SpotValueOut"]) => (
    <Box sx={{ flex: 1 }}>
      <Box
        role="img"
        aria-label={`${name} on its surround`}
        sx={{ height: 84, display: "grid", placeItems: "center", bgcolor: spot.surround_hex }}
      >
        <Box sx={{ width: 34, height: 34, bgcolor: spot.hex }} />
      </Box>
      <Box sx={{ fontSize: textSize.body, mt: 0.5 }}>
        {name}: <strong>{shown(spot.value)}</strong>, surround {shown(spot.surround)}
      </Box>
    </Box>
  );
  const sheet = (
    <>
      <Section title="Two spots">
        <Say quiet>
          {spots.length === 1
            ? "Now press on the second spot."
            : "Press on two spots of the picture, one after the other."}
        </Say>
        {found.isError && <Say>{found.error.message}</Say>}
        {found.data && (
          <>
            <Box sx={{ display: "flex", gap: 1, my: 1 }}>
              {value("first", found.data.first)}
              {b && value("second", found.data.second)}
            </Box>
            {b && (
              <Say>
                <strong>{found.data.sentence}</strong>
              </Say>
            )}
            <Button
              color="inherit"
              variant="outlined"
              fullWidth
              onClick={() => {
                setStep(Math.round(found.data.first.value * 20) / 20);
                setSame(true);
              }}
            >
              Show the first value everywhere
            </Button>
          </>
        )}
      </Section>
      <Section title="The same value everywhere">
        <Toggle label="Darken everything else" on={same} onChange={setSame} />
        <Handle
          label="Value"
          value={step}
          least={0}
          most={10}
          step={0.05}
          shown={(v) => shown(v, 2)}
          onChange={(v) => {
            setStep(v);
            setSame(true);
          }}
        />
        <Handle
          label="Tolerance"
          value={tolerance}
          least={0.05}
          most={1.5}
          step={0.05}
          shown={(v) => `${v.toFixed(2)} steps`}
          onChange={(v) => {
            setTolerance(v);
            setSame(true);
          }}
        />
      </Section>
    </>
  );
  useWall({
    tool: "pick",
    onPick: pick,
    veil: same
      ? `${base(sitter.id)}/values/same?step=${step}&tolerance=${tolerance}&v=${sitter.keys["ladder"] ?? ""}`
      : null,
    overlay: (px, size) =>
      spots.map((spot, i) => (
        <SpotMark key={i} spot={spot} name={i ? "second" : "first"} size={size} px={px} />
      )),
  });
  return sheet;
}
