import { Box, Button, FormControlLabel, Switch } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { base, call, type Schemas, type Sitter } from "../../api/client";
import { SpotMark } from "../../picture/Overlays";
import type { Spot } from "../../picture/PictureStage";
import { Handle, Say, Section } from "../../sheet/parts";
import { counted, useLadderWay } from "../../sitter/ladderWay";
import type { Job } from "../job";

/** Two spots compared, and one value found everywhere. */
export function useSpotsJob(sitter: Sitter, active: boolean): Job {
  const [{ count }] = useLadderWay();
  const [spots, setSpots] = useState<Spot[]>([]);
  const [same, setSame] = useState(false);
  const [step, setStep] = useState(5);
  const [tolerance, setTolerance] = useState(0.25);
  const [a, b] = spots;
  const found = useQuery({
    queryKey: ["compare", sitter.id, sitter.keys["frame"], a, b],
    queryFn: () => call<Schemas["ComparisonOut"]>(`${base(sitter.id)}/values/compare?x1=${a?.[0] ?? 0}&y1=${a?.[1] ?? 0}&x2=${(b ?? a)?.[0] ?? 0}&y2=${(b ?? a)?.[1] ?? 0}`),
    enabled: active && a !== undefined,
  });
  const pick = (spot: Spot) => setSpots(spots.length === 1 ? [...spots, spot] : [spot]);
  const value = (name: string, spot: Schemas["SpotValueOut"]) => (
    <Box sx={{ flex: 1 }}>
      <Box role="img" aria-label={`${name} on its surround`} sx={{ height: 84, display: "grid", placeItems: "center", bgcolor: spot.surround_hex }}>
        <Box sx={{ width: 34, height: 34, bgcolor: spot.hex }} />
      </Box>
      <Box sx={{ fontSize: 15, mt: 0.5 }}>{name}: <strong>{counted(spot.value, count).toFixed(1)}</strong>, surround {counted(spot.surround, count).toFixed(1)}</Box>
    </Box>
  );
  const sheet = (
    <>
      <Section title="Two spots">
        <Say quiet>{spots.length === 1 ? "Now press on the second spot." : "Press on two spots of the picture, one after the other."}</Say>
        {found.isError && <Say>{found.error.message}</Say>}
        {found.data && (
          <>
            <Box sx={{ display: "flex", gap: 1, my: 1 }}>
              {value("first", found.data.first)}
              {b && value("second", found.data.second)}
            </Box>
            {b && <Say><strong>{found.data.sentence}</strong></Say>}
            <Button color="inherit" variant="outlined" fullWidth onClick={() => { setStep(Math.round(found.data.first.value * 20) / 20); setSame(true); }}>Show the first value everywhere</Button>
          </>
        )}
      </Section>
      <Section title="The same value everywhere">
        <FormControlLabel control={<Switch color="default" checked={same} onChange={(_, on) => setSame(on)} />} label="Veil every other value" />
        <Handle label="Value" value={step} least={0} most={10} step={0.05} shown={(v) => counted(v, count).toFixed(2)} onChange={(v) => { setStep(v); setSame(true); }} />
        <Handle label="Give or take" value={tolerance} least={0.05} most={1.5} step={0.05} shown={(v) => `${v.toFixed(2)} steps`} onChange={(v) => { setTolerance(v); setSame(true); }} />
      </Section>
    </>
  );
  return {
    sheet,
    wall: {
      tool: "pick",
      onPick: pick,
      veil: same ? `${base(sitter.id)}/values/same?step=${step}&tolerance=${tolerance}&v=${sitter.keys["frame"] ?? ""}` : null,
      overlay: (px, size) => spots.map((spot, i) => <SpotMark key={i} spot={spot} name={i ? "second" : "first"} size={size} px={px} />),
    },
  };
}
