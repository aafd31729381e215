import { Box, Button, MenuItem, TextField, useTheme } from "@mui/material";
import { useState } from "react";
import type { Schemas, Sitter } from "../../api/client";
import { useChange } from "../../api/useChange";
import { NumberField } from "../../sheet/parts";
import { serif, studio, textSize } from "../../theme";
import { freeKey } from "./OwnSchool";

type School = Schemas["School"];
type Template = School["passes"][number];

const kinds = [
  "ground", "flesh ground", "tone", "wipe", "scratch", "erase", "wash", "again", "glaze", "mass", "grey",
  "hair", "grey hair", "washed hair", "light", "lines", "lines out", "zone", "water", "light coats", "dark coats", "opaque light",
  "smear", "drawn", "accent",
] as const satisfies readonly Template["kind"][]; // prettier-ignore
const bands = [
  "whole", "groups", "thirds", "nested thirds", "lines", "shadow", "zones", "peaks", "washes", "pieces", "recesses",
  "recess darks", "highlights", "hair layers",
  "hair base", "hair strokes", "light hairs", "dark hairs", "cool halftone",
] as const satisfies readonly Template["band"][]; // prettier-ignore

const tones = ["dark to light", "light to dark", "between last"] as const;

/** Does not compile while a kind or a band that a school can name is missing above. */
type Complete<All, Listed> = [Exclude<All, Listed>] extends [never] ? true : never;
true satisfies Complete<Template["kind"], (typeof kinds)[number]>;
true satisfies Complete<Template["band"], (typeof bands)[number]>;

/** Every pass of the painter's own school on the wall, to be moved, changed, doubled or taken out. */
export function SchoolTable({ sitter, school }: { sitter: Sitter; school: School }) {
  const settings = sitter.settings.passes;
  const { change } = useChange(sitter, "passes");
  const dim = useTheme().palette.mode === "dark";
  const tone = dim ? studio.dim : studio.day;
  const [open, setOpen] = useState<string | null>(null);
  const put = (next: School, words: string) =>
    change({ own: settings.own.map((s) => (s.key === school.key ? next : s)) }, words);
  const passes = (next: Template[], words: string) => put({ ...school, passes: next }, words);
  const move = (from: number, to: number) => {
    const next = [...school.passes];
    const [one] = next.splice(from, 1);
    if (one) next.splice(to, 0, one);
    passes(next, `Move ${one?.name ?? "a pass"}`);
  };
  const edit = (at: number, part: Partial<Template>, words: string) =>
    passes(
      school.passes.map((p, i) => (i === at ? { ...p, ...part } : p)),
      words,
    );
  const double = (at: number) => {
    const one = school.passes[at];
    if (!one) return;
    const key = freeKey(
      one.key,
      school.passes.map((p) => p.key),
    );
    passes(
      [...school.passes.slice(0, at + 1), { ...one, key }, ...school.passes.slice(at + 1)],
      `Add ${one.name}`,
    );
  };
  return (
    <Box
      tabIndex={0}
      role="region"
      aria-label="Passes of the school"
      sx={{ flex: 1, minHeight: 0, overflow: "auto", bgcolor: tone.wall, p: 2 }}
    >
      <Box sx={{ bgcolor: tone.paper, color: tone.ink, p: 2 }}>
        <Words
          label="Name"
          value={school.name}
          onChange={(name) => put({ ...school, name }, `Name it ${name}`)}
        />
        <Box component="ol" sx={{ listStyle: "none", p: 0, m: 0, mt: 1 }}>
          {school.passes.map((p, i) => (
            <Box component="li" key={p.key} sx={{ borderTop: 1, borderColor: "divider", py: 0.5 }}>
              <Box sx={{ display: "flex", alignItems: "center", gap: 0.5 }}>
                <Box sx={{ flex: 1, fontFamily: serif, fontSize: textSize.lead }}>
                  {i + 1} {p.name.replace("{band}", "…")}
                </Box>
                <Button
                  color="inherit"
                  disabled={i === 0}
                  aria-label={`Move ${p.name} up`}
                  onClick={() => move(i, i - 1)}
                >
                  up
                </Button>
                <Button
                  color="inherit"
                  disabled={i === school.passes.length - 1}
                  aria-label={`Move ${p.name} down`}
                  onClick={() => move(i, i + 1)}
                >
                  down
                </Button>
                <Button
                  color="inherit"
                  aria-expanded={open === p.key}
                  aria-label={`Change ${p.name}`}
                  onClick={() => setOpen(open === p.key ? null : p.key)}
                >
                  change
                </Button>
                <Button color="inherit" aria-label={`Double ${p.name}`} onClick={() => double(i)}>
                  double
                </Button>
                <Button
                  color="inherit"
                  disabled={school.passes.length === 1}
                  aria-label={`Take out ${p.name}`}
                  onClick={() =>
                    passes(
                      school.passes.filter((_, j) => j !== i),
                      `Take out ${p.name}`,
                    )
                  }
                >
                  take out
                </Button>
              </Box>
              {open === p.key && <Fields of={p} onChange={(part, words) => edit(i, part, words)} />}
            </Box>
          ))}
        </Box>
      </Box>
    </Box>
  );
}

interface FieldsProps {
  of: Template;
  onChange: (part: Partial<Template>, words: string) => void;
}

function Fields({ of: p, onChange }: FieldsProps) {
  const choice = <K extends "kind" | "band" | "tones">(
    key: K,
    label: string,
    words: readonly Template[K][],
  ) => (
    <TextField
      select
      size="small"
      label={label}
      value={p[key]}
      onChange={(e) => onChange({ [key]: e.target.value }, `${label} of ${p.name}`)}
      sx={{ flex: 1 }}
    >
      {words.map((w) => (
        <MenuItem key={w} value={w}>
          {w}
        </MenuItem>
      ))}
    </TextField>
  );
  return (
    <Box sx={{ display: "grid", gap: 1.2, py: 1.2 }}>
      <Box sx={{ display: "flex", gap: 1 }}>
        <Words label="Name" value={p.name} onChange={(name) => onChange({ name }, `Name of ${p.name}`)} />
        {choice("kind", "Laid as", kinds)}
        {choice("band", "In", bands)}
      </Box>
      {(p.band === "groups" || p.band === "thirds") && (
        <Box sx={{ display: "flex", gap: 1 }}>{choice("tones", "Its tones", tones)}</Box>
      )}
      <Box sx={{ display: "flex", gap: 1 }}>
        <NumberField
          label="Film"
          unit="mm"
          value={p.film_mm}
          least={0.001}
          most={3}
          onChange={(v) => onChange({ film_mm: v }, `Film of ${p.name}`)}
        />
        <NumberField
          label="Dries"
          unit="min"
          value={p.dries_minutes}
          least={0}
          most={86400}
          whole
          onChange={(v) => onChange({ dries_minutes: v }, `Drying of ${p.name}`)}
        />
        <NumberField
          label="Fat"
          value={p.fat}
          least={0}
          most={3}
          whole
          onChange={(v) => onChange({ fat: v }, `Fat of ${p.name}`)}
        />
        <NumberField
          label="Washes"
          value={p.steps}
          least={1}
          most={9}
          whole
          onChange={(v) => onChange({ steps: v }, `Washes of ${p.name}`)}
        />
      </Box>
      <Words label="Edge" value={p.edge} onChange={(edge) => onChange({ edge }, `Edge of ${p.name}`)} />
      <Words label="Tool" value={p.tool} onChange={(tool) => onChange({ tool }, `Tool of ${p.name}`)} />
      <Words
        label="How"
        value={p.note}
        onChange={(note) => onChange({ note }, `How to lay ${p.name}`)}
        empty
      />
      <Words
        label="Before going on"
        value={p.inspect}
        onChange={(inspect) => onChange({ inspect }, `What to look at after ${p.name}`)}
        empty
      />
    </Box>
  );
}

interface WordsProps {
  label: string;
  value: string;
  onChange: (value: string) => void;
  /** May be left empty, and run over several lines. */
  empty?: boolean;
}

/** Words that are taken over when the field is left or Enter is pressed. */
function Words({ label, value, onChange, empty = false }: WordsProps) {
  const [text, setText] = useState(value);
  const [shown, setShown] = useState(value);
  if (shown !== value) {
    setShown(value);
    setText(value);
  }
  const take = () => {
    if (!empty && text.trim() === "") setText(value);
    else if (text !== value) onChange(text.trim());
  };
  return (
    <TextField
      label={label}
      value={text}
      size="small"
      fullWidth
      onChange={(e) => setText(e.target.value)}
      onBlur={take}
      onKeyDown={(e) => {
        if (e.key !== "Enter") return;
        e.preventDefault();
        take();
      }}
      multiline={empty}
      sx={{ flex: 1 }}
    />
  );
}
