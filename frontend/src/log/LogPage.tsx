import { Box, ButtonBase } from "@mui/material";
import { useEffect, type ComponentType } from "react";
import { Link, Navigate, useParams } from "react-router";
import { TopBar } from "../sheet/TopBar";
import { EntriesPart } from "./EntriesPart";
import { MonthPart } from "./MonthPart";
import { NowPart } from "./NowPart";
import { PacePart } from "./PacePart";
import { PaintingsPart } from "./PaintingsPart";
import { TrialsPart } from "./TrialsPart";
import { textSize } from "../theme";

const parts: Record<string, { label: string; Part: ComponentType }> = {
  now: { label: "Now", Part: NowPart },
  month: { label: "Month", Part: MonthPart },
  entries: { label: "Entries", Part: EntriesPart },
  paintings: { label: "Paintings", Part: PaintingsPart },
  pace: { label: "Own pace", Part: PacePart },
  trials: { label: "Trials", Part: TrialsPart },
};

/** The log across all pictures. */
export function LogPage() {
  const { part = "now" } = useParams();
  const open = parts[part];
  useEffect(() => {
    document.title = "Log · True Sitter";
  }, []);
  if (!open) return <Navigate to="/log" replace />;
  return (
    <Box sx={{ height: "100vh", display: "flex", flexDirection: "column", bgcolor: "background.default" }}>
      <TopBar title="Log">
        <Box component="nav" aria-label="Parts of the log" sx={{ display: "flex" }}>
          {Object.entries(parts).map(([name, { label }]) => (
            <ButtonBase
              key={name}
              component={Link}
              to={`/log/${name}`}
              aria-current={name === part ? "page" : undefined}
              sx={{
                px: { xs: 1, md: 1.5 },
                minHeight: 52,
                fontSize: textSize.lead,
                fontWeight: name === part ? 700 : 400,
                boxShadow: name === part ? "inset 0 -3px 0 currentColor" : "none",
              }}
            >
              {label}
            </ButtonBase>
          ))}
        </Box>
      </TopBar>
      <Box component="main" sx={{ flex: 1, overflow: "auto", px: { xs: 3, md: 6 }, py: 3 }}>
        <open.Part />
      </Box>
    </Box>
  );
}
