import { Box, Button, TextField } from "@mui/material";
import { useState } from "react";
import type { Schemas, Sitter } from "../../api/client";
import { useBoard } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import { Downloads, useFileUrl } from "../../sheet/Download";
import { sameParts } from "../../sheet/Mix";
import { Handle, Say, Section } from "../../sheet/parts";
import { useTubes } from "../../sheet/useTubes";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { CombineSection } from "./CombineSection";
import { MixtureLine } from "./MixtureLine";
import { StringWall } from "./StringWall";

/** The palette board: strings by family on the wall, pinned mixtures on the sheet. */
export function BoardJob({ sitter }: JobProps) {
  const tubes = useTubes(sitter);
  const { pins, tones } = sitter.settings.flesh;
  const board = useBoard(sitter);
  const file = useFileUrl(sitter);
  const { change, isPending } = useChange(sitter, "flesh");
  useWall({
    busy: isPending || board.isFetching,
    instead: (
      <StringWall
        strings={board.data?.strings ?? []}
        tubes={tubes}
        words={board.isError ? board.error.message : board.isPending ? "Mixing the strings …" : null}
        busy={isPending || board.isFetching}
      />
    ),
  });
  const move = (from: number, to: number) => {
    const next = [...pins];
    const [pin] = next.splice(from, 1);
    if (pin) next.splice(to, 0, pin);
    change({ pins: next }, "Reorder the pins");
  };
  const edit = (i: number, part: Partial<Schemas["PinSettings"]>, words: string) =>
    change({ pins: pins.map((p, j) => (j === i ? { ...p, ...part } : p)) }, words);
  return (
    <>
      <Section title="Pinned">
        {pins.length === 0 && <Say quiet>Nothing yet. Pin a mixture from a spot.</Say>}
        {board.data?.pins.map((p, i) => (
          <MixtureLine
            key={`${i}${p.name}`}
            mixture={p.mixture}
            tubes={tubes}
            title={`${i + 1}`}
            action={
              <>
                <PinName name={p.name} onName={(name) => edit(i, { name }, `Rename to ${name}`)} />
                <Box sx={{ display: "flex" }}>
                  <Button
                    color="inherit"
                    size="small"
                    aria-pressed={p.locked}
                    aria-label={`Lock ${p.name}`}
                    onClick={() =>
                      edit(
                        i,
                        { locked: !p.locked, parts: p.mixture.parts, film_mm: p.mixture.film_mm },
                        p.locked ? `Free ${p.name}` : `Lock ${p.name}`,
                      )
                    }
                  >
                    {p.locked ? "locked" : "lock"}
                  </Button>
                  <HeapButton sitter={sitter} name={p.name} parts={p.mixture.parts} />
                  <Button
                    color="inherit"
                    size="small"
                    disabled={i === 0}
                    onClick={() => move(i, i - 1)}
                    aria-label={`Move ${p.name} up`}
                  >
                    up
                  </Button>
                  <Button
                    color="inherit"
                    size="small"
                    disabled={i === pins.length - 1}
                    onClick={() => move(i, i + 1)}
                    aria-label={`Move ${p.name} down`}
                  >
                    down
                  </Button>
                  <Button
                    color="inherit"
                    size="small"
                    aria-label={`Unpin ${p.name}`}
                    onClick={() => change({}, `Unpin ${p.name}`, { pins: { start: i, remove: 1 } })}
                  >
                    unpin
                  </Button>
                </Box>
              </>
            }
          />
        ))}
        {pins.length > 0 && (
          <Say quiet>
            A locked mixture keeps its parts when you change the tubes; the others are solved anew.
          </Say>
        )}
      </Section>
      <CombineSection sitter={sitter} />
      <Section title="Strings">
        <Handle
          label="Tones in a string"
          value={tones}
          least={3}
          most={9}
          step={1}
          onChange={(v) => change({ tones: v }, `${v} tones`)}
        />
        <Say quiet>
          On the wall: a row of mixtures for each part of the sitter, from dark to light, each made from the
          one before.
        </Say>
      </Section>
      <Section title="Download">
        <Downloads
          files={["A4", "Letter"].map((paper) => ({
            label: `Sheet, ${paper}`,
            href: file("mixtures.pdf", { paper }),
          }))}
        />
        <Downloads
          files={[
            { label: "CSV", href: file("mixtures.csv") },
            { label: "JSON", href: file("plan.json") },
          ]}
        />
      </Section>
    </>
  );
}

function PinName({ name, onName }: { name: string; onName: (name: string) => void }) {
  const [text, setText] = useState(name);
  const take = () => {
    if (text.trim() && text.trim() !== name) onName(text.trim());
    else setText(name);
  };
  return (
    <TextField
      variant="standard"
      size="small"
      fullWidth
      value={text}
      onChange={(e) => setText(e.target.value)}
      onBlur={take}
      onKeyDown={(e) => e.key === "Enter" && take()}
      slotProps={{
        htmlInput: { "aria-label": `Name of pin ${name}`, maxLength: 60 },
        input: { disableUnderline: true },
      }}
    />
  );
}

/** Makes a pinned mixture a heap of the plan, whatever the plan would mix itself. */
function HeapButton({
  sitter,
  name,
  parts,
}: {
  sitter: Sitter;
  name: string;
  parts: Record<string, number>;
}) {
  const { change } = useChange(sitter, "passes");
  const heaps = sitter.settings.passes.own_heaps;
  const is = heaps.some((h) => sameParts(h.parts, parts));
  const rest = heaps.filter((h) => !sameParts(h.parts, parts));
  return (
    <Button
      color="inherit"
      size="small"
      aria-pressed={is}
      aria-label={`${name} is a heap of the plan`}
      disabled={!is && heaps.length >= 12}
      onClick={() =>
        change(
          { own_heaps: is ? rest : [...rest, { name: name.slice(0, 40), parts }] },
          is ? `${name} is no heap` : `${name} is a heap`,
        )
      }
    >
      {is ? "a heap" : "heap"}
    </Button>
  );
}
