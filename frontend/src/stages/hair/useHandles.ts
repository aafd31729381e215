import { useState } from "react";
import type { Sitter } from "../../api/client";
import { useChange } from "../../api/useChange";
import { ends, rounded, type Spot } from "../../picture/spots";
import { bent, nearest, rubbed, without } from "./bend";

export type Tool = "guide" | "bend" | "parting" | "hairline" | "whorl" | "erase" | "pan";
export type Turns = "clockwise" | "anticlockwise" | "straight";

export const tools: readonly { key: Tool; label: string; said: string }[] = [
  { key: "guide", label: "guide", said: "Draw from the root to the tip where the lines are wrong." },
  { key: "bend", label: "bend", said: "Pull at a guide: it follows where it is held." },
  { key: "parting", label: "parting", said: "Draw along the parting: hair leaves it to both sides." },
  { key: "hairline", label: "hairline", said: "Draw where the hair begins: it grows away from there." },
  { key: "whorl", label: "whorl", said: "Press on the crown: hair turns out of it." },
  { key: "erase", label: "erase", said: "Rub over what you drew; whatever is touched goes." },
  { key: "pan", label: "move", said: "Move the picture. The space bar does so with any tool." },
];

const NEAR = 0.03;

/** The handles of the direction: what a stroke or a press does with the tool in hand. */
export function useHandles(sitter: Sitter) {
  const settings = sitter.settings.hair;
  const { change, isPending } = useChange(sitter, "hair");
  const [tool, setTool] = useState<Tool>("guide");
  const [turns, setTurns] = useState<Turns>("clockwise");

  const bend = (points: Spot[]) => {
    const held = ends(points);
    const found =
      held &&
      nearest(
        settings.guides.map((g) => g.points),
        held[0],
        NEAR,
      );
    const guide = found && settings.guides[found.stroke];
    if (!held || !guide) return;
    const by: Spot = [held[1][0] - held[0][0], held[1][1] - held[0][1]];
    const next = { ...guide, points: bent(guide.points, found.point, by).map(rounded) };
    change({}, "Bend a guide", { guides: { start: found.stroke, remove: 1, add: [next] } });
  };

  const erase = (points: Spot[]) => {
    const touched = (strokes: readonly (readonly Spot[])[]) =>
      new Set(strokes.flatMap((stroke, i) => (rubbed(stroke, points, NEAR / 2) ? [i] : [])));
    const gone = {
      guides: without(settings.guides, touched(settings.guides.map((g) => g.points))),
      partings: without(settings.partings, touched(settings.partings.map((l) => l.points))),
      hairlines: without(settings.hairlines, touched(settings.hairlines.map((l) => l.points))),
      whorls: without(settings.whorls, touched(settings.whorls.map((w): Spot[] => [[w.x, w.y]]))),
    };
    const lists = Object.fromEntries(Object.entries(gone).filter(([, edit]) => edit !== null));
    if (Object.keys(lists).length > 0) change({}, "Erase", lists);
  };

  const stroke = (points: Spot[]) => {
    if (points.length < 2) return;
    if (tool === "bend") bend(points);
    else if (tool === "erase") erase(points);
    else if (tool === "parting") change({}, "Parting", { partings: { add: [{ points }] } });
    else if (tool === "hairline") change({}, "Hairline", { hairlines: { add: [{ points }] } });
    else if (tool === "guide") change({}, "Guide stroke", { guides: { add: [{ points, reach: 0.04 }] } });
  };

  const pick = ([x, y]: Spot) => change({}, "Whorl", { whorls: { add: [{ x, y, radius: 0.08, turns }] } });

  return { tool, setTool, turns, setTurns, stroke, pick, change, isPending };
}
