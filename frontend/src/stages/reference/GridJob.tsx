import { Box, MenuItem, TextField } from "@mui/material";
import { useState } from "react";
import { useFrame } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import { Downloads, useFileUrl } from "../../sheet/Download";
import { NumberField, Say, Section, Toggle } from "../../sheet/parts";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";

/** Grid and transfer: the same lines on the screen, on paper and on the canvas. */
export function GridJob({ sitter }: JobProps) {
  const settings = sitter.settings.reference;
  const frame = useFrame(sitter);
  const { change, isPending } = useChange(sitter, "reference");
  const [mirrored, setMirrored] = useState(false);
  const [upsideDown, setUpsideDown] = useState(false);
  const kind = settings.grid;
  const cell = frame.data?.grid.cell_mm;
  const file = useFileUrl(sitter);
  const sheet = (
    <>
      <Section title="Grid">
        <TextField
          select
          fullWidth
          size="small"
          label="Kind"
          value={kind}
          sx={{ mb: 1.5 }}
          onChange={(e) => change({ grid: e.target.value as typeof kind }, `Grid: ${e.target.value}`)}
        >
          <MenuItem value="count">columns and rows</MenuItem>
          <MenuItem value="square">squares of a size</MenuItem>
          <MenuItem value="thirds">thirds</MenuItem>
          <MenuItem value="diagonals">diagonals</MenuItem>
        </TextField>
        {kind === "count" && (
          <Box sx={{ display: "flex", gap: 1, mb: 1 }}>
            <NumberField
              whole
              label="Columns"
              value={settings.grid_columns}
              least={1}
              most={40}
              onChange={(v) => change({ grid_columns: v }, "Grid columns")}
            />
            <NumberField
              whole
              label="Rows"
              value={settings.grid_rows}
              least={1}
              most={40}
              onChange={(v) => change({ grid_rows: v }, "Grid rows")}
            />
          </Box>
        )}
        {kind === "square" && (
          <NumberField
            label="Side of a square"
            unit="mm"
            value={settings.grid_square_mm}
            least={5}
            most={1000}
            onChange={(v) => change({ grid_square_mm: v }, "Grid squares")}
          />
        )}
        {cell && (
          <Say>
            One field is{" "}
            <strong>
              {cell[0].toFixed(1)} × {cell[1].toFixed(1)} mm
            </strong>{" "}
            on the canvas: rule the same there, and number it the same.
          </Say>
        )}
        <Say quiet>Draw one field at a time, and only what is inside it.</Say>
      </Section>
      <Section title="Transfer at true size">
        <Say quiet>
          Outlines and shadow shapes as large as the canvas, in sheets that overlap by 10 mm with crosses to
          lay one on the other. Check the 100 mm rule on each print.
        </Say>
        <Toggle label="Mirrored, for rubbing down" on={mirrored} onChange={setMirrored} />
        <Toggle label="Upside down, to draw shapes" on={upsideDown} onChange={setUpsideDown} />
        <Downloads
          files={["A4", "Letter"].map((paper) => ({
            label: `PDF, ${paper}`,
            href: file("transfer.pdf", { paper, mirrored, upside_down: upsideDown }),
          }))}
        />
      </Section>
      <Section title="Download">
        <Downloads
          files={[{ label: "Outlines and grid, SVG", href: file("outlines.svg", { grid: true }) }]}
        />
        <Say quiet>Pictures as PNG, at the full resolution of the photograph:</Say>
        <Downloads
          files={["Colour", "Grey", "Squint"].map((view) => ({
            label: view,
            href: file("view.png", { view: view.toLowerCase() }),
          }))}
        />
      </Section>
    </>
  );
  useWall({ force: { grid: true }, busy: isPending });
  return sheet;
}
