import { Box, TextField } from "@mui/material";
import type { Schemas, Sitter } from "../../api/client";
import { base } from "../../api/client";
import { useComputed } from "../../api/hooks";
import { Handle, Say, Section } from "../../sheet/parts";
import { useCounted } from "../../sheet/Value";
import { useLeft } from "../../sitter/stored";
import { useWall } from "../../sitter/wall";
import { useIngredients } from "./useIngredients";
import { textSize } from "../../theme";

/** The picture in whole coats of two mixtures, each colour approached from its light side. */
export function CoatsSection({ sitter }: { sitter: Sitter }) {
  const value = useCounted();
  const { choices, options, isPending } = useIngredients(sitter);
  const [first, setFirst] = useLeft(`coats-first-${sitter.id}`, "");
  const [second, setSecond] = useLeft(`coats-second-${sitter.id}`, "");
  const [water, setWater] = useLeft(`coats-water-${sitter.id}`, 20);
  const known = (key: string) => (choices.some((c) => c.key === key) ? key : "");
  const both = known(first) !== "" && known(second) !== "";
  const query = new URLSearchParams({ first, second, water: String(water) }).toString();
  const found = useComputed<Schemas["CoatsOut"]>(sitter, "flesh/coats", query, both);
  const key = sitter.keys["flesh/coats"] ?? "";
  useWall({
    busy: isPending || found.isFetching,
    picture: both && found.data ? `${base(sitter.id)}/flesh/coats.png?${query}&v=${key}` : undefined,
  });
  const row = (hexes: string[], words: string) => (
    <Box sx={{ mb: 1 }}>
      <Box sx={{ display: "flex", height: 22 }} role="img" aria-label={words}>
        {hexes.map((hex, i) => (
          <Box key={i} sx={{ flex: 1, bgcolor: hex }} />
        ))}
      </Box>
      <Box sx={{ fontSize: textSize.fine }}>{words}</Box>
    </Box>
  );
  const coats = (n: number) => `${n.toFixed(1)} coats`;
  const most = (hexes: string[]) =>
    hexes.length > 1 ? `up to ${hexes.length - 1} coats of it` : "no coat of it is used";
  return (
    <Section title="Coats of two mixtures">
      <Say quiet>
        Two transparent mixtures over white paper, coat by coat. Where a coat would go too dark, one fewer is
        laid: too light costs a coat, too dark cannot be taken back.
      </Say>
      <Box sx={{ display: "flex", gap: 1, mt: 1.5, mb: 1.5 }}>
        {(
          [
            ["First", first, setFirst],
            ["Over it", second, setSecond],
          ] as const
        ).map(([label, chosen, choose]) => (
          <TextField
            key={label}
            select
            size="small"
            label={label}
            value={known(chosen)}
            onChange={(e) => choose(e.target.value)}
            sx={{ flex: 1, minWidth: 0 }}
          >
            {options}
          </TextField>
        ))}
      </Box>
      <Handle
        label="Parts of water to one of paint"
        value={water}
        least={0}
        most={60}
        step={1}
        onChange={setWater}
      />
      {found.isError && <Say>{found.error.message}</Say>}
      {both && found.data && (
        <Box data-testid="coats">
          <Say>
            Each coat {found.data.dilution.words}. On average off by{" "}
            <strong>{found.data.error.toFixed(1)}</strong> in colour, value counting more.
          </Say>
          {row(found.data.first_hexes, `The first: ${most(found.data.first_hexes)}`)}
          {row(found.data.second_hexes, `The second: ${most(found.data.second_hexes)}`)}
          <Box component="ul" sx={{ m: 0, pl: 2.2, fontSize: textSize.small }}>
            {found.data.groups.map((g) => (
              <li key={g.name}>
                <strong>{g.name}</strong>: {coats(g.first)}, then {coats(g.second)}; value{" "}
                {value(g.made_value)} for {value(g.wanted_value)}
              </li>
            ))}
          </Box>
        </Box>
      )}
    </Section>
  );
}
