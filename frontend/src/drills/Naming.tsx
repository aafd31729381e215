import { Box, Button, Slider } from "@mui/material";
import { useState } from "react";
import { useShortcuts } from "../sitter/shortcuts";
import type { FieldProps } from "./AnswerField";
import { Patch, Wall } from "./Patches";

/** A number is told: a value, or steps between two values. */
export function Naming({ question, score, busy, onAnswer }: FieldProps) {
  const [number, setNumber] = useState(question.patches.length > 1 ? 2 : 5);
  const move = (by: number) => setNumber((n) => Math.min(10, Math.max(0, Math.round((n + by) * 10) / 10)));
  const say = () => onAnswer({ number });
  useShortcuts(
    score || busy
      ? {}
      : {
          arrowleft: () => move(-0.1),
          arrowright: () => move(0.1),
          arrowdown: () => move(-1),
          arrowup: () => move(1),
          enter: say,
        },
  );
  return (
    <>
      <Wall>
        {question.patches.map((hex, i) => (
          <Patch key={i} hex={hex} {...(question.around ? { around: question.around } : {})} />
        ))}
      </Wall>
      <Box sx={{ display: "flex", alignItems: "center", gap: 4, px: 4, py: 1.5 }}>
        <Slider
          aria-label="Your answer"
          value={number}
          min={0}
          max={10}
          step={0.1}
          disabled={score !== null}
          marks={Array.from({ length: 11 }, (_, n) => ({ value: n, label: String(n) }))}
          valueLabelDisplay="on"
          onChange={(_, v) => setNumber(v)}
        />
        <Button
          variant="contained"
          disableElevation
          disabled={busy || score !== null}
          onClick={say}
          sx={{ whiteSpace: "nowrap" }}
        >
          Say {number.toFixed(1)}
        </Button>
      </Box>
    </>
  );
}
