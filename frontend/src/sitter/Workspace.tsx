import { Box } from "@mui/material";
import { useState, type ReactNode } from "react";
import { pictureUrl, type Sitter } from "../api/client";
import {
  useEdges,
  useFrame,
  useLadder,
  useOutlines,
  useRegionMap,
  useSitterLadder,
  useValues,
} from "../api/hooks";
import { Ladder } from "../picture/Ladder";
import { ways, type Look } from "../picture/look";
import { EdgesOverlay, GridOverlay, OutlinesOverlay, RegionsOverlay } from "../picture/Overlays";
import { PictureStage } from "../picture/PictureStage";
import { Tray } from "../picture/Tray";
import { usePointerValue } from "../picture/usePointerValue";
import type { Size } from "../picture/useView";
import { useLadderWay } from "./ladderWay";
import { useShortcuts } from "./shortcuts";
import { useWishes } from "./wall";

interface Over {
  sitter: Sitter;
  size: Size;
  px: number;
}

function OutlinesOf({ sitter, size, px }: Over) {
  const outlines = useOutlines(sitter);
  return outlines.data ? <OutlinesOverlay outlines={outlines.data} size={size} px={px} /> : null;
}

function EdgesOf({ sitter, size, px }: Over) {
  const edges = useEdges(sitter);
  return edges.data ? <EdgesOverlay edges={edges.data.edges} size={size} px={px} /> : null;
}

function RegionsOf({ sitter, size, px }: Over) {
  const map = useRegionMap(sitter);
  return map.data ? <RegionsOverlay map={map.data} size={size} px={px} /> : null;
}

interface Props {
  sitter: Sitter;
  look: Look;
  onLook: (look: Look) => void;
  /** The sheet of the open job. */
  children: ReactNode;
}

/** Ladder, wall, tray and sheet: the same in every stage; what the wall does is the open job's to say. */
export function Workspace({ sitter, look: chosen, onLook, children }: Props) {
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "104px minmax(0,1fr) 296px", lg: "118px minmax(0,1fr) 348px" },
        minHeight: 0,
        flex: 1,
      }}
    >
      <LadderOf sitter={sitter} look={chosen} onLook={onLook} />
      <Box
        component="aside"
        aria-label="Sheet"
        sx={{
          gridColumn: 3,
          gridRow: 1,
          borderLeft: 1,
          borderColor: "divider",
          bgcolor: "background.default",
          overflowY: "auto",
          px: 2.5,
          py: 2,
        }}
      >
        {children}
      </Box>
    </Box>
  );
}

/** Ladder and wall share the value under the pointer. */
function LadderOf({ sitter, look: chosen, onLook }: Omit<Props, "children">) {
  const wall = useWishes();
  const [{ count, of }] = useLadderWay();
  const whole = useLadder(sitter);
  const alone = useSitterLadder(sitter, of === "sitter");
  const ladder = of === "sitter" && alone.data?.some((v) => v > 0) ? alone : whole;
  const values = useValues(sitter);
  const pointer = usePointerValue(sitter);
  const [fitSignal, setFitSignal] = useState(0);
  const fit = () => setFitSignal((n) => n + 1);
  const tray = (next: Look) => onLook(wall.onTray ? wall.onTray(next) : next);
  useShortcuts({
    ...Object.fromEntries(ways.map((way) => [way.key, () => tray(way.press(chosen))])),
    "0": fit,
  });
  return (
    <>
      <Ladder
        histogram={ladder.data}
        cuts={wall.cuts ?? values.data?.plan.cuts ?? []}
        groups={values.data?.plan.groups ?? []}
        pointer={pointer.value}
        onDrag={wall.onDragCut}
        onDrop={wall.onDropCut}
        reach={wall.reach}
        count={count}
        locked={wall.locked ?? sitter.settings.values.locked}
      />
      <Box component="main" sx={{ display: "flex", flexDirection: "column", minHeight: 0, minWidth: 0 }}>
        {wall.instead ?? <WallOf sitter={sitter} look={chosen} fitSignal={fitSignal} read={pointer.read} />}
        {wall.below}
        {!wall.instead && (
          <Tray
            look={{ ...chosen, ...wall.force }}
            onPress={(way) => tray(way.press(chosen))}
            onFit={fit}
            standIn={typeof wall.picture === "string"}
          />
        )}
      </Box>
    </>
  );
}

interface WallProps {
  sitter: Sitter;
  look: Look;
  fitSignal: number;
  read: ReturnType<typeof usePointerValue>["read"];
}

function WallOf({ sitter, look: chosen, fitSignal, read }: WallProps) {
  const wall = useWishes();
  const frame = useFrame(sitter);
  const look = { ...chosen, ...wall.force };
  const { plain = false, overlay, tool = "pan" } = wall;
  const size = wall.size ?? { width: frame.data?.width ?? 1500, height: frame.data?.height ?? 2000 };
  const picture = wall.picture ?? pictureUrl(sitter, look.picture);
  const over = (px: number) => ({ sitter, size, px });
  return (
    <PictureStage
      label={`Picture of ${sitter.name}`}
      pictures={[picture, wall.veil ?? null]}
      beside={wall.beside ?? (look.beside && !plain ? pictureUrl(sitter, "colour") : null)}
      size={size}
      tool={tool}
      straight={wall.straight ?? false}
      mirror={look.mirror}
      upsideDown={look.upsideDown}
      fitSignal={fitSignal}
      busy={wall.busy ?? false}
      onPointer={
        plain
          ? () => undefined
          : (spot) => {
              read(spot);
              wall.onPointer?.(spot);
            }
      }
      {...(wall.strokeWidth === undefined ? {} : { strokeWidth: wall.strokeWidth })}
      {...(wall.onStroke ? { onStroke: wall.onStroke } : {})}
      {...(wall.onPick ? { onPick: wall.onPick } : {})}
      overlay={(px) => (
        <>
          {look.outlines && !plain && <OutlinesOf {...over(px)} />}
          {look.edges && !plain && <EdgesOf {...over(px)} />}
          {look.regions && !plain && <RegionsOf {...over(px)} />}
          {look.grid && !plain && frame.data && (
            <GridOverlay
              grid={frame.data.grid}
              canvasWidth={sitter.settings.reference.canvas_width_mm}
              size={size}
              px={px}
            />
          )}
          {overlay?.(px, size)}
        </>
      )}
    />
  );
}
