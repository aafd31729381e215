import { Box, Button, MenuItem, TextField } from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { send, type Settings } from "../../api/client";
import { useUsualCanvas } from "../../api/hooks";
import { keys } from "../../api/keys";
import { NumberField, Say, Section, Toggle } from "../../sheet/parts";
import { useNotice } from "../../sitter/notice";

const metric: [number, number][] = [
  [200, 250],
  [240, 300],
  [300, 375],
  [300, 400],
  [400, 500],
  [500, 600],
  [600, 800],
  [210, 297],
  [297, 420],
];
const inches: [number, number][] = [
  [8, 10],
  [9, 12],
  [11, 14],
  [12, 16],
  [16, 20],
  [18, 24],
];
const sizes = [
  ...metric.map(([w, h]) => ({ w, h, name: `${w} × ${h} mm` })),
  ...inches.map(([w, h]) => ({
    w: Math.round(w * 254) / 10,
    h: Math.round(h * 254) / 10,
    name: `${w} × ${h} in`,
  })),
];
type Reference = Settings["reference"];

/** The size of the canvas, and whether every new sitter begins on such a one. */
export function CanvasSection({
  settings,
  onSet,
}: {
  settings: Reference;
  onSet: (part: Partial<Reference>, words: string) => void;
}) {
  const { canvas_width_mm: width, canvas_height_mm: height } = settings;
  const usual = useUsualCanvas().data?.usual;
  const client = useQueryClient();
  const notice = useNotice();
  const isUsual =
    !!usual &&
    Math.max(usual.width_mm, usual.height_mm) === Math.max(width, height) &&
    Math.min(usual.width_mm, usual.height_mm) === Math.min(width, height);
  const keep = async (on: boolean) => {
    const next = { usual: on ? { width_mm: width, height_mm: height } : null };
    // What was asked for before comes too late.
    await client.cancelQueries({ queryKey: keys.canvas });
    client.setQueryData(keys.canvas, next);
    try {
      await send("PUT", "/api/canvas", next);
    } catch (error) {
      await client.invalidateQueries({ queryKey: keys.canvas });
      notice((error as Error).message);
    }
  };
  return (
    <Section title="Canvas">
      <TextField
        select
        fullWidth
        size="small"
        label="Canvas size"
        sx={{ mb: 1.5 }}
        value={sizes.find((s) => s.w === width && s.h === height)?.name ?? "own"}
        onChange={(e) => {
          const found = sizes.find((s) => s.name === e.target.value);
          if (found) onSet({ canvas_width_mm: found.w, canvas_height_mm: found.h }, `Canvas ${found.name}`);
        }}
      >
        {sizes.map((s) => (
          <MenuItem key={s.name} value={s.name}>
            {s.name}
          </MenuItem>
        ))}
        <MenuItem value="own">own size</MenuItem>
      </TextField>
      <Box sx={{ display: "flex", gap: 1, alignItems: "center", mb: 1 }}>
        <NumberField
          label="Width"
          unit="mm"
          value={width}
          least={10}
          most={5000}
          onChange={(v) => onSet({ canvas_width_mm: v }, `Canvas width ${v} mm`)}
        />
        <NumberField
          label="Height"
          unit="mm"
          value={height}
          least={10}
          most={5000}
          onChange={(v) => onSet({ canvas_height_mm: v }, `Canvas height ${v} mm`)}
        />
      </Box>
      <Button
        color="inherit"
        variant="outlined"
        fullWidth
        onClick={() => onSet({ canvas_width_mm: height, canvas_height_mm: width }, "Turn the canvas")}
      >
        Turn the canvas
      </Button>
      <Toggle label="This is my usual canvas" on={isUsual} onChange={(on) => void keep(on)} />
      <Say quiet>
        {isUsual
          ? "New sitters begin on it, laid as the photograph lies, the whole head inside."
          : usual
            ? `New sitters begin on ${usual.width_mm} × ${usual.height_mm} mm.`
            : "New sitters begin on the proportions of their photographs."}
      </Say>
    </Section>
  );
}
