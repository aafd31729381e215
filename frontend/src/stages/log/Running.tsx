import { Box, Button, MenuItem, TextField } from "@mui/material";
import { useState } from "react";
import type { Sitter } from "../../api/client";
import { useNow } from "../../log/useNow";
import { useWriting, type Sitting, type Work } from "../../log/useLog";
import { momentOf } from "../../log/words";
import { Handle, Say, Section } from "../../sheet/parts";
import { useShortcuts } from "../../sitter/shortcuts";
import { serif, textSize } from "../../theme";
import { Beside } from "./Beside";

interface Props {
  sitter: Sitter;
  sitting: Sitting;
  works: Work[];
  progress: Record<string, number>;
  /** When the sitting was read, in ms. */
  readAt: number;
}

const LONG = 12 * 60;

/** The sitting that goes on: its clock, breaks, other work, and getting up. */
export function Running({ sitter, sitting, works, progress, readAt }: Props) {
  const { write, isPending } = useWriting(sitter.id);
  const now = useNow(1000);
  const work = sitting.intervals.at(-1)?.work ?? null;
  const before = progress[work?.key ?? ""] ?? 0;
  const [done, setDone] = useState<number | null>(null);
  const said = work?.key ? (done ?? Math.max(before, 1)) : null;
  // The clock goes on from what was counted when the sitting was last read.
  const minutes = sitting.minutes + (sitting.paused ? 0 : Math.max(0, now - readAt) / 60_000);
  const pause = () => void write({ kind: sitting.paused ? "resumed" : "paused", sitting: sitting.id });
  const next = (key: string) => {
    const to = works.find((w) => w.key === key);
    if (!to) return;
    void write({ kind: "turned", sitting: sitting.id, work: to, done: said });
    setDone(null);
  };
  useShortcuts({ " ": pause });
  return (
    <Section title={work?.name ?? "At the easel"}>
      <Box
        role="timer"
        aria-label="Time of work"
        sx={{
          fontFamily: serif,
          fontSize: textSize.clock,
          lineHeight: 1.1,
          opacity: sitting.paused ? 0.55 : 1,
        }}
      >
        {ticking(minutes)}
      </Box>
      <Say quiet>
        {sitting.paused ? "Paused. Begun" : "Begun"} {momentOf(sitting.began)}
        {work?.mixture && `. ${work.mixture}`}
      </Say>
      {minutes > LONG && (
        <Say>
          Was this sitting forgotten? Get up now, then strike it out in the record and write down what it was.
        </Say>
      )}
      <Box sx={{ display: "flex", gap: 1, mt: 1, mb: 2 }}>
        <Button
          color="inherit"
          variant="outlined"
          fullWidth
          disabled={isPending}
          aria-keyshortcuts="Space"
          title={sitting.paused ? "On again (space)" : "Take a break (space)"}
          onClick={pause}
        >
          {sitting.paused ? "On again" : "Break"}
        </Button>
        <Button
          variant="contained"
          disableElevation
          fullWidth
          disabled={isPending}
          onClick={() => void write({ kind: "ended", sitting: sitting.id, done: said })}
        >
          Get up
        </Button>
      </Box>
      {work?.key && (
        <Handle
          label="Of this pass is done"
          value={Math.round((said ?? 0) * 100)}
          least={0}
          most={100}
          step={5}
          shown={(v) => `${v} %`}
          onChange={(v) => setDone(v / 100)}
        />
      )}
      <TextField
        select
        fullWidth
        size="small"
        label="Turn to"
        value=""
        disabled={isPending}
        onChange={(e) => next(e.target.value)}
        sx={{ mt: 1, mb: 2 }}
      >
        {works
          .filter((w) => w.key !== work?.key)
          .map((w) => (
            <MenuItem key={w.key} value={w.key}>
              {works.indexOf(w) + 1} {w.name}
            </MenuItem>
          ))}
      </TextField>
      <Beside sitter={sitter} sitting={sitting} />
      {sitting.notes.map((words, i) => (
        <Say key={i} quiet>
          {words}
        </Say>
      ))}
      {sitting.temperature !== null && (
        <Say quiet>
          {sitting.temperature} °C, {sitting.humidity} % of humidity
        </Say>
      )}
      {sitting.used.map((u, i) => (
        <Say key={i} quiet>
          {u.name || u.tube}: {u.ml} ml
        </Say>
      ))}
      <Say quiet>It goes on when this page is closed.</Say>
    </Section>
  );
}

function ticking(minutes: number): string {
  const seconds = Math.max(0, Math.floor(minutes * 60));
  const two = (n: number) => String(n).padStart(2, "0");
  return `${Math.floor(seconds / 3600)}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}`;
}
