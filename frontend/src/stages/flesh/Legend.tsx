import { Box } from "@mui/material";
import { Value } from "../../sheet/Value";
import { textSize } from "../../theme";

/** What stands side by side, always in this order and these words: photograph, target, mixture. */
export function Legend({ of }: { of: ["photograph" | "target" | "mixture", number][] }) {
  return (
    <Box sx={{ display: "flex", fontSize: textSize.fine, mb: 1 }}>
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
