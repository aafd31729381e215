import { MenuItem, TextField } from "@mui/material";
import { usePasses } from "../api/hooks";
import type { Sitter } from "../api/client";
import { useStored } from "../sitter/stored";

/** The passes of the plan, and which of them is chosen: the same one in every job. */
export function useChosenPass(sitter: Sitter, wanted = true) {
  const plan = usePasses(sitter, wanted);
  const passes = plan.data?.passes ?? [];
  const [chosen, choose] = useStored(`pass-${sitter.id}`, 1);
  return { plan, passes, number: Math.min(Math.max(1, chosen), Math.max(1, passes.length)), choose };
}

/** A list to choose a pass from. */
export function PassSelect({ passes, number, choose }: Omit<ReturnType<typeof useChosenPass>, "plan">) {
  return (
    <TextField
      select
      fullWidth
      size="small"
      label="After pass"
      value={number}
      onChange={(e) => choose(Number(e.target.value))}
      sx={{ mt: 1.5, mb: 1.5 }}
    >
      {passes.map((p, i) => (
        <MenuItem key={p.key} value={i + 1}>
          {i + 1} {p.name}
        </MenuItem>
      ))}
    </TextField>
  );
}
