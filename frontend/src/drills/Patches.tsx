import { Box, type SxProps } from "@mui/material";
import type { ReactNode } from "react";
import { studio } from "../theme";

/** The neutral wall on which colours are judged. */
export function Wall({ children, sx }: { children: ReactNode; sx?: SxProps }) {
  return (
    <Box
      sx={{
        flex: 1,
        minHeight: 0,
        bgcolor: studio.day.wall,
        display: "flex",
        alignItems: "center",
        justifyContent: "center",
        gap: 4,
        p: 3,
        ...sx,
      }}
    >
      {children}
    </Box>
  );
}

/** A flat colour, large enough to be judged; what lies round it may be another one. */
export function Patch({ hex, around, size = 220 }: { hex: string; around?: string; size?: number }) {
  return (
    <Box sx={{ p: around ? 9 : 0, bgcolor: around ?? "transparent" }}>
      <Box
        data-colour={hex}
        sx={{ width: size, height: size, maxWidth: "20vw", maxHeight: "20vw", bgcolor: hex }}
      />
    </Box>
  );
}
