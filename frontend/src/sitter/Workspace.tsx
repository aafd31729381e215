import { Box } from "@mui/material";
import { useEffect, useState, type ReactNode } from "react";
import { pictureUrl, type Sitter } from "../api/client";
import { useEdges, useFrame, useLadder, useOutlines, useRegionMap, useSitterLadder, useValues } from "../api/hooks";
import { Ladder } from "../picture/Ladder";
import { pictureKinds, ways, type Look } from "../picture/look";
import { EdgesOverlay, GridOverlay, OutlinesOverlay, RegionsOverlay } from "../picture/Overlays";
import { PictureStage, type Spot } from "../picture/PictureStage";
import { Tray } from "../picture/Tray";
import { usePointerValue } from "../picture/usePointerValue";
import type { Size } from "../picture/useView";
import { useLadderWay } from "./ladderWay";

export interface StageProps {
  sitter: Sitter;
  look: Look;
  onLook: (look: Look) => void;
}

export interface WorkspaceProps extends StageProps {
  sheet: ReactNode;
  tool?: "pan" | "draw" | "pick";
  strokeWidth?: number | undefined;
  onStroke?: (points: Spot[]) => void;
  onPick?: (spot: Spot) => void;
  /** A stroke is a straight line from where it began. */
  straight?: boolean;
  /** Ways of looking that the job at hand needs, without changing the painter's own. */
  force?: Partial<Look>;
  onPointer?: (spot: Spot | null) => void;
  overlay?: (px: number, size: Size) => ReactNode;
  /** Stands in for the picture of the tray: a canvas after a pass, a cut under the hand. */
  picture?: string | null | undefined;
  /** A transparent picture laid over it. */
  veil?: string | null;
  size?: Size | undefined;
  plain?: boolean;
  cuts?: number[];
  onDragCut?: (cuts: number[]) => void;
  onDropCut?: (cuts: number[]) => void;
  locked?: number[] | undefined;
  reach?: { darkest: number; lightest: number } | undefined;
  busy?: boolean;
}

function OutlinesOf({ sitter, size, px }: { sitter: Sitter; size: Size; px: number }) {
  const outlines = useOutlines(sitter);
  return outlines.data ? <OutlinesOverlay outlines={outlines.data} size={size} px={px} /> : null;
}

function EdgesOf({ sitter, size, px }: { sitter: Sitter; size: Size; px: number }) {
  const edges = useEdges(sitter);
  return edges.data ? <EdgesOverlay edges={edges.data.edges} size={size} px={px} /> : null;
}

function RegionsOf({ sitter, size, px }: { sitter: Sitter; size: Size; px: number }) {
  const map = useRegionMap(sitter);
  return map.data ? <RegionsOverlay map={map.data} size={size} px={px} /> : null;
}

/** Ladder, wall, tray and sheet: the same in every stage. */
export function Workspace(props: WorkspaceProps) {
  const [{ count, of: ladderOf }] = useLadderWay();
  const { sitter, look: chosen, force, onLook, sheet, tool = "pan", overlay, picture, veil = null, plain = false } = props;
  const frame = useFrame(sitter);
  const whole = useLadder(sitter);
  const alone = useSitterLadder(sitter, ladderOf === "sitter");
  const ladder = ladderOf === "sitter" && alone.data?.some((v) => v > 0) ? alone : whole;
  const values = useValues(sitter);
  const pointer = usePointerValue(sitter);
  const look = { ...chosen, ...force };
  const [fitSignal, setFitSignal] = useState(0);
  const size = props.size ?? { width: frame.data?.width ?? 1500, height: frame.data?.height ?? 2000 };

  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      const target = e.target as HTMLElement;
      if (e.ctrlKey || e.metaKey || e.altKey || target.closest("input, textarea, [role=listbox], [role=dialog]")) return;
      const way = ways.find((w) => w.key === e.key.toLowerCase());
      if (way) onLook(way.press(chosen));
      else if (e.key === "0") setFitSignal((n) => n + 1);
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [chosen, onLook]);

  const shownKind = look.picture === "canvas" ? "colour" : look.picture;
  const base = picture ?? pictureUrl(sitter, shownKind, pictureKinds[shownKind]);
  const beside = look.beside && !plain ? pictureUrl(sitter, "colour", "frame") : null;
  const groups = values.data?.plan.groups ?? [];
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: { xs: "104px minmax(0,1fr) 296px", lg: "118px minmax(0,1fr) 348px" }, minHeight: 0, flex: 1 }}>
      <Ladder histogram={ladder.data} cuts={props.cuts ?? values.data?.plan.cuts ?? []} groups={groups} pointer={pointer.value}
        onDrag={props.onDragCut} onDrop={props.onDropCut} reach={props.reach} count={count} locked={props.locked} />
      <Box sx={{ display: "flex", flexDirection: "column", minHeight: 0, minWidth: 0 }}>
        <PictureStage label={`Picture of ${sitter.name}`} pictures={[base, veil]} beside={beside} size={size} tool={tool}
          straight={props.straight ?? false} mirror={look.mirror} upsideDown={look.upsideDown} fitSignal={fitSignal} busy={props.busy ?? false}
          onPointer={plain ? () => undefined : (spot) => { pointer.read(spot); props.onPointer?.(spot); }}
          {...(props.strokeWidth === undefined ? {} : { strokeWidth: props.strokeWidth })}
          {...(props.onStroke ? { onStroke: props.onStroke } : {})}
          {...(props.onPick ? { onPick: props.onPick } : {})}
          overlay={(px) => (
            <>
              {look.outlines && !plain && <OutlinesOf sitter={sitter} size={size} px={px} />}
              {look.edges && !plain && <EdgesOf sitter={sitter} size={size} px={px} />}
              {look.regions && !plain && <RegionsOf sitter={sitter} size={size} px={px} />}
              {look.grid && !plain && frame.data && <GridOverlay grid={frame.data.grid} canvasWidth={sitter.settings.reference.canvas_width_mm ?? 300} size={size} px={px} />}
              {overlay?.(px, size)}
            </>
          )} />
        <Tray look={look} onPress={(way) => onLook(way.press(chosen))} onFit={() => setFitSignal((n) => n + 1)} />
      </Box>
      <Box component="aside" aria-label="Sheet" sx={{ borderLeft: 1, borderColor: "divider", bgcolor: "background.default", overflowY: "auto", px: 2.5, py: 2 }}>
        {sheet}
      </Box>
    </Box>
  );
}
