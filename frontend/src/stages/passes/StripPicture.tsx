import { Box } from "@mui/material";
import { base, type Sitter } from "../../api/client";

/** Pictures side by side in the strip, as the server lays them out. */
const COLUMNS = 8;

interface Props {
  sitter: Sitter;
  /** Pass whose canvas is shown, from 1, and how many there are. */
  number: number;
  of: number;
  /** One of both; the other follows from the canvas. */
  width?: number | string;
  height?: number;
  /** What the picture shows, for those who do not see it; empty where a name stands beside it. */
  name?: string;
}

/** One small canvas, cut out of the picture that holds all of them: one answer serves the whole strip. */
export function StripPicture({ sitter, number, of, width, height, name = "" }: Props) {
  const { canvas_width_mm, canvas_height_mm } = sitter.settings.reference;
  const rows = Math.ceil(of / COLUMNS);
  const [row, column] = [Math.floor((number - 1) / COLUMNS), (number - 1) % COLUMNS];
  const part = (n: number, all: number) => (all > 1 ? `${(n / (all - 1)) * 100}%` : "0%");
  return (
    <Box
      role={name ? "img" : undefined}
      aria-label={name || undefined}
      sx={{ width, height, aspectRatio: `${canvas_width_mm} / ${canvas_height_mm}` }}
      style={{
        backgroundImage: `url("${base(sitter.id)}/passes/strip?v=${sitter.keys["passes/strip"] ?? ""}")`,
        backgroundSize: `${COLUMNS * 100}% ${rows * 100}%`,
        backgroundPosition: `${part(column, COLUMNS)} ${part(row, rows)}`,
      }}
    />
  );
}
