import { ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useState } from "react";
import { Workspace, type StageProps } from "../../sitter/Workspace";
import { useColourJob } from "./useColourJob";
import { useFrameJob } from "./useFrameJob";
import { useGridJob } from "./useGridJob";
import { useMeasureJob } from "./useMeasureJob";
import { useRegionsJob } from "./useRegionsJob";

const names = ["frame", "colour", "grid", "measure", "regions"] as const;
type Name = (typeof names)[number];

/** The photograph on the canvas: framed, corrected, gridded, measured, and told apart. */
export function ReferenceStage({ sitter, look, onLook }: StageProps) {
  const [name, setName] = useState<Name>("frame");
  const jobs = {
    frame: useFrameJob(sitter),
    colour: useColourJob(sitter),
    grid: useGridJob(sitter),
    measure: useMeasureJob(sitter, name === "measure"),
    regions: useRegionsJob(sitter, name === "regions"),
  };
  const sheet = (
    <>
      <ToggleButtonGroup exclusive fullWidth value={name} aria-label="Job" onChange={(_, v: Name | null) => v && setName(v)} sx={{ mb: 2, "& button": { px: 0.25, minWidth: 0, fontSize: { xs: 13.5, lg: 15 } } }}>
        {names.map((n) => <ToggleButton key={n} value={n}>{n}</ToggleButton>)}
      </ToggleButtonGroup>
      {jobs[name].sheet}
    </>
  );
  const force = name === "grid" ? { grid: true } : name === "regions" ? { regions: false } : {};
  return <Workspace sitter={sitter} look={look} force={force} onLook={onLook} sheet={sheet} {...jobs[name].wall} />;
}
