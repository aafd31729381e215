import { MenuItem, TextField } from "@mui/material";
import { base, type Schemas, type Sitter } from "../../api/client";
import { useComputed } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import { Say, Section } from "../../sheet/parts";
import { useStored } from "../../sitter/stored";

export type Painting = Schemas["PaintingSettings"];
export type Comparison = Schemas["EaselComparison"];
export type View = "painting" | "squared" | "plan" | "reference" | "difference" | "photograph";

/** Photographs of the painting, newest first, and the chosen one: the same in every job of the easel. */
export function usePainting(sitter: Sitter) {
  const rows = sitter.settings.easel.paintings;
  const paintings = [...rows].sort(
    (a, b) => b.taken_at.localeCompare(a.taken_at) || (b.after ?? 9999) - (a.after ?? 9999),
  );
  const [key, choose] = useStored(`painting-${sitter.id}`, "");
  const painting = paintings.find((p) => p.key === key) ?? paintings[0];
  const { change, isPending } = useChange(sitter, "easel");
  const at = rows.findIndex((p) => p.key === painting?.key);
  /** Change the chosen photograph's settings. */
  const set = (fields: Partial<Painting>, words: string) => {
    if (painting)
      change({}, words, { paintings: { start: at, remove: 1, add: [{ ...painting, ...fields }] } });
  };
  const remove = () => {
    if (painting) change({}, `Take away ${painting.name}`, { paintings: { start: at, remove: 1, add: [] } });
  };
  return { paintings, painting, choose, set, remove, change, isPending };
}

export const useComparison = (sitter: Sitter, painting: Painting | undefined) =>
  useComputed<Comparison>(
    sitter,
    "easel/compared",
    `painting=${painting?.key ?? ""}`,
    painting !== undefined,
  );

/** How two paintings differ; asked for only when there are two. */
export const useBetween = (sitter: Sitter, painting: Painting | undefined, other: string) =>
  useComputed<Schemas["BetweenOut"][]>(
    sitter,
    "easel/between",
    `painting=${painting?.key ?? ""}&other=${other}`,
    painting !== undefined && other !== "",
  );

/** Address of one of a painting's pictures. */
export function easelUrl(
  sitter: Sitter,
  painting: Painting | undefined,
  view: View,
  more: Record<string, string> = {},
) {
  if (!painting) return null;
  const said = new URLSearchParams({
    painting: painting.key,
    ...more,
    v: sitter.keys["easel/compared"] ?? "",
  });
  return `${base(sitter.id)}/easel/picture/${view}?${said.toString()}`;
}

/** What a photograph shows, in words. */
export const stateOf = (painting: Painting) =>
  `${painting.taken_at}, ${
    painting.against === "drawing"
      ? "bare drawing"
      : painting.after === null
        ? "finished"
        : `after pass ${painting.after}`
  }`;

interface SelectProps {
  paintings: Painting[];
  painting: Painting | undefined;
  choose: (key: string) => void;
}

/** A list to choose a photograph from; words where there is none yet. */
export function PaintingSelect({ paintings, painting, choose }: SelectProps) {
  if (!painting)
    return (
      <Section title="Easel">
        <Say>There is no photograph of the painting yet. Take one in under “take in”.</Say>
      </Section>
    );
  return (
    <TextField
      select
      fullWidth
      size="small"
      label="Photograph"
      value={painting.key}
      onChange={(e) => choose(e.target.value)}
      sx={{ mb: 2 }}
    >
      {paintings.map((p) => (
        <MenuItem key={p.key} value={p.key}>
          {stateOf(p)}
        </MenuItem>
      ))}
    </TextField>
  );
}
