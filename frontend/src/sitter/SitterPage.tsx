import { Alert, Box, Button, ButtonBase, CircularProgress, FormControlLabel, Switch } from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { Suspense, useEffect, useMemo } from "react";
import { Link, Navigate, useNavigate, useParams } from "react-router";
import { base, send, type Sitter } from "../api/client";
import { useSitter } from "../api/hooks";
import { useHistory } from "../api/useChange";
import { plainLook, ways, type Look } from "../picture/look";
import { Say } from "../sheet/parts";
import { Glossary } from "./Glossary";
import { LadderWayContext, plainLadder, type LadderWay } from "./ladderWay";
import { useNotice } from "./notice";
import { useShortcuts } from "./shortcuts";
import { stageKeys, stages, type JobEntry, type StageKey } from "./stages";
import { useStored } from "./stored";
import { WallContext, WallStore } from "./wall";
import { Workspace } from "./Workspace";
import { TopBar } from "../sheet/TopBar";
import { textSize } from "../theme";
import { keys } from "../api/keys";

interface Props {
  dim: boolean;
  onDim: (dim: boolean) => void;
}

/** One sitter: the stages along the top, undo, and the open job of the open stage. */
export function SitterPage(props: Props) {
  const { id = "", stage, job } = useParams();
  const sitter = useSitter(id);
  if (sitter.isError)
    return (
      <Centre>
        <Box role="alert">
          {sitter.error.message} <Link to="/">Back to the shelf</Link>
        </Box>
      </Centre>
    );
  if (!sitter.data)
    return (
      <Centre>
        <CircularProgress color="inherit" aria-label="Loading the sitter" />
      </Centre>
    );
  const name = stageKeys.find((n) => n === stage);
  if (!name) return <Navigate to={`/sitters/${id}/reference`} replace />;
  const jobs: Record<string, JobEntry> = stages[name].jobs;
  const open = job ?? Object.keys(jobs)[0] ?? "";
  if (!(open in jobs)) return <Navigate to={`/sitters/${id}/${name}`} replace />;
  return <Bench key={id} sitter={sitter.data} stage={name} job={open} {...props} />;
}

function Bench({ sitter, stage, job, dim, onDim }: Props & { sitter: Sitter; stage: StageKey; job: string }) {
  const history = useHistory(sitter);
  const navigate = useNavigate();
  const [stored, setLook] = useStored<Partial<Look>>(`look-${sitter.id}`, plainLook);
  const look = usable(stored);
  const ladderWay = useStored<LadderWay>("ladder", plainLadder);
  const wall = useMemo(() => new WallStore(), []);
  const address = `/sitters/${sitter.id}`;

  useEffect(() => {
    document.title = `${sitter.name} · True Sitter`;
  }, [sitter.name]);
  useShortcuts({
    "ctrl+z": () => history("undo"),
    "ctrl+shift+z": () => history("redo"),
    "ctrl+y": () => history("redo"),
    ...Object.fromEntries(
      stageKeys.map((name, i) => [String(i + 1), () => void navigate(`${address}/${name}`)]),
    ),
  });

  const jobs: Record<string, JobEntry> = stages[stage].jobs;
  const Job = jobs[job]?.Job;
  return (
    <Box sx={{ height: "100vh", display: "flex", flexDirection: "column" }}>
      <TopBar title={sitter.name}>
        <Box component="nav" aria-label="Stages" sx={{ display: "flex", flex: 1 }}>
          {stageKeys.map((name, i) => (
            <ButtonBase
              key={name}
              component={Link}
              to={`${address}/${name}`}
              aria-current={name === stage ? "page" : undefined}
              aria-keyshortcuts={String(i + 1)}
              title={`${stages[name].label} (${i + 1})`}
              sx={{
                px: { xs: 1, lg: 1.5 },
                minHeight: 52,
                fontSize: textSize.lead,
                fontWeight: name === stage ? 700 : 400,
                boxShadow: name === stage ? "inset 0 -3px 0 currentColor" : "none",
              }}
            >
              {stages[name].label}
            </ButtonBase>
          ))}
        </Box>
        <Glossary />
        <Button
          color="inherit"
          disabled={sitter.undo === null}
          onClick={() => history("undo")}
          title={sitter.undo ? `Undo: ${sitter.undo}` : "Nothing to undo"}
        >
          Undo
        </Button>
        <Button
          color="inherit"
          disabled={sitter.redo === null}
          onClick={() => history("redo")}
          title={sitter.redo ? `Redo: ${sitter.redo}` : "Nothing to redo"}
        >
          Redo
        </Button>
        <FormControlLabel
          control={
            <Switch
              color="default"
              checked={dim}
              onChange={(_, on) => onDim(on)}
              slotProps={{ input: { "aria-label": "Dim studio" } }}
            />
          }
          label="Dim"
          sx={{
            mr: 0,
            "& .MuiFormControlLabel-label": {
              fontSize: textSize.small,
              display: { xs: "none", lg: "block" },
            },
          }}
        />
      </TopBar>
      <Troubles sitter={sitter} />
      <LadderWayContext value={ladderWay}>
        <WallContext value={wall}>
          <Workspace sitter={sitter} look={look} onLook={setLook}>
            <Jobs address={`${address}/${stage}`} jobs={jobs} open={job} />
            <Suspense fallback={<Say quiet>Opening …</Say>}>
              {Job && <Job key={`${stage}/${job}`} sitter={sitter} look={look} onLook={setLook} />}
            </Suspense>
          </Workspace>
        </WallContext>
      </LadderWayContext>
    </Box>
  );
}

/** A look as it was kept, with what this version does not know put back to the plain one. */
function usable(stored: Partial<Look>): Look {
  const look = { ...plainLook, ...stored };
  return ways.some((way) => way.on({ ...plainLook, picture: look.picture }))
    ? look
    : { ...look, picture: "colour" };
}

/** The jobs of a stage, each with its address. */
function Jobs({ address, jobs, open }: { address: string; jobs: Record<string, JobEntry>; open: string }) {
  const count = Object.keys(jobs).length;
  if (count < 2) return null;
  // Many words take two rows, each large enough for a finger.
  const basis = count > 6 ? "22%" : "auto";
  return (
    <Box
      component="nav"
      aria-label="Jobs"
      sx={{ display: "flex", flexWrap: "wrap", border: 1, borderColor: "divider", mb: 2 }}
    >
      {Object.entries(jobs).map(([name, { label }]) => (
        <ButtonBase
          key={name}
          component={Link}
          to={`${address}/${name}`}
          aria-current={name === open ? "page" : undefined}
          sx={{
            flex: `1 1 ${basis}`,
            px: 0.25,
            minHeight: count > 6 ? 44 : 48,
            minWidth: 0,
            fontSize: { xs: 13.5, lg: 15 },
            fontWeight: name === open ? 700 : 400,
            bgcolor: name === open ? "text.primary" : "transparent",
            color: name === open ? "background.default" : "text.secondary",
            "&:focus-visible": { outlineOffset: -4 },
          }}
        >
          {label}
        </ButtonBase>
      ))}
    </Box>
  );
}

/** Stages whose settings cannot be read: what is wrong, and the way out. */
function Troubles({ sitter }: { sitter: Sitter }) {
  const client = useQueryClient();
  const notice = useNotice();
  const reset = (stage: string) =>
    send<Sitter>("POST", `${base(sitter.id)}/settings/${stage}/reset`)
      .then((fresh) => client.setQueryData(keys.sitter(sitter.id), fresh))
      .catch((error: Error) => notice(error.message));
  return sitter.troubles.map(({ stage, sentence }) => (
    <Alert
      key={stage}
      severity="warning"
      variant="outlined"
      icon={false}
      sx={{ borderRadius: 0, color: "text.primary" }}
      action={
        <Button color="inherit" onClick={() => void reset(stage)}>
          Begin {stage} anew
        </Button>
      }
    >
      {sentence} The usual settings stand in for them; nothing was thrown away.
    </Alert>
  ));
}

function Centre({ children }: { children: React.ReactNode }) {
  return (
    <Box
      component="main"
      sx={{ height: "100vh", display: "grid", placeItems: "center", bgcolor: "background.default" }}
    >
      {children}
    </Box>
  );
}
