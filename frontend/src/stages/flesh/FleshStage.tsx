import { Autocomplete, Box, Button, Chip, FormControlLabel, MenuItem, Switch, TextField } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Circle } from "react-konva";
import { base, call, type Mixture, type Schemas } from "../../api/client";
import { useChange, useFlesh, useLibrary, useValues } from "../../api/hooks";
import type { Spot } from "../../picture/PictureStage";
import { Handle, Say, Section } from "../../sheet/parts";
import { Pair, Recipe, type Tubes } from "../../sheet/Recipe";
import { Workspace, type StageProps } from "../../sitter/Workspace";

/** Mixtures: the tubes set out, a recipe for each value group of the skin, and for any spot. */
export function FleshStage({ sitter, look, onLook }: StageProps) {
  const settings = sitter.settings.flesh;
  const library = useLibrary();
  const flesh = useFlesh(sitter);
  const values = useValues(sitter);
  const { change, isPending } = useChange(sitter, "flesh");
  const [spot, setSpot] = useState<Spot | null>(null);
  const atSpot = useQuery({
    queryKey: ["spot", sitter.id, sitter.keys["flesh"], spot],
    queryFn: () => call<Schemas["SpotOut"]>(`${base(sitter.id)}/flesh/spot?x=${spot?.[0] ?? 0}&y=${spot?.[1] ?? 0}`),
    enabled: spot !== null,
    placeholderData: (old) => old,
  });
  const tubes: Tubes = useMemo(() => new Map(library.data?.tubes.map((t) => [t.key, t])), [library.data]);
  const chosen = settings.tubes ?? [];
  const setTubes = (next: string[], words: string) => {
    if (next.length) change({ palette: "own", tubes: next }, words);
  };
  const names = new Map(values.data?.plan.groups.map((g) => [g.index, g.name]));

  const sheet = (
    <>
      <Section title="At a spot">
        {!spot && <Say quiet>Press anywhere on the picture: the mixture for that spot comes here.</Say>}
        {atSpot.data && (
          <MixtureLine mixture={atSpot.data.mixture} tubes={tubes} title={atSpot.data.place} onAdd={(k) => setTubes([...chosen, k], `Add ${tubes.get(k)?.name ?? k}`)} />
        )}
        {atSpot.isError && <Say>{atSpot.error.message}</Say>}
      </Section>
      <Section title="Flesh, light to dark">
        {flesh.isPending && <Say quiet>Mixing …</Say>}
        {flesh.isError && <Say>{flesh.error.message}</Say>}
        {flesh.data?.mixtures.length === 0 && <Say>No skin is marked yet. Scribble over the skin in Reference.</Say>}
        {[...(flesh.data?.mixtures ?? [])].reverse().map((m) => (
          <MixtureLine key={m.group} mixture={m} tubes={tubes} title={`${(m.group ?? 0) + 1} ${names.get(m.group ?? -1) ?? ""}`}
            onAdd={(k) => setTubes([...chosen, k], `Add ${tubes.get(k)?.name ?? k}`)} />
        ))}
        {flesh.data && (
          <Say quiet>
            These tubes reach from value {flesh.data.darkest.toFixed(1)} to {flesh.data.lightest.toFixed(1)}; the photograph is {settings.clip ? "cut off" : "eased"} into that. Left half of a swatch: wanted. Right half: predicted.
          </Say>
        )}
      </Section>
      <Section title="Tubes set out">
        <TextField select fullWidth size="small" label="Start from" value={library.data?.palettes.some((p) => p.key === settings.palette) ? settings.palette : "own"} sx={{ mb: 1.5 }}
          onChange={(e) => {
            const palette = library.data?.palettes.find((p) => p.key === e.target.value);
            if (palette) change({ palette: palette.key, tubes: palette.tubes, transparent: palette.transparent }, `Palette: ${palette.name}`);
          }}>
          {library.data?.palettes.map((p) => <MenuItem key={p.key} value={p.key}>{p.name}</MenuItem>)}
          <MenuItem value="own">own tubes</MenuItem>
        </TextField>
        <Autocomplete multiple disableClearable size="small" options={library.data?.tubes.map((t) => t.key) ?? []} value={chosen}
          getOptionLabel={(k) => { const t = tubes.get(k); return t ? `${t.name} (${t.ci_name})` : k; }}
          groupBy={(k) => tubes.get(k)?.family ?? ""}
          onChange={(_, next) => setTubes(next, next.length > chosen.length ? "Add a tube" : "Put a tube away")}
          renderValue={(keys, item) => keys.map((k, index) => {
            const { key, ...rest } = item({ index });
            return <Chip key={key} {...rest} label={tubes.get(k)?.name ?? k} icon={<Box sx={{ width: 16, height: 16, bgcolor: tubes.get(k)?.hex, ml: "8px !important" }} />} />;
          })}
          renderInput={(p) => <TextField {...p} label="Tubes" />} />
        <Handle label="Tubes in one mixture, at most" value={settings.most_tubes ?? 4} least={1} most={6} step={1} onChange={(v) => change({ most_tubes: v }, `At most ${v} tubes`)} />
        <FormControlLabel control={<Switch color="default" checked={settings.transparent ?? false} onChange={(_, on) => change({ transparent: on }, on ? "Washes on paper" : "Opaque paint")} />} label="Washes on white paper" />
        <FormControlLabel control={<Switch color="default" checked={settings.clip ?? false} onChange={(_, on) => change({ clip: on }, on ? "Clip values" : "Ease values")} />} label="Cut values off instead of easing them" />
      </Section>
      <Section title="Cautions">
        {flesh.data?.cautions.map((c) => <Say quiet key={c}>{c}</Say>)}
      </Section>
    </>
  );
  return (
    <Workspace sitter={sitter} look={look} onLook={onLook} sheet={sheet} tool="pick" onPick={setSpot}
      busy={flesh.isFetching || isPending} reach={flesh.data}
      overlay={(px, size) => spot && (
        <>
          <Circle listening={false} x={spot[0] * size.width} y={spot[1] * size.height} radius={11 * px} stroke="#ffffff" strokeWidth={4 * px} />
          <Circle listening={false} x={spot[0] * size.width} y={spot[1] * size.height} radius={11 * px} stroke="#000000" strokeWidth={1.5 * px} />
        </>
      )} />
  );
}

function MixtureLine({ mixture, tubes, title, onAdd }: { mixture: Mixture; tubes: Tubes; title: string; onAdd: (key: string) => void }) {
  const off = Math.abs(mixture.value_error) < 0.05 ? "value met" : `value ${mixture.value_error > 0 ? "+" : "−"}${Math.abs(mixture.value_error).toFixed(1)} steps`;
  return (
    <Box data-testid="mixture" sx={{ display: "flex", gap: 1.2, py: 1, borderBottom: 1, borderColor: "divider" }}>
      <Pair left={mixture.target_hex} right={mixture.predicted_hex} label={`Wanted ${mixture.target_hex}, predicted ${mixture.predicted_hex}`} />
      <Box sx={{ flex: 1, minWidth: 0 }}>
        <Box sx={{ display: "flex", justifyContent: "space-between", mb: 0.4, gap: 1 }}>
          <strong>{title}</strong><span>{mixture.target_value.toFixed(1)}</span>
        </Box>
        <Recipe parts={mixture.parts} tubes={tubes} filmMm={mixture.film_mm} />
        <Box sx={{ fontSize: 13.5, color: "text.secondary" }}>
          ΔE {mixture.delta_e.toFixed(1)}, {off}{mixture.on_screen ? "" : "; this screen cannot show it truly"}
        </Box>
        {!mixture.reached && (
          <Box sx={{ fontSize: 14.5, fontWeight: 600 }}>
            Cannot be reached{mixture.suggested_tube ? ". " : " with these tubes."}
            {mixture.suggested_tube && (
              <Button color="inherit" variant="outlined" size="small" onClick={() => onAdd(mixture.suggested_tube ?? "")} sx={{ mt: 0.5 }}>
                Add {tubes.get(mixture.suggested_tube)?.name}: ΔE {mixture.suggested_delta_e?.toFixed(1)}
              </Button>
            )}
          </Box>
        )}
      </Box>
    </Box>
  );
}
