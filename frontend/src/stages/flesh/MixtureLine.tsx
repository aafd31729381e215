import { Box, Button } from "@mui/material";
import type { ReactNode } from "react";
import type { Mixture } from "../../api/client";
import { Pair, Recipe, type Tubes } from "../../sheet/Recipe";
import { useCounted } from "../../sheet/Value";
import { textSize } from "../../theme";

interface Props {
  mixture: Mixture;
  tubes: Tubes;
  title: string;
  /** Put a suggested tube among those set out. */
  onAdd?: (key: string) => void;
  action?: ReactNode;
  note?: ReactNode;
}

/** Wanted beside predicted, parts as a bar and in words, and how far off it is in plain language. */
export function MixtureLine({ mixture, tubes, title, onAdd, action, note }: Props) {
  const value = useCounted();
  return (
    <Box
      data-testid="mixture"
      sx={{ display: "flex", gap: 1.2, py: 1, borderBottom: 1, borderColor: "divider" }}
    >
      <Pair
        left={mixture.target_hex}
        right={mixture.predicted_hex}
        label={`Target ${mixture.target_hex}, mixture ${mixture.predicted_hex}`}
      />
      <Box sx={{ flex: 1, minWidth: 0 }}>
        <Box sx={{ display: "flex", justifyContent: "space-between", alignItems: "center", mb: 0.4, gap: 1 }}>
          <strong>{title}</strong>
          <span>
            {Math.abs(mixture.seen_value - mixture.target_value) >= 0.1 && (
              <Box component="span" sx={{ fontSize: textSize.fine, color: "text.secondary" }}>
                photograph {value(mixture.seen_value)}, target{" "}
              </Box>
            )}
            {value(mixture.target_value)}
          </span>
        </Box>
        <Recipe
          parts={mixture.parts}
          tubes={tubes}
          thinned={mixture.dilution?.words ?? null}
          heap={mixture.heap}
        />
        <Box sx={{ fontSize: textSize.fine, color: "text.secondary" }}>
          {mixture.judgement}; colour difference {mixture.delta_e.toFixed(1)}
          {mixture.on_screen ? "" : "; this screen cannot show it truly"}
        </Box>
        {mixture.wet && (
          <Box sx={{ display: "flex", alignItems: "center", gap: 1, fontSize: textSize.small, mt: 0.4 }}>
            <Box aria-hidden sx={{ width: 28, height: 20, bgcolor: mixture.wet.hex, flex: "none" }} />
            mix it to look like this wet: it dries {Math.abs(mixture.wet.shift).toFixed(1)}{" "}
            {mixture.wet.shift > 0 ? "lighter" : "darker"}
          </Box>
        )}
        {note}
        {!mixture.reached && onAdd && (
          <Box sx={{ fontSize: textSize.small, fontWeight: 600 }}>
            Cannot be reached{mixture.suggested_tube ? ". " : " with these tubes."}
            {mixture.suggested_tube && (
              <Button
                color="inherit"
                variant="outlined"
                size="small"
                onClick={() => onAdd(mixture.suggested_tube ?? "")}
                sx={{ mt: 0.5 }}
              >
                Add {tubes.get(mixture.suggested_tube)?.name}: {mixture.suggested_delta_e?.toFixed(1)} instead
                of {mixture.delta_e.toFixed(1)}
              </Button>
            )}
          </Box>
        )}
        {action}
      </Box>
    </Box>
  );
}
