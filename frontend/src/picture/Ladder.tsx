import { Box, useTheme } from "@mui/material";
import { useLayoutEffect, useRef, useState } from "react";
import { counted, type LadderWay } from "../sitter/ladderWay";
import { studio } from "../theme";

interface Props {
  /** Share of the picture in equal steps of value from 0 to 10. */
  histogram: number[] | undefined;
  cuts: number[];
  groups: { name: string; value: number }[];
  /** Value under the pointer. */
  pointer: number | null;
  /** While a rung is dragged, and when it is let go; without it the rungs stand fast. */
  onDrag?: ((cuts: number[]) => void) | undefined;
  onDrop?: ((cuts: number[]) => void) | undefined;
  reach?: { darkest: number; lightest: number } | undefined;
  count?: LadderWay["count"];
  /** Values of cuts that stay while others are fitted. */
  locked?: number[] | undefined;
}

const LEAST_GAP = 0.1;
const TOP = 14;

/** The value ladder: light at the top, the picture's values as a profile, the cuts as rungs. */
export function Ladder({
  histogram,
  cuts,
  groups,
  pointer,
  onDrag,
  onDrop,
  reach,
  count = "up",
  locked = [],
}: Props) {
  const dim = useTheme().palette.mode === "dark";
  const tone = dim ? studio.dim : studio.day;
  const svg = useRef<SVGSVGElement>(null);
  const [held, setHeld] = useState<{ index: number; cuts: number[] } | null>(null);
  const shown = held?.cuts ?? cuts;
  const [height, setHeight] = useState(560);
  const width = 118;
  useLayoutEffect(() => {
    const element = svg.current;
    if (!element) return;
    const watch = new ResizeObserver(() =>
      setHeight(Math.max(200, (element.clientHeight * width) / Math.max(1, element.clientWidth))),
    );
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  const y = (value: number) => TOP + (1 - value / 10) * (height - 2 * TOP);
  const most = Math.max(...(histogram ?? [1]), 1e-6);

  const moved = (index: number, value: number) => {
    const low = (shown[index - 1] ?? 0) + LEAST_GAP;
    const high = (shown[index + 1] ?? 10) - LEAST_GAP;
    const next = [...shown];
    next[index] = Math.round(Math.min(high, Math.max(low, value)) * 100) / 100;
    return next;
  };
  const valueAt = (clientY: number) => {
    const rect = svg.current?.getBoundingClientRect();
    if (!rect) return 0;
    const at = ((clientY - rect.top) / rect.height) * height;
    return (1 - (at - TOP) / (height - 2 * TOP)) * 10;
  };

  return (
    <Box
      sx={{
        bgcolor: "background.default",
        borderRight: 1,
        borderColor: "divider",
        py: 1,
        minHeight: 0,
        display: "flex",
      }}
    >
      <svg
        ref={svg}
        viewBox={`0 0 ${width} ${height}`}
        preserveAspectRatio="none"
        style={{ width: "100%", height: "100%", touchAction: "none", userSelect: "none" }}
        aria-label="Value ladder"
        role="group"
        onPointerMove={(e) => {
          if (!held) return;
          const next = moved(held.index, valueAt(e.clientY));
          setHeld({ index: held.index, cuts: next });
          onDrag?.(next);
        }}
        onPointerUp={() => {
          if (held) onDrop?.(held.cuts);
          setHeld(null);
        }}
        onPointerCancel={() => {
          if (held) onDrag?.(cuts);
          setHeld(null);
        }}
      >
        {Array.from({ length: 20 }, (_, i) => (
          <rect
            key={i}
            x={0}
            width={22}
            y={y((i + 1) / 2)}
            height={y(i / 2) - y((i + 1) / 2) + 0.5}
            fill={stepGrey((i + 0.5) / 2)}
          />
        ))}
        {histogram?.map((share, i) => {
          const step = 10 / histogram.length;
          const long = Math.sqrt(share / most) * 56;
          return share > 0 ? (
            <rect
              key={i}
              x={24}
              width={long}
              y={y((i + 1) * step)}
              height={(height - 2 * TOP) / histogram.length + 0.3}
              fill={tone.faint}
              opacity={0.55}
            />
          ) : null;
        })}
        {Array.from(
          { length: 11 },
          (_, v) =>
            (count === "up" || (v > 0 && v < 10)) && (
              <text key={v} x={width - 3} y={y(v) + 4} textAnchor="end" fontSize={12} fill={tone.faint}>
                {counted(v, count)}
              </text>
            ),
        )}
        {reach &&
          [reach.darkest, reach.lightest].map((v, i) => (
            <g key={i}>
              <path
                d={i ? `M22 ${y(v)}h62m-62 0v-7` : `M22 ${y(v)}h62m-62 0v7`}
                stroke={tone.ink}
                strokeWidth={1}
                strokeDasharray="2 3"
                fill="none"
              />
              <text x={82} y={y(v) + (i ? -3 : 11)} textAnchor="end" fontSize={11} fill={tone.ink}>
                paint
              </text>
            </g>
          ))}
        {groups.map((g, i) => {
          const low = shown[i - 1] ?? 0;
          const high = shown[i] ?? 10;
          return y(low) - y(high) > 15 ? (
            <text
              key={i}
              x={27}
              y={(y(low) + y(high)) / 2 + 4}
              fontSize={12.5}
              fontWeight={600}
              fill={tone.ink}
              stroke={tone.paper}
              strokeWidth={3}
              paintOrder="stroke"
            >
              {i + 1} {g.name}
            </text>
          ) : null;
        })}
        {shown.map((cut, i) => (
          <g
            key={i}
            data-cut={i}
            {...(onDrop ? slider(i, cut, counted(cut, count)) : {})}
            style={{ cursor: onDrop ? "ns-resize" : "default" }}
            onPointerDown={(e) => {
              if (!onDrop) return;
              svg.current?.setPointerCapture(e.pointerId);
              setHeld({ index: i, cuts: [...cuts] });
            }}
            onKeyDown={(e) => {
              const by = { ArrowUp: 0.1, ArrowDown: -0.1, PageUp: 0.5, PageDown: -0.5 }[e.key];
              if (!onDrop || by === undefined) return;
              e.preventDefault();
              onDrop(moved(i, cut + by));
            }}
          >
            <rect x={0} y={y(cut) - 12} width={width} height={24} fill="transparent" />
            <line x1={0} x2={96} y1={y(cut)} y2={y(cut)} stroke={tone.paper} strokeWidth={4} />
            <line
              x1={0}
              x2={96}
              y1={y(cut)}
              y2={y(cut)}
              stroke={tone.ink}
              strokeWidth={held?.index === i ? 3 : 1.6}
            />
            {onDrop && (
              <rect
                x={84}
                y={y(cut) - 7}
                width={12}
                height={14}
                fill={locked.some((v) => Math.abs(v - cut) < 0.006) ? tone.ink : tone.raised}
                stroke={tone.ink}
              />
            )}
            {held?.index === i && (
              <text x={80} y={y(cut) - 5} textAnchor="end" fontSize={13} fontWeight={700} fill={tone.ink}>
                {counted(cut, count).toFixed(2)}
              </text>
            )}
          </g>
        ))}
        {pointer !== null && (
          <g pointerEvents="none">
            <path d={`M24 ${y(pointer)}l-9 -6v12z`} fill={tone.ink} stroke={tone.paper} />
            <text
              x={28}
              y={y(pointer) + 5}
              fontSize={14}
              fontWeight={700}
              fill={tone.ink}
              stroke={tone.paper}
              strokeWidth={4}
              paintOrder="stroke"
            >
              {counted(pointer, count).toFixed(1)}
            </text>
          </g>
        )}
      </svg>
    </Box>
  );
}

/** What a rung says of itself to those who cannot see it. */
const slider = (index: number, cut: number, shown: number) =>
  ({
    role: "slider",
    tabIndex: 0,
    "aria-label": `Cut ${index + 1}`,
    "aria-orientation": "vertical",
    "aria-valuemin": 0,
    "aria-valuemax": 10,
    "aria-valuenow": cut,
    "aria-valuetext": `value ${shown.toFixed(1)}`,
  }) as const;

/** Screen greys of half value steps, darkest first (sRGB of the Munsell neutrals). */
const GREYS = [10, 23, 33, 43, 54, 64, 75, 86, 98, 110, 122, 134, 147, 160, 173, 186, 200, 214, 228, 244];

function stepGrey(value: number): string {
  const grey = GREYS[Math.min(19, Math.max(0, Math.floor(value * 2)))] ?? 128;
  return `rgb(${grey} ${grey} ${grey})`;
}
