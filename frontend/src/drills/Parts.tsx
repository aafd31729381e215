import { Box, Button } from "@mui/material";
import { useState } from "react";
import { useShortcuts } from "../sitter/shortcuts";
import type { FieldProps } from "./AnswerField";
import { Patch, Wall } from "./Patches";
import { textSize } from "../theme";

const MOST = 12;

/** Parts of tubes are chosen; the true mixture is shown afterwards. */
export function Parts({ question, score, busy, onAnswer }: FieldProps) {
  const [parts, setParts] = useState<Record<string, number>>({});
  const total = Object.values(parts).reduce((sum, n) => sum + n, 0);
  const move = (tube: string, by: number) =>
    setParts((p) => ({ ...p, [tube]: Math.min(MOST, Math.max(0, (p[tube] ?? 0) + by)) }));
  const done = busy || score !== null;
  const say = () => total > 0 && onAnswer({ parts });
  useShortcuts(
    done
      ? {}
      : {
          enter: say,
          ...Object.fromEntries(question.tubes.map(([tube], i) => [String(i + 1), () => move(tube, 1)])),
        },
  );
  const made = score?.patches[0];
  return (
    <>
      <Wall sx={{ gap: 0 }}>
        <Patch hex={question.patches[0] ?? "#000"} size={280} />
        {made && <Patch hex={made} size={280} />}
      </Wall>
      <Box sx={{ display: "flex", gap: 3, alignItems: "end", px: 4, py: 1.5, flexWrap: "wrap" }}>
        {question.tubes.map(([tube, name, hex], i) => (
          <Box key={tube} sx={{ display: "grid", justifyItems: "center", gap: 0.5 }}>
            <Box sx={{ width: 120, height: 26, bgcolor: hex }} />
            <Box sx={{ fontSize: textSize.small }}>{name}</Box>
            <Box sx={{ display: "flex", alignItems: "center" }}>
              <Button
                color="inherit"
                disabled={done}
                aria-label={`Less ${name}`}
                onClick={() => move(tube, -1)}
              >
                −
              </Button>
              <Box
                component="strong"
                aria-label={`Parts of ${name}`}
                sx={{ minWidth: 26, textAlign: "center" }}
              >
                {parts[tube] ?? 0}
              </Box>
              <Button
                color="inherit"
                disabled={done}
                aria-label={`More ${name}`}
                aria-keyshortcuts={String(i + 1)}
                onClick={() => move(tube, 1)}
              >
                +
              </Button>
            </Box>
          </Box>
        ))}
        <Button
          variant="contained"
          disableElevation
          disabled={done || total === 0}
          onClick={say}
          sx={{ ml: "auto" }}
        >
          Mix it
        </Button>
      </Box>
    </>
  );
}
