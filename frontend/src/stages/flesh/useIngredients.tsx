import { Box, MenuItem } from "@mui/material";
import type { Schemas, Sitter } from "../../api/client";
import { useComputed } from "../../api/hooks";
import { useTubes } from "../../sheet/useTubes";

/** What can be mixed from: the mixtures there are, then the tubes set out, each with its colour. */
export function useIngredients(sitter: Sitter) {
  const tubes = useTubes(sitter);
  const named = useComputed<Schemas["NamedOut"][]>(sitter, "flesh/named");
  const choices = [
    ...(named.data ?? []).map((m) => ({ key: `@${m.name}`, name: m.name.replaceAll("-", " "), hex: m.hex })),
    ...sitter.settings.flesh.tubes.map((key) => ({
      key,
      name: tubes.get(key)?.name ?? key,
      hex: tubes.get(key)?.hex ?? "#808080",
    })),
  ];
  const options = choices.map((c) => (
    <MenuItem key={c.key} value={c.key}>
      <Box component="span" sx={{ width: 16, height: 16, bgcolor: c.hex, mr: 1, display: "inline-block" }} />
      {c.name}
    </MenuItem>
  ));
  return { choices, options, tubes, isPending: named.isPending };
}
