import { Box } from "@mui/material";
import { Value } from "../../sheet/Value";

/** What stands side by side, always in this order and these words: photograph, target, mixture. */
export function Legend({ of }: { of: ["photograph" | "target" | "mixture", number][] }) {
  return (
    <Box sx={{ display: "flex", fontSize: 13.5, mb: 1 }}>
      {of.map(([name, value]) => (
        <Box key={name} sx={{ flex: 1, textAlign: "center" }}>
          {name}{" "}
          <strong>
            <Value of={value} />
          </strong>
        </Box>
      ))}
    </Box>
  );
}
