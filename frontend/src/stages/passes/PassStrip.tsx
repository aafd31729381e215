import { Box, ButtonBase } from "@mui/material";
import { useEffect, useRef } from "react";
import type { Schemas, Sitter } from "../../api/client";
import { StripPicture } from "./StripPicture";
import { textSize } from "../../theme";

interface Props {
  sitter: Sitter;
  passes: Schemas["PlanPass"][];
  number: number;
  choose: (number: number) => void;
}

/** Every canvas of the plan, small, under the picture: press one to see it large. */
export function PassStrip({ sitter, passes, number, choose }: Props) {
  const here = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    // Braces: newer browsers give a promise back, which React would take for something to clean up with.
    here.current?.scrollIntoView({ block: "nearest", inline: "center" });
  }, [number]);
  return (
    <Box
      role="group"
      aria-label="Canvas after each pass"
      sx={{
        display: "flex",
        gap: "2px",
        overflowX: "auto",
        flex: "none",
        bgcolor: "background.default",
        borderTop: 1,
        borderColor: "divider",
        p: "4px",
      }}
    >
      {passes.map((p, i) => {
        const on = i + 1 === number;
        return (
          <ButtonBase
            key={p.key}
            ref={on ? here : undefined}
            aria-label={`Canvas ${i + 1}, ${p.name}`}
            aria-pressed={on}
            onClick={() => choose(i + 1)}
            sx={{
              flex: "none",
              flexDirection: "column",
              minWidth: 52,
              fontSize: textSize.fine,
              fontWeight: on ? 700 : 400,
              outline: on ? 2 : 0,
              outlineStyle: "solid",
              outlineOffset: -2,
            }}
          >
            <StripPicture sitter={sitter} number={i + 1} of={passes.length} height={60} />
            {i + 1}
          </ButtonBase>
        );
      })}
    </Box>
  );
}
