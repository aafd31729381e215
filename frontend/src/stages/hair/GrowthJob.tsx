import { MenuItem, TextField, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useState } from "react";
import { useHair } from "../../api/hooks";
import { DrawnStrokes, GrowthLines, RootLine, WhorlMark } from "../../picture/HairOverlays";
import { SpotMark } from "../../picture/Overlays";
import { rounded, type Spot } from "../../picture/spots";
import { Downloads, useFileUrl } from "../../sheet/Download";
import { Handle, Say, Section, Toggle } from "../../sheet/parts";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { DrawnList } from "./DrawnList";
import { tools, useHandles, type Turns } from "./useHandles";

const plainly = (coherence: number) =>
  coherence > 0.5 ? "plainly" : coherence > 0.3 ? "fairly well" : "only faintly: draw guides";

const thinned = (points: Spot[]) =>
  points.filter((_, i) => i % 3 === 0 || i === points.length - 1).map(rounded);

/** Which way the hair grows: growth lines, and the handles that comb them. */
export function GrowthJob({ sitter }: JobProps) {
  const settings = sitter.settings.hair;
  const hair = useHair(sitter);
  const file = useFileUrl(sitter);
  const [lines, setLines] = useState(true);
  const [numbers, setNumbers] = useState(false);
  const hand = useHandles(sitter);
  const data = hair.data;
  useWall({
    tool: hand.tool === "pan" ? "pan" : hand.tool === "whorl" ? "pick" : "draw",
    onStroke: (points) => hand.stroke(thinned(points)),
    onPick: (spot) => hand.pick(rounded(spot)),
    strokeWidth: 1,
    busy: hair.isFetching || hand.isPending,
    overlay: (px, size) => (
      <>
        {data && lines && <GrowthLines lines={data.lines} numbered={numbers} size={size} px={px} />}
        {[...settings.partings, ...settings.hairlines].map((l, i) => (
          <RootLine key={i} points={l.points} size={size} px={px} />
        ))}
        {settings.whorls.map((w, i) => (
          <WhorlMark key={i} at={[w.x, w.y]} radius={w.radius} turns={w.turns} size={size} px={px} />
        ))}
        <DrawnStrokes strokes={settings.guides.map((g) => g.points)} size={size} px={px} />
        {data?.knot && <SpotMark spot={[data.knot.x, data.knot.y]} name="which way?" size={size} px={px} />}
      </>
    ),
  });
  const whorls = data?.whorls.length ?? 0;
  return (
    <>
      <ToggleButtonGroup
        exclusive
        fullWidth
        value={hand.tool}
        aria-label="Tool"
        onChange={(_, v: typeof hand.tool | null) => v && hand.setTool(v)}
        sx={{ mb: 1, display: "grid", gridTemplateColumns: "repeat(4, 1fr)", gap: "4px" }}
      >
        {tools.map(({ key, label }) => (
          <ToggleButton
            key={key}
            value={key}
            sx={{ border: "1px solid !important", m: "0 !important", px: 0.5 }}
          >
            {label}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <Say quiet>{tools.find((t) => t.key === hand.tool)?.said}</Say>
      {hand.tool === "whorl" && (
        <TextField
          select
          fullWidth
          size="small"
          label="It turns"
          value={hand.turns}
          onChange={(e) => hand.setTurns(e.target.value as Turns)}
          sx={{ my: 1 }}
        >
          <MenuItem value="clockwise">clockwise</MenuItem>
          <MenuItem value="anticlockwise">anticlockwise</MenuItem>
          <MenuItem value="straight">straight out</MenuItem>
        </TextField>
      )}
      <Section title="Growth lines">
        {hair.isPending && <Say quiet>Following the strands …</Say>}
        {hair.isError && <Say>{hair.error.message}</Say>}
        {data &&
          (data.hair_share < 0.002 ? (
            <Say>No hair is marked. Draw over the hair in Reference, regions.</Say>
          ) : (
            <>
              <Say>
                <strong>{data.lines.length}</strong> lines from the root (dot). The strands show{" "}
                {plainly(data.coherence)}; the heavier a line the surer it is.
              </Say>
              {data.knot && (
                <Say>
                  The hair is gathered into a knot. Which way it runs inside cannot be told: draw one stroke
                  through it.
                </Say>
              )}
              <Say quiet>
                {whorls === 0 ? "No whorl is seen." : whorls === 1 ? "One whorl." : `${whorls} whorls.`}
              </Say>
            </>
          ))}
        <Toggle label="Show the lines" on={lines} onChange={setLines} />
        <Toggle label="Number them, from behind" on={numbers} onChange={setNumbers} />
        <Handle
          label="Spacing on the canvas"
          value={settings.spacing_mm}
          least={2}
          most={25}
          step={0.5}
          shown={(v) => `${v} mm`}
          onChange={(v) => hand.change({ spacing_mm: v }, "Spacing")}
        />
        <Say quiet>Solid: the brush stays exactly on the line. Dotted: the stroke is free to leave it.</Say>
      </Section>
      <DrawnList sitter={sitter} />
      <Section title="Download">
        <Downloads
          files={[
            { label: "Print, true size", href: file("hair_lines.pdf") },
            { label: "Mirrored", href: file("hair_lines.pdf", { mirrored: true }) },
            { label: "SVG", href: file("hair_lines.svg") },
          ]}
        />
      </Section>
    </>
  );
}
