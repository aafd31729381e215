import { Box, Button, ButtonBase, CircularProgress, FormControlLabel, Switch, Typography } from "@mui/material";
import { useEffect } from "react";
import { Link, Navigate, useNavigate, useParams } from "react-router";
import { useHistory, useSitter } from "../api/hooks";
import type { Sitter } from "../api/client";
import { plainLook, type Look } from "../picture/look";
import { FleshStage } from "../stages/flesh/FleshStage";
import { HairStage } from "../stages/hair/HairStage";
import { LightStage } from "../stages/light/LightStage";
import { PassesStage } from "../stages/passes/PassesStage";
import { ReferenceStage } from "../stages/reference/ReferenceStage";
import { ValuesStage } from "../stages/values/ValuesStage";
import { serif } from "../theme";
import { LadderWayContext, plainLadder, type LadderWay } from "./ladderWay";
import { useStored } from "./stored";

const stages = {
  reference: { label: "Reference", Stage: ReferenceStage },
  values: { label: "Values", Stage: ValuesStage },
  flesh: { label: "Flesh", Stage: FleshStage },
  light: { label: "Light", Stage: LightStage },
  hair: { label: "Hair", Stage: HairStage },
  passes: { label: "Passes", Stage: PassesStage },
} as const;
const names = Object.keys(stages) as (keyof typeof stages)[];

interface Props {
  dim: boolean;
  onDim: (dim: boolean) => void;
}

/** One sitter: the stages along the top, undo, and the stage itself. */
export function SitterPage(props: Props) {
  const { id = "", stage } = useParams();
  const sitter = useSitter(id);
  if (sitter.isPending) return <Centre><CircularProgress color="inherit" aria-label="Loading the sitter" /></Centre>;
  if (sitter.isError)
    return (
      <Centre>
        <Box role="alert">{sitter.error.message} <Link to="/">Back to the shelf</Link></Box>
      </Centre>
    );
  const name = names.find((n) => n === stage);
  if (!name) return <Navigate to={`/sitters/${id}/reference`} replace />;
  return <Bench key={id} sitter={sitter.data} stage={name} {...props} />;
}

function Bench({ sitter, stage, dim, onDim }: Props & { sitter: Sitter; stage: keyof typeof stages }) {
  const history = useHistory(sitter);
  const navigate = useNavigate();
  const [stored, setLook] = useStored<Look>(`look-${sitter.id}`, plainLook);
  const look = { ...plainLook, ...stored };
  const ladderWay = useStored<LadderWay>("ladder", plainLadder);
  const { Stage } = stages[stage];

  useEffect(() => {
    document.title = `${sitter.name} · True Sitter`;
    const press = (e: KeyboardEvent) => {
      const target = e.target as HTMLElement;
      if (target.closest("input, textarea, [role=dialog]")) return;
      const command = e.ctrlKey || e.metaKey;
      const letter = e.key.toLowerCase();
      if (command && letter === "z") history(e.shiftKey ? "redo" : "undo");
      else if (command && letter === "y") history("redo");
      else if (!command && !e.altKey && /^[1-6]$/.test(e.key)) void navigate(`/sitters/${sitter.id}/${names[Number(e.key) - 1] ?? "reference"}`);
      else return;
      e.preventDefault();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [history, navigate, sitter.id, sitter.name]);

  return (
    <Box sx={{ height: "100vh", display: "flex", flexDirection: "column" }}>
      <Box component="header" sx={{ display: "flex", alignItems: "center", gap: 1, px: 2, borderBottom: 1, borderColor: "divider", bgcolor: "background.default", minHeight: 52 }}>
        <Button color="inherit" component={Link} to="/" aria-label="Back to the shelf" sx={{ fontWeight: 400, px: 1 }}>Shelf</Button>
        <Typography component="h1" noWrap sx={{ fontFamily: serif, fontSize: 20, flex: "0 1 auto", mr: 2 }}>{sitter.name}</Typography>
        <Box component="nav" aria-label="Stages" sx={{ display: "flex", flex: 1 }}>
          {names.map((n, i) => (
            <ButtonBase key={n} component={Link} to={`/sitters/${sitter.id}/${n}`} aria-current={n === stage ? "page" : undefined} title={`${stages[n].label} (${i + 1})`}
              sx={{ px: { xs: 1, lg: 1.6 }, minHeight: 52, fontSize: 16, fontWeight: n === stage ? 700 : 400, boxShadow: n === stage ? "inset 0 -3px 0 currentColor" : "none" }}>
              {stages[n].label}
            </ButtonBase>
          ))}
        </Box>
        <Button color="inherit" disabled={sitter.undo === null} onClick={() => history("undo")} title={sitter.undo ? `Undo: ${sitter.undo}` : "Nothing to undo"}>Undo</Button>
        <Button color="inherit" disabled={sitter.redo === null} onClick={() => history("redo")} title={sitter.redo ? `Redo: ${sitter.redo}` : "Nothing to redo"}>Redo</Button>
        <FormControlLabel control={<Switch color="default" checked={dim} onChange={(_, on) => onDim(on)} />} label="Dim studio" sx={{ mr: 0, whiteSpace: "nowrap", "& .MuiFormControlLabel-label": { fontSize: 14, display: { xs: "none", lg: "block" } } }} />
      </Box>
      <LadderWayContext value={ladderWay}>
        <Stage sitter={sitter} look={look} onLook={setLook} />
      </LadderWayContext>
    </Box>
  );
}

function Centre({ children }: { children: React.ReactNode }) {
  return <Box sx={{ height: "100vh", display: "grid", placeItems: "center", bgcolor: "background.default" }}>{children}</Box>;
}
