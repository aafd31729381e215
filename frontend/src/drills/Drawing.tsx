import { Box, Button } from "@mui/material";
import { useRef, useState, type PointerEvent } from "react";
import { pictureUrl } from "../api/client";
import { useFrame } from "../api/hooks";
import { useShortcuts } from "../sitter/shortcuts";
import type { FieldProps } from "./AnswerField";
import { Wall } from "./Patches";
import { stroked, type Mark } from "./strokes";
import type { Spot } from "./useDrills";

/** Places are marked or lines drawn, on the picture or into an empty frame beside the line to copy. */
export function Drawing({ drill, question, sitter, score, busy, onAnswer }: FieldProps) {
  const frame = useFrame(sitter);
  const [spots, setSpots] = useState<Spot[]>([]);
  const [lines, setLines] = useState<Mark[][]>([]);
  const [cursor, setCursor] = useState<Spot | null>(null);
  const drawing = useRef(false);
  const [penDown, setPenDown] = useState(false);
  const done = busy || score !== null;
  const aspect = frame.data ? frame.data.width / frame.data.height : 0.8;
  const marks = drill.answered === "points";
  const many = drill.answered === "shapes";
  const ready = marks ? spots.length === question.count : lines.some((l) => l.length > 2);

  const at = (e: PointerEvent<SVGSVGElement>): Spot => {
    const box = e.currentTarget.getBoundingClientRect();
    return [(e.clientX - box.left) / box.width, (e.clientY - box.top) / box.height];
  };
  const mark = (spot: Spot) => setSpots((all) => [...all, spot].slice(-question.count));
  const down = (e: PointerEvent<SVGSVGElement>) => {
    if (done) return;
    const spot = at(e);
    if (marks) {
      mark(spot);
      return;
    }
    e.currentTarget.setPointerCapture(e.pointerId);
    drawing.current = true;
    const first: Mark = { at: spot, time: e.timeStamp, pressure: e.pressure };
    setLines((all) => (many ? [...all, [first]] : [[first]]));
  };
  const move = (e: PointerEvent<SVGSVGElement>) => {
    if (!drawing.current || done) return;
    const next: Mark = { at: at(e), time: e.timeStamp, pressure: e.pressure };
    setLines((all) => [...all.slice(0, -1), [...(all.at(-1) ?? []), next]]);
  };
  const back = () => (marks ? setSpots(spots.slice(0, -1)) : setLines(lines.slice(0, -1)));
  const say = () => {
    if (!ready || done) return;
    if (marks) onAnswer({ points: spots });
    else if (many) onAnswer({ shapes: lines.map((l) => thinned(l).map((m) => m.at)) });
    else {
      const line = thinned(lines[0] ?? []);
      onAnswer({ points: line.map((m) => m.at), widths: drill.answered === "stroke" ? stroked(line) : [] });
    }
  };
  const here: Spot = cursor ?? question.at ?? [0.5, 0.5];
  const point = (spot: Spot): Mark => ({ at: spot, time: performance.now(), pressure: 0.5 });
  // By keyboard: the arrows move a cross, the space bar marks a place, or puts the pen down and lifts it.
  const step = (dx: number, dy: number) => {
    const clip = (v: number) => Math.min(1, Math.max(0, v));
    const next: Spot = [clip(here[0] + dx), clip(here[1] + dy)];
    setCursor(next);
    if (penDown) setLines((all) => [...all.slice(0, -1), [...(all.at(-1) ?? []), point(next)]]);
  };
  const pen = () => {
    if (marks) {
      mark(here);
      return;
    }
    setCursor(here);
    if (!penDown) setLines((all) => (many ? [...all, [point(here)]] : [[point(here)]]));
    setPenDown(!penDown);
  };
  useShortcuts(
    done
      ? {}
      : {
          backspace: back,
          enter: say,
          arrowleft: () => step(-0.02, 0),
          arrowright: () => step(0.02, 0),
          arrowup: () => step(0, -0.02),
          arrowdown: () => step(0, 0.02),
          " ": pen,
        },
  );

  const field = {
    height: "100%",
    aspectRatio: String(aspect),
    position: "relative",
    bgcolor: "#b5b5b5",
  } as const;
  return (
    <>
      <Wall>
        {question.line.length > 0 && (
          <Box sx={field} aria-label="Line to copy">
            <Lines>
              <polyline points={flat(question.line)} fill="none" stroke="#1a1a1a" strokeWidth={0.006} />
            </Lines>
          </Box>
        )}
        <Box sx={field}>
          {question.pictured && (
            <Box
              component="img"
              src={pictureUrl(sitter, "colour")}
              alt=""
              draggable={false}
              sx={{ position: "absolute", inset: 0, width: "100%", height: "100%" }}
            />
          )}
          <Lines
            label={marks ? "Mark places here" : "Draw here"}
            onPointerDown={down}
            onPointerMove={move}
            onPointerUp={() => (drawing.current = false)}
            onPointerCancel={() => (drawing.current = false)}
          >
            {question.at && <Ring at={question.at} />}
            {cursor && !done && <Ring at={cursor} thin />}
            {lines.map((l, i) => (
              <Both key={i} points={flat(l.map((m) => m.at))} close={many && !drawing.current} />
            ))}
            {spots.map((s, i) => (
              <Cross key={i} at={s} />
            ))}
            {score?.lines.map((l, i) => (
              <Both key={`t${i}`} points={flat(l)} dashed />
            ))}
            {score?.points.map((s, i) => (
              <Ring key={`p${i}`} at={s} />
            ))}
          </Lines>
        </Box>
      </Wall>
      <Box sx={{ display: "flex", gap: 1, px: 4, py: 1.5, justifyContent: "flex-end" }}>
        <Button color="inherit" disabled={done || (marks ? spots : lines).length === 0} onClick={back}>
          Take back
        </Button>
        <Button variant="contained" disableElevation disabled={done || !ready} onClick={say}>
          That is it
        </Button>
      </Box>
    </>
  );
}

const flat = (points: Spot[]) => points.map(([x, y]) => `${x},${y}`).join(" ");

/** No more points than can be told apart. */
function thinned(line: Mark[]): Mark[] {
  const every = Math.max(1, Math.ceil(line.length / 400));
  return line.filter((_, i) => i % every === 0 || i === line.length - 1);
}

interface LinesProps extends React.SVGProps<SVGSVGElement> {
  label?: string;
}

function Lines({ label, children, ...events }: LinesProps) {
  return (
    <svg
      viewBox="0 0 1 1"
      preserveAspectRatio="none"
      aria-label={label}
      role="img"
      {...events}
      style={{ position: "absolute", inset: 0, width: "100%", height: "100%", touchAction: "none" }}
    >
      {children}
    </svg>
  );
}

/** A line that is seen on light and on dark. */
function Both({
  points,
  dashed = false,
  close = false,
}: {
  points: string;
  dashed?: boolean;
  close?: boolean;
}) {
  const shared = {
    points,
    fill: close ? "rgba(255,255,255,0.18)" : "none",
    vectorEffect: "non-scaling-stroke",
    ...(dashed ? { strokeDasharray: "8 6" } : {}),
  } as const;
  return (
    <>
      <polyline {...shared} stroke="#000" strokeWidth={4} />
      <polyline {...shared} stroke="#fff" strokeWidth={1.8} />
    </>
  );
}

function Ring({ at, thin = false }: { at: Spot; thin?: boolean }) {
  const shared = {
    cx: at[0],
    cy: at[1],
    rx: 0.016,
    ry: 0.013,
    fill: "none",
    vectorEffect: "non-scaling-stroke",
  } as const;
  return (
    <>
      <ellipse {...shared} stroke="#000" strokeWidth={thin ? 2.5 : 4} />
      <ellipse {...shared} stroke="#fff" strokeWidth={thin ? 1 : 1.8} />
    </>
  );
}

function Cross({ at: [x, y] }: { at: Spot }) {
  return (
    <>
      <Both points={`${x - 0.015},${y} ${x + 0.015},${y}`} />
      <Both points={`${x},${y - 0.012} ${x},${y + 0.012}`} />
    </>
  );
}
