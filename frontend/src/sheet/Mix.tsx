import { Box, InputBase } from "@mui/material";
import { useEffect, useState } from "react";
import type { Schemas } from "../api/client";
import { textSize } from "../theme";
import { Recipe, type Tubes } from "./Recipe";

type Mixed = Pick<Schemas["PlanPass"], "parts" | "heap" | "mix" | "mix_words">;

/** What a pass takes from the palette: heaps and tubes as dabs; straight from the tubes one press away. */
export function Mix({ pass, tubes }: { pass: Mixed; tubes: Tubes }) {
  if (Object.keys(pass.parts).length === 0) return null;
  const straight = <Recipe parts={pass.parts} tubes={tubes} heap={pass.heap} />;
  if (pass.mix.length === 0) return straight;
  return (
    <Box>
      <Box aria-hidden sx={{ display: "flex", height: 14, border: 1, borderColor: "divider" }}>
        {pass.mix.map((one) => (
          <Box key={one.name} sx={{ flex: `${one.parts} 0 3px`, bgcolor: one.hex }} />
        ))}
      </Box>
      <Box sx={{ fontSize: textSize.small, mt: 0.4, fontWeight: 700 }}>{pass.mix_words}</Box>
      <Box component="details" sx={{ fontSize: textSize.fine, color: "text.secondary", mt: 0.3 }}>
        <summary>Straight from the tubes</summary>
        {straight}
      </Box>
    </Box>
  );
}

/** Whether two mixtures are one. */
export function sameParts(one: Record<string, number>, other: Record<string, number>) {
  const keys = Object.keys(one);
  return keys.length === Object.keys(other).length && keys.every((k) => one[k] === other[k]);
}

/** The heaps of a plan: what each is mixed from, how much of it, and which passes take of it. */
export function Heaps({
  heaps,
  tubes,
  onName,
}: {
  heaps: Schemas["PlanPaletteHeap"][];
  tubes: Tubes;
  /** Left out where names cannot be changed. */
  onName?: (heap: Schemas["PlanPaletteHeap"], name: string) => void;
}) {
  return heaps.map((heap) => (
    <Box key={heap.id} sx={{ display: "flex", gap: 1.2, mb: 1.2 }}>
      <Box
        role="img"
        aria-label={`${heap.name} ${heap.hex}`}
        sx={{ width: 44, height: 44, flex: "none", bgcolor: heap.hex }}
      />
      <Box sx={{ flex: 1 }}>
        <Box sx={{ display: "flex", justifyContent: "space-between", fontSize: textSize.small }}>
          {onName ? (
            <HeapName name={heap.name} onName={(name) => onName(heap, name)} />
          ) : (
            <strong>{heap.name}</strong>
          )}
          <span>{heap.ml < 0.1 ? "a touch" : `${heap.ml.toFixed(1)} ml`}</span>
        </Box>
        <Recipe parts={heap.parts} tubes={tubes} heap={heap.weakened} />
        <Box sx={{ fontSize: textSize.fine, color: "text.secondary" }}>
          {heap.passes.length > 1 ? "Passes" : "Pass"} {heap.passes.join(", ")}
        </Box>
      </Box>
    </Box>
  ));
}

/** A name that is taken over when the field is left or Enter is pressed. */
function HeapName({ name, onName }: { name: string; onName: (name: string) => void }) {
  const [text, setText] = useState(name);
  useEffect(() => setText(name), [name]);
  const take = () => {
    const plain = text.trim();
    if (plain === "") setText(name);
    else if (plain !== name) onName(plain);
  };
  return (
    <InputBase
      value={text}
      onChange={(e) => setText(e.target.value)}
      onBlur={take}
      onKeyDown={(e) => e.key === "Enter" && take()}
      inputProps={{ "aria-label": `Name of the heap ${name}`, maxLength: 40 }}
      sx={{ fontSize: textSize.small, fontWeight: 700, flex: 1, "& input": { p: 0 } }}
    />
  );
}

/** The palette of a plan at a glance. */
export function Palette({ heaps }: { heaps: Schemas["PlanPaletteHeap"][] }) {
  if (heaps.length === 0) return null;
  return (
    <Box component="ul" aria-label="Heaps" sx={{ display: "flex", flexWrap: "wrap", gap: 1, p: 0, my: 1 }}>
      {heaps.map((heap) => (
        <Box component="li" key={heap.id} sx={{ listStyle: "none", width: 68, fontSize: textSize.fine }}>
          <Box sx={{ height: 26, bgcolor: heap.hex, border: 1, borderColor: "divider" }} />
          {heap.name}
        </Box>
      ))}
    </Box>
  );
}
