import { Box, Button, MenuItem, TextField } from "@mui/material";
import { useState } from "react";
import { type Schemas, type Sitter } from "../../api/client";
import { useComputed } from "../../api/hooks";
import { Say } from "../../sheet/parts";
import { Row } from "../../sheet/Row";
import type { useTakeIn } from "./useTakeIn";

const tones = [
  { key: "light", label: "a step too light", fault: "+1" },
  { key: "dark", label: "a step too dark", fault: "-1" },
  { key: "warm", label: "too warm", fault: "warm:10" },
  { key: "hard", label: "edges too hard", fault: "hard" },
  { key: "overworked", label: "worked too far", fault: "overworked" },
] as const;
/** Of features; a bare drawing has no others. */
const moves = [
  { key: "low", label: "4 mm too low", fault: "shift:0,4" },
  { key: "turned", label: "turned by 6°", fault: "turn:6" },
  { key: "wide", label: "a sixth too wide", fault: "wide:1.17" },
] as const;
const kinds = [...tones, ...moves];

interface Props {
  sitter: Sitter;
  camera: ReturnType<typeof useTakeIn>["camera"];
  after: number | null;
  drawing: boolean;
}

/** The simulated camera: the planned canvas photographed in some studio, with faults planted. */
export function CameraSection({ sitter, camera, after, drawing }: Props) {
  const [open, setOpen] = useState(false);
  const easel = useComputed<Schemas["EaselOut"]>(sitter, "easel", "", open);
  const [kind, setKind] = useState<(typeof kinds)[number]["key"]>("light");
  const [place, setPlace] = useState("");
  const able = drawing ? moves : kinds;
  const chosen = able.find((k) => k.key === kind) ?? able[0];
  const places = (moves.some((m) => m.key === chosen.key) ? easel.data?.features : easel.data?.places) ?? [];
  const at = places.includes(place) ? place : "";
  return (
    <Box sx={{ mt: 1 }}>
      <Row expanded={open} onClick={() => setOpen(!open)}>
        Simulated camera
      </Row>
      {open && (
        <>
          <Say quiet>
            Photographs the {drawing ? "drawing" : "planned canvas"} by the lamp of some studio, to try things
            out without a painting.
          </Say>
          <TextField
            select
            fullWidth
            size="small"
            label="With a fault"
            value={chosen.key}
            onChange={(e) => setKind(e.target.value as typeof kind)}
            sx={{ mt: 1 }}
          >
            {able.map((k) => (
              <MenuItem key={k.key} value={k.key}>
                {k.label}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            select
            fullWidth
            size="small"
            label="At"
            value={at}
            onChange={(e) => setPlace(e.target.value)}
            slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
            sx={{ mt: 1.5, mb: 1 }}
          >
            <MenuItem value="">nowhere: no fault</MenuItem>
            {places.map((p) => (
              <MenuItem key={p} value={p}>
                {p}
              </MenuItem>
            ))}
          </TextField>
          <Button
            color="inherit"
            variant="outlined"
            fullWidth
            disabled={camera.isPending}
            onClick={() =>
              camera.mutate({
                after,
                drawing,
                seed: Math.floor(Math.random() * 100000),
                faults: at ? [`${at}=${chosen.fault}`] : [],
              })
            }
          >
            {camera.isPending
              ? "Photographing …"
              : drawing
                ? "Photograph the drawing"
                : "Photograph the canvas"}
          </Button>
          {camera.isError && <Say>{camera.error.message}</Say>}
        </>
      )}
    </Box>
  );
}
