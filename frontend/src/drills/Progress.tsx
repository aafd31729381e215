import { Box } from "@mui/material";
import { shown, type Drill } from "./useDrills";

const WIDTH = 150;
const HEIGHT = 46;
const MOST = 12;

/** How good the eye was in each of the last goes, with standard errors; lower is better. */
export function Progress({ drill }: { drill: Drill }) {
  const goes = drill.goes.slice(-MOST);
  if (goes.length === 0) return <Box />;
  const top = Math.max(...goes.map((g) => g.threshold + g.error));
  const x = (n: number) => (goes.length === 1 ? WIDTH / 2 : 6 + (n * (WIDTH - 12)) / (goes.length - 1));
  const y = (value: number) => HEIGHT - 4 - (value / top) * (HEIGHT - 8);
  const said = goes.map((g) => `${shown(g.threshold)} ± ${shown(g.error)}`).join(", ");
  return (
    <svg width={WIDTH} height={HEIGHT} role="img" aria-label={`Goes, oldest first: ${said} ${drill.unit}`}>
      <line x1={0} x2={WIDTH} y1={HEIGHT - 4} y2={HEIGHT - 4} stroke="currentColor" opacity={0.3} />
      <polyline
        points={goes.map((g, n) => `${x(n)},${y(g.threshold)}`).join(" ")}
        fill="none"
        stroke="currentColor"
        opacity={0.5}
      />
      {goes.map((g, n) => (
        <g key={g.at} stroke="currentColor">
          <line
            x1={x(n)}
            x2={x(n)}
            y1={y(g.threshold + g.error)}
            y2={y(Math.max(0, g.threshold - g.error))}
          />
          <circle cx={x(n)} cy={y(g.threshold)} r={2.5} fill="currentColor" />
        </g>
      ))}
    </svg>
  );
}
