import { ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useMemo, useState } from "react";
import { useFlesh, useLibrary } from "../../api/hooks";
import type { Tubes } from "../../sheet/Recipe";
import { Workspace, type StageProps } from "../../sitter/Workspace";
import { useBoardJob } from "./useBoardJob";
import { useGlazeJob } from "./useGlazeJob";
import { useGroupsMixJob } from "./useGroupsMixJob";
import { useSpotJob } from "./useSpotJob";
import { useTubesJob } from "./useTubesJob";

const names = ["groups", "spot", "glaze", "board", "tubes"] as const;
type Name = (typeof names)[number];

/** Mixtures: for any spot, for each value group of the skin, as strings on a board, from the tubes set out. */
export function FleshStage({ sitter, look, onLook }: StageProps) {
  const [name, setName] = useState<Name>("groups");
  const library = useLibrary();
  const flesh = useFlesh(sitter);
  const tubes: Tubes = useMemo(() => new Map(library.data?.tubes.map((t) => [t.key, t])), [library.data]);
  const jobs = {
    spot: useSpotJob(sitter, name === "spot", tubes),
    groups: useGroupsMixJob(sitter, tubes),
    glaze: useGlazeJob(sitter, name === "glaze", tubes),
    board: useBoardJob(sitter, name === "board", tubes),
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
