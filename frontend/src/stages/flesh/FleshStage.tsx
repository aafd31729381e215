import { ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useState } from "react";
import { useFlesh } from "../../api/hooks";
import { useTubes } from "../../sheet/useTubes";
import { Workspace, type StageProps } from "../../sitter/Workspace";
import { useBatchJob } from "./useBatchJob";
import { useBoardJob } from "./useBoardJob";
import { useGlazeJob } from "./useGlazeJob";
import { useGroupsMixJob } from "./useGroupsMixJob";
import { useSpotJob } from "./useSpotJob";
import { useTubesJob } from "./useTubesJob";

const names = ["groups", "spot", "glaze", "board", "batch", "tubes"] as const;
type Name = (typeof names)[number];

/** Mixtures: for any spot, for each value group of the skin, as strings on a board, from the tubes set out. */
export function FleshStage({ sitter, look, onLook }: StageProps) {
  const [name, setName] = useState<Name>("groups");
  const tubes = useTubes(sitter);
  const flesh = useFlesh(sitter);
  const jobs = {
    spot: useSpotJob(sitter, name === "spot", tubes),
    groups: useGroupsMixJob(sitter, tubes),
    glaze: useGlazeJob(sitter, name === "glaze", tubes),
    board: useBoardJob(sitter, name === "board", tubes),
    batch: useBatchJob(sitter, name === "batch", tubes),
    tubes: useTubesJob(sitter, tubes),
  };
  const sheet = (
    <>
      <ToggleButtonGroup exclusive fullWidth value={name} aria-label="Job" onChange={(_, v: Name | null) => v && setName(v)} sx={{ mb: 2 }}>
        {names.map((n) => <ToggleButton key={n} value={n}>{n}</ToggleButton>)}
      </ToggleButtonGroup>
      {jobs[name].sheet}
    </>
  );
  return <Workspace sitter={sitter} look={look} onLook={onLook} sheet={sheet} reach={flesh.data} {...jobs[name].wall} />;
}
