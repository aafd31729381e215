import { Box, ButtonBase } from "@mui/material";
import { useShortcuts } from "../sitter/shortcuts";
import type { FieldProps } from "./AnswerField";
import { Patch, Wall } from "./Patches";

/** One of several colours is chosen. */
export function Choice({ drill, question, score, busy, onAnswer }: FieldProps) {
  const offered = question.patches.slice(-drill.choices);
  const first = question.patches.length > drill.choices ? question.patches[0] : undefined;
  const choose = (choice: number) => {
    if (!score && !busy) onAnswer({ choice });
  };
  const keys = Object.fromEntries(offered.map((_, i) => [String(i + 1), () => choose(i)]));
  useShortcuts(
    drill.choices === 2 ? { ...keys, arrowleft: () => choose(0), arrowright: () => choose(1) } : keys,
  );
  return (
    <Wall sx={{ flexDirection: "column" }}>
      {first && <Patch hex={first} size={150} />}
      <Box sx={{ display: "flex", gap: first ? 3 : 0 }}>
        {offered.map((hex, i) => (
          <ButtonBase
            key={i}
            onClick={() => choose(i)}
            disabled={busy || score !== null}
            aria-label={`Colour ${i + 1}`}
            aria-keyshortcuts={String(i + 1)}
            sx={{
              flexDirection: "column",
              outline: score?.choice === i ? "3px solid #1a1a1a" : "none",
              outlineOffset: 6,
            }}
          >
            <Patch hex={hex} size={first ? 150 : 260} />
          </ButtonBase>
        ))}
      </Box>
    </Wall>
  );
}
