import { Box, Button, MenuItem, TextField } from "@mui/material";
import { useState } from "react";
import type { Schemas, Sitter } from "../../api/client";
import { useComputed } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import { NumberField, Say, Section } from "../../sheet/parts";
import { Recipe } from "../../sheet/Recipe";
import { useCounted } from "../../sheet/Value";
import { useIngredients } from "./useIngredients";
import { textSize } from "../../theme";

interface Row {
  name: string;
  parts: number;
}

const WAYS = ["redder", "yellower", "greener", "bluer", "greyer", "stronger"] as const;

/** Mixtures mixed from one another and from tubes, and darkened or lightened with one tube by so many steps. */
export function CombineSection({ sitter }: { sitter: Sitter }) {
  const { choices, options, tubes, isPending } = useIngredients(sitter);
  const value = useCounted();
  const { change } = useChange(sitter, "flesh");
  const [rows, setRows] = useState<Row[]>([]);
  const [tube, setTube] = useState("");
  const [steps, setSteps] = useState(0);
  const [way, setWay] = useState("");
  const used = rows.filter((r) => r.parts > 0);
  const query = new URLSearchParams({ parts: JSON.stringify(used.map((r) => [r.name, r.parts])) });
  if (steps) query.set("steps", String(steps));
  if (tube) query.set("tube", tube);
  else if (way) query.set("way", way);
  const made = useComputed<Schemas["CombinedOut"]>(
    sitter,
    "flesh/combined",
    query.toString(),
    used.length > 0,
  );
  const found = used.length > 0 && !made.isError ? made.data : undefined;
  const put = (i: number, row: Row) => setRows(rows.map((r, j) => (j === i ? row : r)));
  const name = used
    .map((r) => choices.find((c) => c.key === r.name)?.name ?? r.name)
    .join(" and ")
    .slice(0, 60);
  return (
    <Section title="Mix from mixtures">
      {rows.length === 0 && (
        <Say quiet>
          A part of a mixture is a volume of it. Pins, the mixtures of the skin and some that painters know by
          name can be mixed like tubes.
        </Say>
      )}
      {rows.map((row, i) => (
        <Box key={i} sx={{ display: "flex", gap: 1, mb: 1, alignItems: "start" }} data-testid="ingredient">
          <Box sx={{ width: 72, flex: "none", display: "flex" }}>
            <NumberField
              label="Parts"
              value={row.parts}
              least={0}
              most={1000}
              whole
              onChange={(parts) => put(i, { ...row, parts })}
            />
          </Box>
          <TextField
            select
            size="small"
            label="Of"
            value={choices.some((c) => c.key === row.name) ? row.name : ""}
            onChange={(e) => put(i, { ...row, name: e.target.value })}
            sx={{ flex: 1, minWidth: 0 }}
          >
            {options}
          </TextField>
          <Button
            color="inherit"
            size="small"
            aria-label={`Leave out ingredient ${i + 1}`}
            onClick={() => setRows(rows.filter((_, j) => j !== i))}
          >
            out
          </Button>
        </Box>
      ))}
      <Button
        color="inherit"
        variant="outlined"
        disabled={rows.length >= 12 || isPending || choices.length === 0}
        onClick={() => {
          const next = choices.find((c) => rows.every((r) => r.name !== c.key));
          if (next) setRows([...rows, { name: next.key, parts: 1 }]);
        }}
      >
        Add an ingredient
      </Button>
      {rows.length > 0 && (
        <Box sx={{ display: "flex", gap: 1, mt: 1.5 }}>
          <TextField
            select
            size="small"
            label="Then add"
            value={tube}
            onChange={(e) => {
              setTube(e.target.value);
              if (e.target.value && !steps) setSteps(-1);
            }}
            sx={{ flex: 1, minWidth: 0 }}
          >
            <MenuItem value="">whatever it takes</MenuItem>
            {options.filter((_, i) => !choices[i]?.key.startsWith("@"))}
          </TextField>
          <Box sx={{ width: 128, flex: "none", display: "flex" }}>
            <NumberField label="steps, − darker" value={steps} least={-9} most={9} onChange={setSteps} />
          </Box>
        </Box>
      )}
      {rows.length > 0 && !tube && (
        <TextField
          select
          fullWidth
          size="small"
          label="And make it"
          value={way}
          onChange={(e) => setWay(e.target.value)}
          sx={{ mt: 1.5 }}
        >
          <MenuItem value="">no other colour</MenuItem>
          {WAYS.map((w) => (
            <MenuItem key={w} value={w}>
              {w}
            </MenuItem>
          ))}
        </TextField>
      )}
      {made.isError && used.length > 0 && <Say>{made.error.message}</Say>}
      {found && (
        <Box sx={{ mt: 1.5 }} data-testid="combined">
          <Box sx={{ display: "flex", gap: 1.2, mb: 0.6 }}>
            <Box
              role="img"
              aria-label={`Mixture ${found.hex}`}
              sx={{ width: 92, height: 56, flex: "none", bgcolor: found.hex }}
            />
            <Box sx={{ fontSize: textSize.small }}>
              value <strong>{value(found.value)}</strong>
              {Object.keys(found.added).length > 0 && (
                <Say>
                  {Object.entries(found.added)
                    .map(([key, n]) => `${n} of ${tubes.get(key)?.name ?? key}`)
                    .join(", ")}{" "}
                  to {found.base} of it.
                </Say>
              )}
            </Box>
          </Box>
          <Recipe parts={found.parts} tubes={tubes} heap={found.heap} />
          {found.cautions.map((c) => (
            <Say quiet key={c}>
              {c}
            </Say>
          ))}
          <Button
            color="inherit"
            size="small"
            onClick={() =>
              change({}, `Pin ${name}`, {
                pins: { add: [{ name, target_lab: found.lab, parts: found.parts, locked: true }] },
              })
            }
          >
            Keep as a pin
          </Button>
        </Box>
      )}
    </Section>
  );
}
