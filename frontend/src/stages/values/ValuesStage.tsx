import { ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useState } from "react";
import { Workspace, type StageProps } from "../../sitter/Workspace";
import { useEdgesJob } from "./useEdgesJob";
import { useGroupsJob } from "./useGroupsJob";
import { useShapesJob } from "./useShapesJob";
import { useSketchesJob } from "./useSketchesJob";
import { useSpotsJob } from "./useSpotsJob";

const names = ["groups", "shapes", "edges", "spots", "sketches"] as const;
type Name = (typeof names)[number];

/** Values instead of things: groups, their shapes and edges, single spots, and sketches in few values. */
export function ValuesStage({ sitter, look, onLook }: StageProps) {
  const [name, setName] = useState<Name>("groups");
  const jobs = {
    groups: useGroupsJob(sitter, look, onLook),
    shapes: useShapesJob(sitter, name === "shapes"),
    edges: useEdgesJob(sitter, name === "edges"),
    spots: useSpotsJob(sitter, name === "spots"),
    sketches: useSketchesJob(sitter),
  };
  const sheet = (
    <>
      <ToggleButtonGroup exclusive fullWidth value={name} aria-label="Job" onChange={(_, v: Name | null) => v && setName(v)} sx={{ mb: 2, "& button": { px: 0.25, minWidth: 0, fontSize: { xs: 13.5, lg: 15 } } }}>
        {names.map((n) => <ToggleButton key={n} value={n}>{n}</ToggleButton>)}
      </ToggleButtonGroup>
      {jobs[name].sheet}
    </>
  );
  const ladder = { cuts: jobs.groups.wall.cuts ?? [], locked: jobs.groups.wall.locked ?? [] };
  const force = name === "edges" ? { edges: true } : name === "shapes" ? { outlines: true } : {};
  return <Workspace sitter={sitter} look={look} force={force} onLook={onLook} sheet={sheet} {...ladder} {...jobs[name].wall} />;
}
