import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { Link, useParams } from "react-router";
import { base, call, send } from "../api/client";
import { useSitter } from "../api/hooks";
import { TopBar } from "../sheet/TopBar";
import { useShortcuts } from "../sitter/shortcuts";
import { serif, textSize } from "../theme";
import { AnswerField } from "./AnswerField";
import {
  shown,
  useDrills,
  useReady,
  useWanted,
  type Drill,
  type Given,
  type Question,
  type Score,
} from "./useDrills";
import { keys } from "../api/keys";

const lot = (length: number) =>
  Array.from(crypto.getRandomValues(new Uint8Array(length)), (b) => b.toString(16).padStart(2, "0")).join("");
const anySeed = () => (crypto.getRandomValues(new Uint32Array(1))[0] ?? 0) % 2 ** 31;

/** One go at a drill: ten rounds, each answered and shown beside the truth. */
export function GoPage() {
  const { drill: name = "", sitter = "" } = useParams();
  const drills = useDrills();
  // How hard it is follows from before this go, then from each answer.
  const drill = drills.data?.drills.find((d) => d.name === name);
  const [again, setAgain] = useState(0);
  useEffect(() => {
    document.title = `${drill?.title ?? "Drill"} · True Sitter`;
  }, [drill?.title]);
  return (
    <Box sx={{ height: "100vh", display: "flex", flexDirection: "column", bgcolor: "background.default" }}>
      <TopBar title={drill?.title ?? "Drill"}>
        <Button color="inherit" component={Link} to="/drills">
          All drills
        </Button>
      </TopBar>
      {drills.isError && <Typography role="alert">{drills.error.message}</Typography>}
      {drills.data && !drill && <Typography sx={{ p: 6 }}>There is no such drill.</Typography>}
      {drill && drills.data && (
        <Go
          key={again}
          drill={drill}
          rounds={drills.data.rounds}
          sitterId={sitter}
          onAgain={() => setAgain(again + 1)}
        />
      )}
    </Box>
  );
}

interface GoProps {
  drill: Drill;
  rounds: number;
  sitterId: string;
  onAgain: () => void;
}

function Go({ drill, rounds, sitterId, onAgain }: GoProps) {
  const client = useQueryClient();
  const sitter = useSitter(sitterId);
  // Only what is known already: a go is not held up by comparing every painting.
  const wanted = useWanted(sitterId, false);
  const places = useMemo(
    () => wanted.data?.find((w) => w.drill === drill.name)?.places ?? [],
    [wanted.data, drill.name],
  );
  const [go] = useState(() => lot(8));
  const [seed, setSeed] = useState(anySeed);
  const [level, setLevel] = useState(drill.level);
  const [scores, setScores] = useState<Score[]>([]);
  const [score, setScore] = useState<Score | null>(null);
  const query = new URLSearchParams([
    ["drill", drill.name],
    ["seed", String(seed)],
    ["level", String(level)],
    ...places.map((p) => ["place", p]),
  ] as [string, string][]).toString();
  const ready = useReady(sitter.data);
  const round = useQuery({
    enabled: ready.isSuccess && (scores.length < rounds || score !== null),
    queryKey: keys.drillRound(sitterId, query),
    queryFn: ({ signal }) => call<Question>(`${base(sitterId)}/drills/round?${query}`, { signal }),
    staleTime: Infinity,
    retry: false,
  });
  const answer = useMutation({
    mutationFn: (given: Given) =>
      send<Score>("POST", `${base(sitterId)}/drills/answer`, {
        drill: drill.name,
        go,
        seed,
        level,
        places,
        ...given,
      }),
    onSuccess: (found) => {
      setScore(found);
      setScores((all) => [...all, found]);
    },
  });
  const next = () => {
    if (!score) return;
    setLevel(score.level);
    setSeed(anySeed());
    setScore(null);
    answer.reset();
    if (scores.length >= rounds) void client.invalidateQueries({ queryKey: keys.drills });
  };
  useShortcuts(score ? { enter: next, " ": next } : {});
  if (scores.length >= rounds && !score) return <Ended drill={drill} scores={scores} onAgain={onAgain} />;
  return (
    <Box component="main" sx={{ flex: 1, minHeight: 0, display: "flex", flexDirection: "column" }}>
      <Box sx={{ display: "flex", alignItems: "baseline", gap: 3, px: 4, py: 1.5 }}>
        <Typography sx={{ fontFamily: serif, fontSize: textSize.head, flex: 1 }}>
          {drill.asks}
          {round.data?.count ? ` There are ${round.data.count}.` : ""}
        </Typography>
        <Typography color="text.secondary" aria-label="Round">
          {Math.min(rounds, scores.length + (score ? 0 : 1))} of {rounds}
        </Typography>
      </Box>
      {ready.isError && (
        <Typography role="alert" sx={{ px: 4 }}>
          {ready.error.message}
        </Typography>
      )}
      {round.isPending && !ready.isError && <Typography sx={{ px: 4 }}>Looking at the picture …</Typography>}
      {round.isError && (
        <Typography role="alert" sx={{ px: 4 }}>
          {round.error.message} <Link to="/drills">Choose another drill or picture.</Link>
        </Typography>
      )}
      {round.data && sitter.data && (
        <AnswerField
          key={seed}
          drill={drill}
          question={round.data}
          sitter={sitter.data}
          score={score}
          busy={answer.isPending}
          onAnswer={(given) => answer.mutate(given)}
        />
      )}
      <Box
        role="status"
        sx={{
          minHeight: 84,
          display: "flex",
          alignItems: "center",
          gap: 3,
          px: 4,
          borderTop: 1,
          borderColor: "divider",
        }}
      >
        {answer.isError && <Typography sx={{ flex: 1 }}>{answer.error.message}</Typography>}
        {score && (
          <>
            <Typography sx={{ flex: 1, fontSize: textSize.lead, fontWeight: score.right ? 700 : 400 }}>
              {score.words}
            </Typography>
            <Button variant="contained" disableElevation onClick={next} aria-keyshortcuts="Enter">
              {scores.length >= rounds ? "To the end" : "Next"}
            </Button>
          </>
        )}
      </Box>
    </Box>
  );
}

function Ended({ drill, scores, onAgain }: { drill: Drill; scores: Score[]; onAgain: () => void }) {
  const fresh = useDrills().data?.drills.find((d) => d.name === drill.name) ?? drill;
  const right = scores.filter((s) => s.right).length;
  const off = scores.reduce((sum, s) => sum + s.off, 0) / scores.length;
  return (
    <Box component="main" sx={{ p: 6, display: "grid", gap: 1.5, alignContent: "start", maxWidth: 620 }}>
      <Typography component="h2" sx={{ fontFamily: serif, fontSize: textSize.title }}>
        {right} of {scores.length} right
      </Typography>
      {drill.choices === 0 && (
        <Typography>
          On average {shown(off)} {drill.unit} off.
        </Typography>
      )}
      {fresh.threshold !== null && fresh.error !== null && (
        <Typography>
          Over all rounds your eye is at <strong>{shown(fresh.threshold)}</strong> ± {shown(fresh.error)}{" "}
          {fresh.unit}.
        </Typography>
      )}
      {fresh.due_at && (
        <Typography color="text.secondary">
          Due again on{" "}
          {new Date(fresh.due_at).toLocaleDateString("en-GB", {
            weekday: "long",
            day: "numeric",
            month: "long",
          })}
          .
        </Typography>
      )}
      <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
        <Button variant="contained" disableElevation component={Link} to="/drills">
          All drills
        </Button>
        <Button color="inherit" variant="outlined" onClick={onAgain}>
          Once more
        </Button>
      </Box>
    </Box>
  );
}
