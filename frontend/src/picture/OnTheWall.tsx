import { Box, Button } from "@mui/material";
import { Group, Line } from "react-konva";

/** A picture that did not come, and the way to ask again. */
export function Trouble({ words, onAgain }: { words: string | null; onAgain: () => void }) {
  return (
    <Box
      role="alert"
      sx={{
        position: "absolute",
        inset: 0,
        zIndex: 1,
        display: "grid",
        placeContent: "center",
        justifyItems: "center",
        gap: 1,
        p: 3,
        textAlign: "center",
        pointerEvents: "none",
      }}
    >
      <Box
        sx={{
          bgcolor: "background.default",
          color: "text.primary",
          p: 2,
          maxWidth: 420,
          pointerEvents: "auto",
        }}
      >
        {words}
        <Button
          color="inherit"
          variant="outlined"
          onClick={onAgain}
          sx={{ display: "block", mx: "auto", mt: 1 }}
        >
          Try again
        </Button>
      </Box>
    </Box>
  );
}

/** A stroke under way: dark within light, so that it shows on every value. */
export function Stroke({ points, width, px }: { points: number[]; width: number; px: number }) {
  const thick = Math.max(width, 3 * px);
  const ends = { listening: false, points, lineCap: "round", lineJoin: "round" } as const;
  return (
    <>
      <Line {...ends} stroke="#ffffff" strokeWidth={thick + 2 * px} />
      <Line {...ends} stroke="#111111" strokeWidth={thick} />
    </>
  );
}

/** Where the keys stand on the picture. */
export function Cross({ x, y, px, down }: { x: number; y: number; px: number; down: boolean }) {
  const arm = 14 * px;
  const lines = [
    [x - arm, y, x + arm, y],
    [x, y - arm, x, y + arm],
  ];
  return (
    <Group listening={false} name="cursor">
      {lines.map((points, i) => (
        <Line key={i} points={points} stroke="#ffffff" strokeWidth={(down ? 5 : 4) * px} />
      ))}
      {lines.map((points, i) => (
        <Line key={`k${i}`} points={points} stroke="#000000" strokeWidth={(down ? 2.5 : 1.5) * px} />
      ))}
    </Group>
  );
}
