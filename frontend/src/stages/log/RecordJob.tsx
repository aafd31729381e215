import { Box, Button, ToggleButton, ToggleButtonGroup, TextField } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { base, call, type Schemas } from "../../api/client";
import { EntryLine } from "../../log/EntryLine";
import { useLog, useWriting, zone } from "../../log/useLog";
import { momentOf, worked } from "../../log/words";
import { Downloads } from "../../sheet/Download";
import { Say, Section, Toggle } from "../../sheet/parts";
import { useNotice } from "../../sitter/notice";
import type { JobProps } from "../job";
import { PastSitting } from "./PastSitting";
import { textSize } from "../../theme";

/** What was written down of this painting: its sittings, everything in order, how it is liked, files. */
export function RecordJob({ sitter }: JobProps) {
  const log = useLog(sitter);
  const { write, strike, isPending } = useWriting(sitter.id);
  const [all, setAll] = useState(false);
  const files = `${base(sitter.id)}/log`;
  const sittings = log.data?.sittings ?? [];
  const entries = [...(log.data?.entries ?? [])].reverse();
  return (
    <>
      <Section title="Sittings">
        {log.isPending && <Say quiet>Reading the log …</Say>}
        {log.isError && <Say>{log.error.message}</Say>}
        {log.data && sittings.length === 0 && (
          <Say quiet>None yet. Begin one under sitting, or write one down that has been.</Say>
        )}
        {sittings.length > 0 && (
          <Say>
            <strong>{worked(log.data?.minutes ?? 0)}</strong> in {sittings.length}{" "}
            {sittings.length === 1 ? "sitting" : "sittings"}.
          </Say>
        )}
        <Box component="ol" aria-label="Sittings" sx={{ listStyle: "none", p: 0, m: 0 }}>
          {[...sittings].reverse().map((s) => (
            <Box component="li" key={s.id} sx={{ mb: 1.2 }}>
              <Box sx={{ display: "flex", fontWeight: 700 }}>
                <span style={{ flex: 1 }}>
                  {momentOf(s.began)}
                  {s.painter && `, ${s.painter}`}
                </span>
                <span>{s.ended ? worked(s.minutes) : "goes on"}</span>
              </Box>
              {s.intervals.map(
                (b, i) =>
                  b.work && (
                    <Box key={i} sx={{ display: "flex", fontSize: textSize.small }}>
                      <span style={{ flex: 1 }}>
                        {b.work.name}
                        {b.done !== null && `, ${Math.round(b.done * 100)} % done`}
                      </span>
                      <span>{worked(b.minutes)}</span>
                    </Box>
                  ),
              )}
            </Box>
          ))}
        </Box>
        <PastSitting sitter={sitter} />
      </Section>
      <Liked onJudge={(what) => write(what)} busy={isPending} />
      <Section title="Everything in order">
        <Toggle label="Also what was struck out" on={all} onChange={setAll} />
        <Box component="ol" aria-label="Entries" sx={{ listStyle: "none", p: 0, m: 0 }}>
          {entries
            .filter((e) => all || !e.struck_at)
            .map((e) => (
              <EntryLine key={e.id} entry={e} onStrike={() => void strike(e.id)} busy={isPending} />
            ))}
        </Box>
      </Section>
      <Section title="Files">
        <Downloads
          files={[
            { label: "Record, PDF", href: `${files}/record.pdf?zone=${encodeURIComponent(zone)}` },
            { label: "Table, CSV", href: `${files}/file.csv` },
          ]}
        />
        <Downloads
          files={[
            { label: "Log, JSON", href: `${files}/file.json` },
            { label: "Calendar, iCalendar", href: `${files}/file.ics` },
          ]}
        />
        {(sitter.settings.easel.paintings ?? []).length > 0 && (
          <Downloads
            files={[
              { label: "Film, PNG", href: `${files}/film.zip` },
              { label: "Film, OpenRaster", href: `${files}/film.ora` },
            ]}
          />
        )}
        <TakeInLog sitterId={sitter.id} />
      </Section>
    </>
  );
}

function TakeInLog({ sitterId }: { sitterId: string }) {
  const input = useRef<HTMLInputElement>(null);
  const notice = useNotice();
  const { refresh } = useWriting(sitterId);
  const take = useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.append("file", file);
      return call<Schemas["TakenIn"]>(`${base(sitterId)}/log/file`, { method: "POST", body: form });
    },
    onSuccess: ({ new: added }) => {
      notice(added === 1 ? "One new entry." : `${added} new entries.`);
      return refresh();
    },
    onError: (error) => notice(error.message),
  });
  return (
    <>
      <Button
        color="inherit"
        variant="outlined"
        fullWidth
        disabled={take.isPending}
        onClick={() => input.current?.click()}
      >
        {take.isPending ? "Reading it …" : "Take a log in, CSV or JSON"}
      </Button>
      <input
        ref={input}
        type="file"
        hidden
        accept=".json,.csv,application/json,text/csv"
        aria-label="Log to take in"
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = "";
          if (file) take.mutate(file);
        }}
      />
    </>
  );
}

type Judged = { kind: "judged"; liked: number; why: string; by: string };

function Liked({ onJudge, busy }: { onJudge: (what: Judged) => Promise<boolean>; busy: boolean }) {
  const [liked, setLiked] = useState<number | null>(null);
  const [why, setWhy] = useState("");
  const [by, setBy] = useState("");
  return (
    <Section title="How it is liked">
      <ToggleButtonGroup
        exclusive
        fullWidth
        value={liked}
        aria-label="Liked, of five"
        onChange={(_, v: number | null) => setLiked(v)}
        sx={{ mb: 1.5 }}
      >
        {[1, 2, 3, 4, 5].map((n) => (
          <ToggleButton key={n} value={n} aria-label={`${n} of 5`}>
            {n}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      {liked !== null && (
        <>
          <TextField
            label="Why"
            size="small"
            fullWidth
            multiline
            value={why}
            onChange={(e) => setWhy(e.target.value)}
            slotProps={{ htmlInput: { maxLength: 2000 } }}
            sx={{ mb: 1.5 }}
          />
          <Box sx={{ display: "flex", gap: 1 }}>
            <TextField
              label="By"
              size="small"
              fullWidth
              value={by}
              onChange={(e) => setBy(e.target.value)}
              slotProps={{ htmlInput: { maxLength: 60 } }}
            />
            <Button
              color="inherit"
              variant="outlined"
              disabled={busy}
              onClick={async () => {
                if (await onJudge({ kind: "judged", liked, why: why.trim(), by: by.trim() })) {
                  setLiked(null);
                  setWhy("");
                }
              }}
            >
              Write
            </Button>
          </Box>
        </>
      )}
    </Section>
  );
}
