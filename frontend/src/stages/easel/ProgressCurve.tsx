import { Box, useTheme } from "@mui/material";
import type { Schemas } from "../../api/client";
import { textSize } from "../../theme";

const W = 300;
const H = 110;
const PAD = 18;

/** How far the painting was from finished at each photograph. */
export function ProgressCurve({ points }: { points: Schemas["ProgressOut"][] }) {
  const ink = useTheme().palette.text.primary;
  const most = Math.max(...points.map((p) => p.error), 0.1);
  const at = (i: number, error: number) =>
    [
      PAD + (i * (W - 2 * PAD)) / Math.max(1, points.length - 1),
      H - PAD - (error / most) * (H - 2 * PAD),
    ] as const;
  const line = points.map((p, i) => at(i, p.error).join(",")).join(" ");
  return (
    <Box sx={{ mt: 1 }}>
      <svg
        viewBox={`0 0 ${W} ${H}`}
        width="100%"
        role="img"
        aria-label={`Steps from finished: ${points.map((p) => `${p.taken_at} ${p.error.toFixed(2)}`).join(", ")}`}
      >
        <line x1={PAD} y1={H - PAD} x2={W - PAD} y2={H - PAD} stroke={ink} strokeWidth={0.5} />
        <polyline points={line} fill="none" stroke={ink} strokeWidth={1.5} />
        {points.map((p, i) => {
          const [x, y] = at(i, p.error);
          return (
            <g key={p.painting}>
              <rect x={x - 3} y={y - 3} width={6} height={6} fill={ink} />
              <text x={x} y={y - 7} fontSize={11} textAnchor="middle" fill={ink}>
                {p.error.toFixed(2)}
              </text>
              <text x={x} y={H - 4} fontSize={10.5} textAnchor="middle" fill={ink}>
                {p.taken_at.slice(5)}
              </text>
            </g>
          );
        })}
      </svg>
      <Box sx={{ fontSize: textSize.fine, color: "text.secondary" }}>
        Mean distance from the finished canvas, in value steps, at each photograph.
      </Box>
    </Box>
  );
}
