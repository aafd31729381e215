import { MenuItem, TextField, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useState } from "react";
import { base, type Schemas } from "../../api/client";
import { useComputed } from "../../api/hooks";
import { SpotMark } from "../../picture/Overlays";
import type { Spot } from "../../picture/spots";
import { PassSelect, useChosenPass } from "../../sheet/PassSelect";
import { Handle, Say, Section } from "../../sheet/parts";
import { useCounted } from "../../sheet/Value";
import { useLeft } from "../../sitter/stored";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";

const TOOLS = ["rag", "tissue", "cotton bud", "damp brush", "eraser", "brush handle"] as const;

/** A trial: what comes back when paint is wiped, lifted, erased or scratched off after one of the passes. */
export function TakeOffJob({ sitter }: JobProps) {
  const value = useCounted();
  const { plan, passes, number, choose: choosePass } = useChosenPass(sitter);
  const [tool, setTool] = useLeft<(typeof TOOLS)[number]>(`off-tool-${sitter.id}`, "rag");
  const [pressure, setPressure] = useLeft(`off-pressure-${sitter.id}`, 0.7);
  const [dried, setDried] = useState(false);
  const [points, setPoints] = useLeft<Spot[]>(`off-points-${sitter.id}`, []);
  const draws = tool === "brush handle";
  const query = new URLSearchParams({
    number: String(number),
    tool,
    pressure: String(pressure),
    dried: String(dried),
    points: JSON.stringify(points.slice(0, 400).map(([x, y]) => [clip(x), clip(y)])),
  }).toString();
  const ready = passes.length > 0 && points.length > (draws ? 1 : 0);
  const found = useComputed<Schemas["TakenOffOut"]>(sitter, "passes/taken", query, ready);
  const key = sitter.keys["passes/taken"] ?? "";
  const shown = ready && !found.isError && found.data;
  useWall({
    tool: draws ? "draw" : "pick",
    onPick: (spot) => setPoints([spot]),
    onStroke: (stroke) => setPoints(stroke),
    busy: plan.isFetching || found.isFetching,
    picture: passes.length
      ? shown
        ? `${base(sitter.id)}/passes/taken.png?${query}&v=${key}`
        : `${base(sitter.id)}/passes/canvas/${number}?v=${sitter.keys["passes"] ?? ""}`
      : undefined,
    overlay: (px, size) => !draws && points[0] && <SpotMark spot={points[0]} size={size} px={px} />,
  });
  const choose = (next: (typeof TOOLS)[number]) => {
    if ((next === "brush handle") !== draws) setPoints([]);
    setTool(next);
  };
  return (
    <Section title="Take paint off">
      <Say quiet>
        {draws
          ? "Draw a line on the canvas: the handle scratches it out of the wet paint, wider the harder it is pressed."
          : "Press on the canvas: what of the films there comes off, and what of the paint below comes back. Nothing is kept."}
      </Say>
      {plan.isPending && <Say quiet>Planning the passes …</Say>}
      {plan.isError && <Say>{plan.error.message}</Say>}
      {passes.length > 0 && (
        <>
          <PassSelect passes={passes} number={number} choose={choosePass} />
          <TextField
            select
            fullWidth
            size="small"
            label="With"
            value={tool}
            onChange={(e) => choose(e.target.value as (typeof TOOLS)[number])}
            sx={{ mb: 1.5 }}
          >
            {TOOLS.map((name) => (
              <MenuItem key={name} value={name}>
                {name}
              </MenuItem>
            ))}
          </TextField>
          <ToggleButtonGroup
            exclusive
            fullWidth
            value={dried}
            aria-label="The paint is"
            onChange={(_, v: boolean | null) => v !== null && setDried(v)}
            sx={{ mb: 1.5 }}
          >
            <ToggleButton value={false}>while it is wet</ToggleButton>
            <ToggleButton value={true}>once it is dry</ToggleButton>
          </ToggleButtonGroup>
          <Handle
            label="Pressure"
            value={pressure}
            least={0}
            most={1}
            step={0.05}
            shown={(v) => `${Math.round(v * 100)} %`}
            onChange={setPressure}
          />
        </>
      )}
      {ready && found.isError && <Say>{found.error.message}</Say>}
      {shown && (
        <Say>
          <span data-testid="taken">
            {found.data.words}.{" "}
            {found.data.narrowed_mm ? (
              <>
                The stroke goes from <strong>{found.data.narrowed_mm[0].toFixed(1)} mm</strong> to{" "}
                <strong>{found.data.narrowed_mm[1].toFixed(1)} mm</strong>.
              </>
            ) : (
              <>
                The value there goes from <strong>{value(found.data.before)}</strong> to{" "}
                <strong>{value(found.data.after)}</strong>.
                {Math.abs(found.data.after - found.data.before) < 0.05 &&
                  " What is left still hides what lies below."}
              </>
            )}
          </span>
        </Say>
      )}
    </Section>
  );
}

const clip = (v: number) => Number(Math.min(1, Math.max(0, v)).toFixed(4));
