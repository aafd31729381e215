import { Box, Button, Checkbox, MenuItem, TextField } from "@mui/material";
import { useState } from "react";
import { base } from "../../api/client";
import { useLog, usePossible, useWorks, useWriting, type Work } from "../../log/useLog";
import { momentOf, until, worked } from "../../log/words";
import { useNow } from "../../log/useNow";
import { Say, Section } from "../../sheet/parts";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { Running } from "./Running";
import { textSize } from "../../theme";

/** The sitting at the easel: what can be painted now, the clock, and what is left for next time. */
export function SittingJob({ sitter }: JobProps) {
  const log = useLog(sitter);
  const works = useWorks(sitter);
  const open = log.data?.open ?? null;
  const writing = useWriting(sitter.id);
  const possible = usePossible(sitter.id, !open);
  const [chosen, setChosen] = useState<string | null>(null);
  const [beside, setBeside] = useState("");
  const now = useNow(20_000);
  const offered = works.data?.[(possible.data?.number ?? 1) - 1];
  const key = chosen ?? offered?.key ?? "";
  const work = works.data?.find((w) => w.key === key);
  const at = works.data?.findIndex((w) => w.key === (open ? open.intervals.at(-1)?.work?.key : key)) ?? -1;
  useWall({
    busy: works.isFetching,
    picture:
      at >= 0 ? `${base(sitter.id)}/passes/canvas/${at + 1}?v=${sitter.keys["passes"] ?? ""}` : undefined,
  });
  const ahead = log.data?.ahead ?? [];
  const clocks = log.data?.clocks ?? [];
  return (
    <>
      {log.isError && <Say>{log.error.message}</Say>}
      {open && log.data && (
        <Running
          key={open.id}
          sitter={sitter}
          sitting={open}
          works={works.data ?? []}
          progress={log.data.progress}
          readAt={log.dataUpdatedAt}
        />
      )}
      {!open && (
        <Section title="At the easel">
          {possible.isPending && <Say quiet>Looking what can be painted now …</Say>}
          {possible.isError && <Say>{possible.error.message}</Say>}
          {possible.data && (
            <Say>
              {possible.data.number === null ? (
                "Every pass of the plan is done."
              ) : possible.data.now ? (
                <>
                  Now: <strong>{possible.data.name}</strong>, about {worked(possible.data.minutes)} of work.
                </>
              ) : (
                <>
                  <strong>{possible.data.name}</strong> can be painted in{" "}
                  {until(possible.data.since, now) || "a moment"}: {possible.data.waits_for.join(", ")} is
                  still wet.
                </>
              )}
            </Say>
          )}
          <TextField
            select
            fullWidth
            size="small"
            label="What you sit down to"
            value={works.data?.some((w) => w.key === key) ? key : ""}
            onChange={(e) => setChosen(e.target.value)}
            sx={{ mt: 1, mb: 1.5 }}
          >
            <MenuItem value="">Something beside the plan</MenuItem>
            {works.data?.map((w, i) => (
              <MenuItem key={w.key} value={w.key}>
                {i + 1} {w.name}
              </MenuItem>
            ))}
          </TextField>
          {!work && (
            <TextField
              fullWidth
              size="small"
              label="What it is"
              value={beside}
              onChange={(e) => setBeside(e.target.value)}
              slotProps={{ htmlInput: { maxLength: 120 } }}
              sx={{ mb: 1.5 }}
            />
          )}
          {work?.mixture && <Say quiet>{work.mixture}</Say>}
          <Button
            variant="contained"
            disableElevation
            fullWidth
            disabled={writing.isPending || log.isPending}
            onClick={() => void writing.write({ kind: "began", work: work ?? besidePlan(beside) })}
          >
            Begin the sitting
          </Button>
        </Section>
      )}
      {clocks.length > 0 && (
        <Section title="Drying">
          <Box component="ul" aria-label="Drying" sx={{ listStyle: "none", p: 0, m: 0 }}>
            {clocks.map((c) => (
              <Box
                component="li"
                key={`${c.key}-${c.name}`}
                sx={{ display: "flex", gap: 1, fontSize: textSize.body, py: 0.3 }}
              >
                <span style={{ flex: 1 }}>{c.name}</span>
                <span title={momentOf(c.dry_at)}>{until(c.dry_at, now) || "dry"}</span>
              </Box>
            ))}
          </Box>
        </Section>
      )}
      {ahead.length > 0 && (
        <Section title="Next time">
          {ahead.map((a) => (
            <Box
              key={a.entry}
              component="label"
              sx={{ display: "flex", alignItems: "center", minHeight: 44 }}
            >
              <Checkbox
                color="default"
                checked={false}
                onChange={() => void writing.write({ kind: "settled", entry: a.entry })}
                slotProps={{ input: { "aria-label": `Done: ${a.words}` } }}
              />
              {a.words}
            </Box>
          ))}
        </Section>
      )}
    </>
  );
}

/** Work that is in no plan: nothing is reckoned of it. */
function besidePlan(name: string): Work | null {
  if (name.trim() === "") return null;
  return {
    name: name.trim(),
    school: "",
    key: "",
    kind: "",
    place: "",
    mixture: "",
    brush_mm: 0,
    area_cm2: 0,
    minutes: 0,
    ml: 0,
    dries_minutes: 0,
  };
}
