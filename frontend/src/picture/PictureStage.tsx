import { Box, LinearProgress, useTheme } from "@mui/material";
import type Konva from "konva";
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState, type ReactNode } from "react";
import { Group, Image as KonvaImage, Layer, Stage } from "react-konva";
import { studio } from "../theme";
import { useCursor } from "./useCursor";
import { useImage } from "./useImage";
import type { Spot } from "./spots";
import { Cross, Stroke, Trouble } from "./OnTheWall";
import { usePointers, type Place } from "./usePointers";
import { useWheelZoom } from "./useWheelZoom";
import { useView, type Size } from "./useView";

interface Props {
  /** The picture, and a transparent one laid over the same frame. */
  pictures: (string | null)[];
  /** A second picture to the right of the first, with a gap between. */
  beside?: string | null;
  /** Size of the frame in picture pixels. */
  size: Size;
  mirror?: boolean;
  upsideDown?: boolean;
  /** What a press does: move the picture, draw a stroke, or pick a spot. */
  tool: "pan" | "draw" | "pick";
  strokeWidth?: number;
  onStroke?: (points: Spot[]) => void;
  onPick?: (spot: Spot) => void;
  /** A stroke is a straight line from where it began. */
  straight?: boolean;
  onPointer?: (spot: Spot | null) => void;
  /** Drawn over the pictures, in picture pixels; `px` is the size of a screen pixel. */
  overlay?: (px: number) => ReactNode;
  /** Raised from outside to fit the picture again. */
  fitSignal: number;
  busy?: boolean;
  label: string;
}

/** The second picture begins so many picture widths to the right. */
const GAP = 1.02;

/** The wall: one picture with its layers, moved by wheel, pinch, drag and keys. */
export function PictureStage(props: Props) {
  const {
    pictures,
    size,
    mirror = false,
    upsideDown = false,
    tool,
    strokeWidth = 3,
    onStroke,
    straight = false,
    onPick,
    onPointer,
    overlay,
    fitSignal,
    label,
  } = props;
  const dim = useTheme().palette.mode === "dark";
  const box = useRef<HTMLDivElement>(null);
  const group = useRef<Konva.Group>(null);
  const [wall, setWall] = useState<Size>({ width: 600, height: 500 });
  const beside = useImage(props.beside ?? null);
  const twice = Boolean(props.beside);
  const picture = useMemo(() => ({ width: size.width, height: size.height }), [size.width, size.height]);
  const both = useMemo(
    () => ({ width: size.width * (twice ? 1 + GAP : 1), height: size.height }),
    [size.width, size.height, twice],
  );
  const { view, fit, zoomAt, panBy } = useView(wall, both);
  const bottom = useImage(pictures[0] ?? null);
  const middle = useImage(pictures[1] ?? null);
  const layers = [bottom, middle];
  const cursor = useCursor({
    tool,
    straight,
    mirror,
    upsideDown,
    onPick,
    onStroke,
    onMove: onPointer,
  });
  const space = useRef(false);

  useLayoutEffect(() => {
    const element = box.current;
    if (!element) return;
    const watch = new ResizeObserver(() =>
      setWall({ width: element.clientWidth, height: element.clientHeight }),
    );
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  useEffect(() => fit(), [fit, fitSignal, twice]);

  const spotAt = useCallback(
    (place: Place): Spot => {
      const at = group.current?.getAbsoluteTransform().copy().invert().point(place) ?? { x: 0, y: 0 };
      const across = at.x / picture.width;
      return [across > GAP ? across - GAP : across, at.y / picture.height];
    },
    [picture],
  );
  const { stroke, handlers } = usePointers({
    tool,
    straight,
    held: () => space.current,
    spotAt,
    zoomAt,
    panBy,
    onPick,
    onStroke,
    onPointer,
  });
  useWheelZoom(box, zoomAt);

  const key = (e: React.KeyboardEvent, isDown: boolean) => {
    if (e.key === " ") {
      space.current = isDown;
      e.preventDefault();
    }
    if (!isDown || e.ctrlKey || e.metaKey || e.altKey || (e.key === " " && !space.current)) return;
    const middleOf = { x: wall.width / 2, y: wall.height / 2 };
    const steps: Record<string, () => void> = {
      "+": () => zoomAt(1.25, middleOf),
      "=": () => zoomAt(1.25, middleOf),
      "-": () => zoomAt(0.8, middleOf),
      ArrowLeft: () => panBy(60, 0),
      ArrowRight: () => panBy(-60, 0),
      ArrowUp: () => panBy(0, 60),
      ArrowDown: () => panBy(0, -60),
    };
    if (cursor.key(e.key, e.shiftKey)) {
      e.preventDefault();
      return;
    }
    const step = steps[e.key];
    if (step) {
      step();
      e.preventDefault();
    }
  };

  const px = 1 / view.scale;
  const busy = props.busy || layers.some((l) => l.loading) || beside.loading;
  const troubled = [...layers, beside].find((l) => l.trouble !== null);
  const drawn = stroke.length > 1 ? stroke : cursor.stroke;
  const line = drawn.flatMap(([x, y]) => [x * picture.width, y * picture.height]);
  return (
    <Box
      ref={box}
      tabIndex={0}
      role="application"
      aria-label={label}
      aria-description={hints[tool]}
      aria-busy={busy}
      data-tool={tool}
      {...handlers}
      onKeyDown={(e) => key(e, true)}
      onKeyUp={(e) => key(e, false)}
      sx={{
        position: "relative",
        flex: 1,
        minHeight: 0,
        overflow: "hidden",
        touchAction: "none",
        bgcolor: dim ? studio.dim.wall : studio.day.wall,
        cursor: tool === "pan" ? "grab" : "crosshair",
        "&:focus-visible": { outlineOffset: -2 },
      }}
    >
      {troubled && <Trouble words={troubled.trouble} onAgain={troubled.again} />}
      {busy && (
        <LinearProgress
          color="inherit"
          aria-label="Working"
          sx={{ position: "absolute", top: 0, left: 0, right: 0, zIndex: 1 }}
        />
      )}
      <Stage width={wall.width} height={wall.height}>
        <Layer>
          <Group
            ref={group}
            x={view.x}
            y={view.y}
            offsetX={both.width / 2}
            offsetY={picture.height / 2}
            scaleX={view.scale * (mirror ? -1 : 1)}
            scaleY={view.scale}
            rotation={upsideDown ? 180 : 0}
          >
            {layers.map(
              (layer, i) =>
                layer.image && (
                  <KonvaImage
                    key={i}
                    image={layer.image}
                    width={picture.width}
                    height={picture.height}
                    listening={false}
                  />
                ),
            )}
            {twice && beside.image && (
              <KonvaImage
                image={beside.image}
                x={GAP * picture.width}
                width={picture.width}
                height={picture.height}
                listening={false}
              />
            )}
            {overlay?.(px)}
            {drawn.length > 1 && <Stroke points={line} width={strokeWidth} px={px} />}
            {cursor.at && (
              <Cross
                x={cursor.at[0] * picture.width}
                y={cursor.at[1] * picture.height}
                px={px}
                down={cursor.stroke.length > 0}
              />
            )}
          </Group>
        </Layer>
      </Stage>
    </Box>
  );
}

const hints = {
  pan: "Arrow keys move the picture, plus and minus zoom.",
  pick: "Arrow keys move a cross, with Shift in fine steps; Enter picks.",
  draw: "Arrow keys move a cross, with Shift in fine steps; Enter begins and ends a stroke, Escape lets go.",
} as const;
