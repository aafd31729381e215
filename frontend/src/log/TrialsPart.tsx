import { Box, Button, TextField, ToggleButton, ToggleButtonGroup, Typography } from "@mui/material";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { NumberField } from "../sheet/parts";
import { useStored } from "../sitter/stored";
import { serif, textSize } from "../theme";
import { Table } from "./Table";
import { useTrials, useWriting } from "./useLog";
import { momentOf } from "./words";

type Trial = Schemas["TrialOut"];
type Tried = Extract<Trial["entry"]["what"], { kind: "trial" }>;
type Subject = Tried["subject"];

/** Trials of materials, those of a kind side by side, and a new one. */
export function TrialsPart() {
  const trials = useTrials();
  const [subject, setSubject] = useStored<Subject>("trial-subject", "paper");
  const { strike, isPending } = useWriting();
  const subjects = Object.keys(trials.data?.qualities ?? {}) as Subject[];
  const mine = (trials.data?.trials ?? []).filter(
    (t) => triedIn(t).subject === subject && !t.entry.struck_at,
  );
  const named = [...new Set(mine.flatMap((t) => Object.keys(triedIn(t).marks ?? {})))];
  if (trials.isError) return <Typography role="alert">{trials.error.message}</Typography>;
  if (!trials.data) return null;
  const measured = mine.some((t) => t.shift !== null);
  const laid = mine.some((t) => triedIn(t).paper || triedIn(t).medium);
  return (
    <Box sx={{ maxWidth: 1100 }}>
      <ToggleButtonGroup
        exclusive
        value={subject}
        aria-label="What was tried"
        onChange={(_, v: Subject | null) => v && setSubject(v)}
        sx={{ flexWrap: "wrap", mb: 3 }}
      >
        {subjects.map((s) => (
          <ToggleButton key={s} value={s} sx={{ px: 2 }}>
            {s}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", md: "2fr 1fr" }, gap: 5 }}>
        <Box>
          {mine.length === 0 && (
            <Typography color="text.secondary">No trial of this kind is written down yet.</Typography>
          )}
          {mine.length > 0 && (
            <Table
              label="Trials"
              heads={[
                "What",
                ...named,
                ...(laid ? ["On"] : []),
                ...(measured ? ["Dries lighter by"] : []),
                "Remarks",
                "",
              ]}
              rows={mine.map((t) => {
                const what = triedIn(t);
                return {
                  key: t.entry.id,
                  cells: [
                    <Box key="what">
                      {what.name}
                      <Box sx={{ fontSize: textSize.fine, fontWeight: 400, color: "text.secondary" }}>
                        {momentOf(t.entry.at)}
                      </Box>
                    </Box>,
                    ...named.map((q) => markOf(what.marks?.[q])),
                    ...(laid ? [[what.paper, what.medium].filter(Boolean).join(", ")] : []),
                    ...(measured ? [t.shift === null ? "" : `${t.shift.toFixed(1)} steps`] : []),
                    [
                      what.water === null ? "" : `1 : ${what.water}`,
                      what.minutes === null ? "" : `dry in ${what.minutes} min`,
                      what.words,
                    ]
                      .filter(Boolean)
                      .join("; "),
                    <Button
                      key="strike"
                      color="inherit"
                      size="small"
                      sx={{ whiteSpace: "nowrap" }}
                      disabled={isPending || t.entry.sitter !== ""}
                      aria-label={`Strike out the trial of ${what.name}`}
                      onClick={() => void strike(t.entry.id)}
                    >
                      strike out
                    </Button>,
                  ],
                };
              })}
            />
          )}
        </Box>
        <NewTrial key={subject} subject={subject} qualities={trials.data.qualities[subject] ?? []} />
      </Box>
    </Box>
  );
}

const markOf = (mark: number | undefined) => (mark === undefined ? "" : `${mark}\u00a0of\u00a05`);
const triedIn = (trial: Trial) => trial.entry.what as Tried;

function NewTrial({ subject, qualities }: { subject: Subject; qualities: string[] }) {
  const { write, isPending } = useWriting();
  const [name, setName] = useState("");
  const [paper, setPaper] = useState("");
  const [medium, setMedium] = useState("");
  const [words, setWords] = useState("");
  const [marks, setMarks] = useState<Record<string, number>>({});
  const [read, setRead] = useState<{ wet: number; dry: number; minutes: number; water: number } | null>(null);
  const text = (label: string, value: string, set: (v: string) => void, most = 120) => (
    <TextField
      label={label}
      size="small"
      fullWidth
      value={value}
      onChange={(e) => set(e.target.value)}
      slotProps={{ htmlInput: { maxLength: most } }}
    />
  );
  const swatched = subject === "drying" || subject === "dilution";
  const keep = async () => {
    const measured = read ?? { wet: null, dry: null, minutes: null, water: null };
    const what: Tried = {
      kind: "trial",
      subject,
      name: name.trim(),
      paper: paper.trim(),
      medium: medium.trim(),
      marks,
      words: words.trim(),
      sha256: null,
      ...measured,
    };
    if (await write(what)) {
      setName("");
      setWords("");
      setMarks({});
      setRead(null);
    }
  };
  return (
    <Box component="section" aria-label="New trial" sx={{ display: "grid", gap: 1.5, alignContent: "start" }}>
      <Typography component="h2" sx={{ fontFamily: serif, fontSize: textSize.head }}>
        New trial
      </Typography>
      {text("What was tried", name, setName)}
      {text("On paper or ground", paper, setPaper)}
      {text("In medium", medium, setMedium)}
      {qualities.map((quality) => (
        <Box key={quality}>
          <Typography sx={{ fontSize: textSize.small }}>{quality}</Typography>
          <ToggleButtonGroup
            exclusive
            fullWidth
            value={marks[quality] ?? null}
            aria-label={quality}
            onChange={(_, v: number | null) => {
              const others = Object.fromEntries(Object.entries(marks).filter(([q]) => q !== quality));
              setMarks(v === null ? others : { ...others, [quality]: v });
            }}
          >
            {[1, 2, 3, 4, 5].map((n) => (
              <ToggleButton key={n} value={n} aria-label={`${quality}, ${n} of 5`}>
                {n}
              </ToggleButton>
            ))}
          </ToggleButtonGroup>
        </Box>
      ))}
      {swatched && !read && (
        <Button
          color="inherit"
          variant="outlined"
          onClick={() => setRead({ wet: 5, dry: 5.5, minutes: 20, water: 5 })}
        >
          With a swatch that was read
        </Button>
      )}
      {read && (
        <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1.5 }}>
          <NumberField
            label="Value wet"
            value={read.wet}
            least={0}
            most={10}
            onChange={(wet) => setRead({ ...read, wet })}
          />
          <NumberField
            label="Value dry"
            value={read.dry}
            least={0}
            most={10}
            onChange={(dry) => setRead({ ...read, dry })}
          />
          <NumberField
            label="Dry after"
            unit="min"
            value={read.minutes}
            least={1}
            most={100000}
            onChange={(minutes) => setRead({ ...read, minutes })}
          />
          <NumberField
            label="Thinner to 1 of paint"
            value={read.water}
            least={0}
            most={50}
            onChange={(water) => setRead({ ...read, water })}
          />
        </Box>
      )}
      {text("Remarks", words, setWords, 2000)}
      <Button
        variant="contained"
        disableElevation
        disabled={isPending || name.trim() === ""}
        onClick={() => void keep()}
      >
        Write the trial down
      </Button>
    </Box>
  );
}
