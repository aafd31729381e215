import { Box, type SxProps } from "@mui/material";
import type { ReactNode } from "react";
import { textSize } from "../theme";

interface Props {
  label: string;
  heads: string[];
  rows: { key: string; cells: ReactNode[] }[];
}

const cell: SxProps = {
  textAlign: "left",
  verticalAlign: "top",
  borderBottom: 1,
  borderColor: "divider",
  py: 0.9,
  pr: 2,
};

/** A plain table; numbers stand to the right of their words. */
export function Table({ label, heads, rows }: Props) {
  return (
    <Box
      component="table"
      aria-label={label}
      sx={{ width: "100%", borderCollapse: "collapse", fontSize: textSize.body }}
    >
      <thead>
        <tr>
          {heads.map((head) => (
            <Box
              key={head}
              component="th"
              scope="col"
              sx={{ ...cell, fontWeight: 600, color: "text.secondary" }}
            >
              {head}
            </Box>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.key}>
            {row.cells.map((one, i) => (
              <Box
                key={i}
                component={i ? "td" : "th"}
                {...(i ? {} : { scope: "row" })}
                sx={{ ...cell, fontWeight: i ? 400 : 600 }}
              >
                {one}
              </Box>
            ))}
          </tr>
        ))}
      </tbody>
    </Box>
  );
}
