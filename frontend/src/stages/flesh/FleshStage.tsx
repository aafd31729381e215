import { ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useMemo, useState } from "react";
import { useFlesh, useLibrary } from "../../api/hooks";
import type { Tubes } from "../../sheet/Recipe";
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
  const library = useLibrary();
  const flesh = useFlesh(sitter);
  const own = sitter.settings.flesh.own;
  const tubes: Tubes = useMemo(() => {
    const known: Tubes = new Map(library.data?.tubes.map((t) => [t.key, t]));
    // A tube taken off the rack since it was set out here: its pigment stands in for what the library no longer lists.
    for (const tube of own ?? []) {
      const like = known.get(tube.pigment);
      if (!known.has(tube.key) && like) known.set(tube.key, { ...like, name: tube.name });
    }
    return known;
  }, [library.data, own]);
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
