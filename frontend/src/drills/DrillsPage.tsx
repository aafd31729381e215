import { Box, Button, MenuItem, TextField, Typography } from "@mui/material";
import { useEffect } from "react";
import { Link } from "react-router";
import { useSitters } from "../api/hooks";
import { TopBar } from "../sheet/TopBar";
import { useStored } from "../sitter/stored";
import { serif, textSize } from "../theme";
import { Progress } from "./Progress";
import { shown, useDrills, useReady, useWanted, type Drill } from "./useDrills";

/** All drills: what is due, how good the eye is, and how it came there. */
export function DrillsPage() {
  const drills = useDrills();
  const sitters = useSitters();
  const [chosen, choose] = useStored("drill-sitter", "");
  const sitter = sitters.data?.find((s) => s.id === chosen) ?? sitters.data?.[0];
  const ready = useReady(sitter);
  const wanted = useWanted(sitter?.id);
  useEffect(() => {
    document.title = "Drills · True Sitter";
  }, []);
  return (
    <Box sx={{ height: "100vh", display: "flex", flexDirection: "column", bgcolor: "background.default" }}>
      <TopBar title="Drills">
        <Box sx={{ flex: 1 }} />
        {sitter && (
          <TextField
            select
            size="small"
            label="Made from"
            value={sitter.id}
            onChange={(e) => choose(e.target.value)}
            sx={{ minWidth: 200, mt: 1, mb: 0.5 }}
          >
            {sitters.data?.map((s) => (
              <MenuItem key={s.id} value={s.id}>
                {s.name}
              </MenuItem>
            ))}
          </TextField>
        )}
      </TopBar>
      <Box component="main" sx={{ overflow: "auto", px: { xs: 3, md: 6 }, py: 3 }}>
        {drills.isError && <Typography role="alert">{drills.error.message}</Typography>}
        {sitters.data?.length === 0 && (
          <Typography>Drills are made from your own photographs: put one on the shelf first.</Typography>
        )}
        {sitter && (
          <Box component="ul" aria-label="Drills" sx={{ listStyle: "none", p: 0, m: 0, maxWidth: 1100 }}>
            {drills.data?.drills.map((d) => (
              <Line
                key={d.name}
                drill={d}
                sitterId={sitter.id}
                lacking={ready.data?.[d.name] ?? ""}
                because={wanted.data?.find((w) => w.drill === d.name)?.words[0]}
              />
            ))}
          </Box>
        )}
      </Box>
    </Box>
  );
}

interface LineProps {
  drill: Drill;
  sitterId: string;
  because: string | undefined;
  /** Why the picture has nothing for it. */
  lacking: string;
}

function Line({ drill, sitterId, because, lacking }: LineProps) {
  const when = drill.due_at ? new Date(drill.due_at) : null;
  return (
    <Box
      component="li"
      sx={{
        display: "grid",
        gridTemplateColumns: "1fr 150px 150px 120px",
        gap: 3,
        alignItems: "center",
        borderBottom: 1,
        borderColor: "divider",
        py: 1.2,
      }}
    >
      <Box>
        <Typography
          component="h2"
          sx={{ fontFamily: serif, fontSize: textSize.head, fontWeight: drill.due ? 600 : 400 }}
        >
          {drill.title}
        </Typography>
        <Typography color="text.secondary" sx={{ fontSize: textSize.small }}>
          {lacking || (because ?? drill.asks)}
        </Typography>
      </Box>
      <Box>
        {drill.threshold !== null && drill.error !== null ? (
          <>
            <strong>{shown(drill.threshold)}</strong> ± {shown(drill.error)}
            <Typography color="text.secondary" sx={{ fontSize: textSize.fine }}>
              {drill.unit}
            </Typography>
          </>
        ) : (
          <Typography color="text.secondary" sx={{ fontSize: textSize.small }}>
            not yet tried
          </Typography>
        )}
      </Box>
      <Progress drill={drill} />
      <Button
        component={Link}
        to={`/drills/${encodeURIComponent(drill.name)}/${sitterId}`}
        variant={drill.due ? "contained" : "outlined"}
        color={drill.due ? "primary" : "inherit"}
        disableElevation
        disabled={lacking !== ""}
        aria-label={`${drill.title}: ${drill.due ? "due" : `due ${when?.toLocaleDateString("en-GB") ?? ""}`}`}
      >
        {drill.due ? "Begin" : when?.toLocaleDateString("en-GB", { day: "numeric", month: "short" })}
      </Button>
    </Box>
  );
}
