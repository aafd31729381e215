import { Box } from "@mui/material";
import { studio, textSize } from "../theme";
import type { Patches, RackTube } from "./useRack";

interface Props {
  tube: RackTube;
  /** Readings that are not taken in yet. */
  pending: Patches | null;
  labels: Record<string, string>;
  dim: boolean;
}

/** The tube's patches, large, on the neutral wall: as the library has them, as predicted now, and as read. */
export function SwatchWall({ tube, pending, labels, dim }: Props) {
  const names = Object.keys(labels).filter((name) => !tube.white || name === "masstone");
  const current = tube.readings.find((r) => r.id === tube.reading);
  const read = (name: string) => pending?.[name]?.hex ?? current?.hexes[name];
  return (
    <Box
      sx={{
        height: "100%",
        overflow: "auto",
        bgcolor: dim ? studio.dim.wall : studio.day.wall,
        color: dim ? studio.dim.ink : studio.day.ink,
        p: { xs: 2, lg: 4 },
        display: "grid",
        gridTemplateColumns: `repeat(${names.length === 1 ? 1 : 2}, minmax(0, 1fr))`,
        gap: 3,
        alignContent: "center",
      }}
    >
      {names.map((name) => (
        <Box key={name}>
          <Box
            role="img"
            aria-label={[
              `${name}: typical ${tube.typical[name] ?? ""}`,
              `predicted ${tube.predicted[name] ?? ""}`,
              ...(read(name) ? [`read ${read(name)}`] : []),
            ].join(", ")}
            sx={{ display: "flex", height: { xs: 150, lg: 190 } }}
          >
            <Dab hex={tube.typical[name]} words="library" />
            {tube.swatches && <Dab hex={tube.predicted[name]} words="fitted" />}
            {read(name) && <Dab hex={read(name)} words={pending ? "read just now" : "read"} />}
          </Box>
          <Box sx={{ mt: 0.6, fontSize: textSize.small, fontWeight: 600 }}>{labels[name]}</Box>
        </Box>
      ))}
    </Box>
  );
}

function Dab({ hex, words }: { hex: string | undefined; words: string }) {
  return (
    <Box sx={{ flex: 1, minWidth: 0, display: "flex", flexDirection: "column" }}>
      <Box sx={{ flex: 1, bgcolor: hex }} />
      <Box sx={{ fontSize: textSize.fine, pt: 0.3 }}>{words}</Box>
    </Box>
  );
}
