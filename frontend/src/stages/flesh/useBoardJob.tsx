import { Box, Button, TextField } from "@mui/material";
import { useState } from "react";
import { base, type Schemas, type Sitter } from "../../api/client";
import { useBoard, useChange } from "../../api/hooks";
import { Handle, Say, Section } from "../../sheet/parts";
import { Recipe, type Tubes } from "../../sheet/Recipe";
import { counted, useLadderWay } from "../../sitter/ladderWay";
import type { Job } from "../job";
import { MixtureLine } from "./MixtureLine";

/** The palette board: strings by family, and pinned mixtures. */
export function useBoardJob(sitter: Sitter, active: boolean, tubes: Tubes): Job {
  const settings = sitter.settings.flesh;
  const board = useBoard(sitter, active);
  const { change, isPending } = useChange(sitter, "flesh");
  const [{ count }] = useLadderWay();
  const [open, setOpen] = useState<string | null>("skin in the light");
  const pins = settings.pins ?? [];
  const move = (from: number, to: number) => {
    const next = [...pins];
    const [pin] = next.splice(from, 1);
    if (pin) next.splice(to, 0, pin);
    change({ pins: next }, "Reorder the pins");
  };
  const edit = (i: number, part: Partial<Schemas["PinSettings"]>, words: string) => change({ pins: pins.map((p, j) => (j === i ? { ...p, ...part } : p)) }, words);
  const download = { color: "inherit", variant: "outlined", fullWidth: true } as const;
  const sheet = (
    <>
      <Section title="Pinned">
        {pins.length === 0 && <Say quiet>Nothing yet. Pin a mixture from a spot.</Say>}
        {board.data?.pins.map((p, i) => (
          <MixtureLine key={`${i}${p.name}`} mixture={p.mixture} tubes={tubes} title={`${i + 1}`}
            action={
              <>
                <PinName name={p.name} onName={(name) => edit(i, { name }, `Rename to ${name}`)} />
                <Box sx={{ display: "flex" }}>
                  <Button color="inherit" size="small" aria-pressed={p.locked} onClick={() => edit(i, { locked: !p.locked, parts: p.mixture.parts }, p.locked ? `Free ${p.name}` : `Lock ${p.name}`)}>{p.locked ? "locked" : "lock"}</Button>
                  <Button color="inherit" size="small" disabled={i === 0} onClick={() => move(i, i - 1)} aria-label={`Move ${p.name} up`}>up</Button>
                  <Button color="inherit" size="small" disabled={i === pins.length - 1} onClick={() => move(i, i + 1)} aria-label={`Move ${p.name} down`}>down</Button>
                  <Button color="inherit" size="small" onClick={() => change({ pins: pins.filter((_, j) => j !== i) }, `Unpin ${p.name}`)} aria-label={`Unpin ${p.name}`}>unpin</Button>
                </Box>
              </>
            } />
        ))}
        {pins.length > 0 && <Say quiet>A locked mixture keeps its parts when you change the tubes; the others are solved anew.</Say>}
      </Section>
      <Section title="Strings">
        <Handle label="Tones in a string" value={settings.tones ?? 5} least={3} most={9} step={1} onChange={(v) => change({ tones: v }, `${v} tones`)} />
        {board.isPending && active && <Say quiet>Mixing the strings …</Say>}
        {board.isError && <Say>{board.error.message}</Say>}
        {board.data?.strings.filter((s) => s.tones.length > 0).map((s) => (
          <Box key={s.family} sx={{ mb: 1 }}>
            <Box component="button" aria-expanded={open === s.family} onClick={() => setOpen(open === s.family ? null : s.family)} sx={{ all: "unset", cursor: "pointer", width: "100%", minHeight: 44 }}>
              <Box sx={{ fontSize: 15, fontWeight: open === s.family ? 700 : 400 }}>{s.family}</Box>
              <Box sx={{ display: "flex", height: 40 }}>
                {s.tones.map((t, i) => <Box key={i} title={`value ${counted(t.mixture.target_value, count).toFixed(1)}`} sx={{ flex: 1, bgcolor: t.mixture.predicted_hex }} />)}
              </Box>
            </Box>
            {open === s.family && [...s.tones].reverse().map((t, i) => (
              <MixtureLine key={i} mixture={t.mixture} tubes={tubes} title={`tone ${s.tones.length - i}`}
                note={t.base > 0 && <Box sx={{ fontSize: 13.5, mt: 0.5 }}>or: <strong>{t.base}</strong> of the tone before and<Recipe parts={t.added} tubes={tubes} /></Box>} />
            ))}
          </Box>
        ))}
        {board.data?.strings.every((s) => s.tones.length === 0) && <Say>Strings are mixed from opaque paint, for regions that are marked.</Say>}
      </Section>
      <Section title="Take away">
        <Box sx={{ display: "flex", gap: 1, mb: 1 }}>
          <Button {...download} href={`${base(sitter.id)}/files/mixtures.pdf?paper=A4`}>Sheet, A4</Button>
          <Button {...download} href={`${base(sitter.id)}/files/mixtures.pdf?paper=Letter`}>Sheet, Letter</Button>
        </Box>
        <Box sx={{ display: "flex", gap: 1 }}>
          <Button {...download} href={`${base(sitter.id)}/files/mixtures.csv`}>CSV</Button>
          <Button {...download} href={`${base(sitter.id)}/files/plan.json`}>JSON</Button>
        </Box>
      </Section>
    </>
  );
  return { sheet, wall: { busy: isPending || (active && board.isFetching) } };
}

function PinName({ name, onName }: { name: string; onName: (name: string) => void }) {
  const [text, setText] = useState(name);
  const take = () => {
    if (text.trim() && text.trim() !== name) onName(text.trim());
    else setText(name);
  };
  return <TextField variant="standard" size="small" fullWidth value={text} onChange={(e) => setText(e.target.value)} onBlur={take} onKeyDown={(e) => e.key === "Enter" && take()} slotProps={{ htmlInput: { "aria-label": `Name of pin ${name}`, maxLength: 60 }, input: { disableUnderline: true } }} />;
}
