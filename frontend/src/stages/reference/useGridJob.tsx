import { Box, Button, FormControlLabel, MenuItem, Switch, TextField } from "@mui/material";
import { useState } from "react";
import { base, type Sitter } from "../../api/client";
import { useChange, useFrame } from "../../api/hooks";
import { NumberField, Say, Section } from "../../sheet/parts";
import type { Job } from "../job";

/** Grid and transfer: the same lines on the screen, on paper and on the canvas. */
export function useGridJob(sitter: Sitter): Job {
  const settings = sitter.settings.reference;
  const frame = useFrame(sitter);
  const { change, isPending } = useChange(sitter, "reference");
  const [mirrored, setMirrored] = useState(false);
  const [upsideDown, setUpsideDown] = useState(false);
  const kind = settings.grid ?? "count";
  const cell = frame.data?.grid.cell_mm;
  const sheetUrl = (paper: string) => `${base(sitter.id)}/files/transfer.pdf?paper=${paper}&mirrored=${mirrored}&upside_down=${upsideDown}`;
  const link = { color: "inherit", variant: "outlined", fullWidth: true } as const;
  const sheet = (
    <>
      <Section title="Grid">
        <TextField select fullWidth size="small" label="Kind" value={kind} sx={{ mb: 1.5 }} onChange={(e) => change({ grid: e.target.value as typeof kind }, `Grid: ${e.target.value}`)}>
          <MenuItem value="count">columns and rows</MenuItem>
          <MenuItem value="square">squares of a size</MenuItem>
          <MenuItem value="thirds">thirds</MenuItem>
          <MenuItem value="diagonals">diagonals</MenuItem>
        </TextField>
        {kind === "count" && (
          <Box sx={{ display: "flex", gap: 1, mb: 1 }}>
            <NumberField whole label="Columns" value={settings.grid_columns ?? 3} least={1} most={40} onChange={(v) => change({ grid_columns: v }, "Grid columns")} />
            <NumberField whole label="Rows" value={settings.grid_rows ?? 4} least={1} most={40} onChange={(v) => change({ grid_rows: v }, "Grid rows")} />
          </Box>
        )}
        {kind === "square" && <NumberField label="Side of a square" unit="mm" value={settings.grid_square_mm ?? 50} least={5} most={1000} onChange={(v) => change({ grid_square_mm: v }, "Grid squares")} />}
        {cell && <Say>One field is <strong>{cell[0].toFixed(1)} × {cell[1].toFixed(1)} mm</strong> on the canvas: rule the same there, and number it the same.</Say>}
        <Say quiet>Draw one field at a time, and only what is inside it.</Say>
      </Section>
      <Section title="Transfer at true size">
        <Say quiet>Outlines and shadow shapes as large as the canvas, in sheets that overlap by 10 mm with crosses to lay one on the other. Check the 100 mm rule on each print.</Say>
        <FormControlLabel control={<Switch color="default" checked={mirrored} onChange={(_, on) => setMirrored(on)} />} label="Mirrored, for rubbing down" />
        <FormControlLabel control={<Switch color="default" checked={upsideDown} onChange={(_, on) => setUpsideDown(on)} />} label="Upside down, to draw shapes" />
        <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
          <Button {...link} href={sheetUrl("A4")}>PDF, A4</Button>
          <Button {...link} href={sheetUrl("Letter")}>PDF, Letter</Button>
        </Box>
      </Section>
      <Section title="Take away">
        <Button {...link} href={`${base(sitter.id)}/files/outlines.svg?grid=true`} sx={{ mb: 1 }}>Outlines and grid, SVG</Button>
        <Say quiet>Pictures as PNG, at the full resolution of the photograph:</Say>
        <Box sx={{ display: "flex", gap: 1 }}>
          {["Colour", "Grey", "Squint"].map((view) => <Button key={view} {...link} href={`${base(sitter.id)}/files/view.png?view=${view.toLowerCase()}`}>{view}</Button>)}
        </Box>
      </Section>
    </>
  );
  return { sheet, wall: { busy: isPending } };
}
