import { Box } from "@mui/material";
import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";

type Vector = [number, number, number];

interface Props {
  picture: string;
  light: Vector;
  words: string;
  onLight: (light: Vector) => void;
}

const SIDE = 168;
/** Past its rim the ball is lit from behind: so far out, in radii, it is lit from straight behind. */
const BEHIND = 1.6;

/** Where on the ball, or round it, the light stands: (x right, y down) in radii. */
const spotOf = ([x, y, z]: Vector): [number, number] => {
  const flat = Math.hypot(x, y);
  if (flat < 1e-6) return [0, z < 0 ? BEHIND : 0];
  const out = z >= 0 ? flat : 1 + (1 - flat) * (BEHIND - 1);
  return [(x / flat) * out, (-y / flat) * out];
};

/** The light that stands at a spot. */
const lightAt = (x: number, y: number): Vector => {
  const out = Math.min(BEHIND, Math.hypot(x, y));
  const way = Math.max(1e-6, Math.hypot(x, y));
  const flat = out <= 1 ? out : 1 - (out - 1) / (BEHIND - 1);
  const depth = Math.sqrt(Math.max(0, 1 - flat * flat)) * (out <= 1 ? 1 : -1);
  return [(x / way) * flat, (-y / way) * flat, depth];
};

const STEP = 0.06;
const ways: Record<string, [number, number]> = {
  ArrowLeft: [-STEP, 0],
  ArrowRight: [STEP, 0],
  ArrowUp: [0, -STEP],
  ArrowDown: [0, STEP],
};

/** A ball lit as the sitter is; its light is dragged, or moved with the arrow keys. */
export function Ball({ picture, light, words, onLight }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const [held, setHeld] = useState<Vector | null>(null);
  const [x, y] = spotOf(held ?? light);
  const at = (event: PointerEvent) => {
    const bounds = box.current?.getBoundingClientRect();
    if (!bounds) return light;
    const radius = SIDE / 2;
    return lightAt(
      (event.clientX - bounds.left - bounds.width / 2) / radius,
      (event.clientY - bounds.top - bounds.height / 2) / radius,
    );
  };
  const press = (event: KeyboardEvent) => {
    const way = ways[event.key];
    if (!way) return;
    event.preventDefault();
    event.stopPropagation();
    onLight(lightAt(x + way[0], y + way[1]));
  };
  return (
    <Box
      ref={box}
      role="slider"
      tabIndex={0}
      aria-label="Key light"
      aria-valuemin={-180}
      aria-valuemax={180}
      aria-valuenow={Math.round((Math.atan2(-y, x) * 180) / Math.PI)}
      aria-valuetext={words}
      onKeyDown={press}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        setHeld(at(e));
      }}
      onPointerMove={(e) => held && setHeld(at(e))}
      onPointerUp={() => {
        if (held) onLight(held);
        setHeld(null);
      }}
      onPointerCancel={() => setHeld(null)}
      sx={{
        width: "100%",
        height: SIDE * BEHIND,
        display: "grid",
        placeItems: "center",
        position: "relative",
        bgcolor: "#919191",
        touchAction: "none",
        cursor: "grab",
        mb: 1,
        overflow: "hidden",
      }}
    >
      <img src={picture} alt="" width={SIDE} height={SIDE} draggable={false} />
      <Box
        aria-hidden
        data-testid="light"
        sx={{
          position: "absolute",
          left: `calc(50% + ${(x * SIDE) / 2 - 11}px)`,
          top: `calc(50% + ${(y * SIDE) / 2 - 11}px)`,
          width: 22,
          height: 22,
          borderRadius: "50%",
          border: "2px solid #000",
          outline: "2px solid #fff",
          bgcolor: Math.hypot(x, y) > 1 ? "#000" : "#fff",
        }}
      />
    </Box>
  );
}
