import { Autocomplete, Box, Button, Chip, MenuItem, TextField } from "@mui/material";
import { useState } from "react";
import { Link } from "react-router";
import { useFlesh, useLibrary } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import { Handle, Say, Section, Toggle } from "../../sheet/parts";
import { useRackChanges } from "../../rack/useRack";
import { useTubes } from "../../sheet/useTubes";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { DryingSection } from "./DryingSection";
import { MediumSection } from "./MediumSection";
import { useTubeChoice } from "./useTubeChoice";

/** The tubes set out, and what recipes must keep to. */
export function TubesJob({ sitter }: JobProps) {
  const tubes = useTubes(sitter);
  const settings = sitter.settings.flesh;
  const library = useLibrary();
  const flesh = useFlesh(sitter);
  const { change, isPending } = useChange(sitter, "flesh");
  const { setTubes, outdated, renew } = useTubeChoice(sitter, tubes);
  const changes = useRackChanges();
  const [name, setName] = useState("");
  const [toxic, setToxic] = useState(false);
  const chosen = settings.tubes;
  const offered =
    library.data?.tubes
      .filter((t) => toxic || (t.off_because === "" && !t.empty) || chosen.includes(t.key))
      .map((t) => t.key) ?? [];
  const studio = library.data?.palettes.find((p) => p.own && p.key === settings.palette);
  const off = library.data?.tubes.filter((t) => t.off_because !== "") ?? [];
  const pick = (label: string, value: string[], options: string[], onChange: (next: string[]) => void) => (
    <Autocomplete
      multiple
      disableClearable={label === "Tubes"}
      size="small"
      options={options}
      value={value}
      sx={{ mb: 1.5 }}
      getOptionLabel={(k) => {
        const t = tubes.get(k);
        return t ? `${t.name} (${t.ci_name})` : k;
      }}
      groupBy={(k) =>
        library.data?.tubes.find((t) => t.key === k)?.own ? "on your rack" : (tubes.get(k)?.family ?? "")
      }
      onChange={(_, next) => onChange(next)}
      renderValue={(keys, item) =>
        keys.map((k, index) => {
          const { key, ...rest } = item({ index });
          return (
            <Chip
              key={key}
              {...rest}
              label={tubes.get(k)?.name ?? k}
              icon={<Box sx={{ width: 16, height: 16, bgcolor: tubes.get(k)?.hex, ml: "8px !important" }} />}
            />
          );
        })
      }
      renderInput={(p) => <TextField {...p} label={label} />}
    />
  );
  const sheet = (
    <>
      <Section title="Tubes set out">
        <TextField
          select
          fullWidth
          size="small"
          label="Start from"
          value={library.data?.palettes.some((p) => p.key === settings.palette) ? settings.palette : "own"}
          sx={{ mb: 1.5 }}
          onChange={(e) => {
            const palette = library.data?.palettes.find((p) => p.key === e.target.value);
            if (palette)
              setTubes(palette.tubes, `Palette: ${palette.name}`, {
                palette: palette.key,
                transparent: palette.transparent,
                must: [],
                without: [],
              });
          }}
        >
          {library.data?.palettes.map((p) => (
            <MenuItem key={p.key} value={p.key}>
              {p.name}
              {p.own ? " (studio)" : ""}
            </MenuItem>
          ))}
          <MenuItem value="own">own tubes</MenuItem>
        </TextField>
        {pick("Tubes", chosen, offered, (next) =>
          setTubes(next, next.length > chosen.length ? "Add a tube" : "Put a tube away"),
        )}
        <Toggle
          label="Washes on white paper"
          on={settings.transparent}
          onChange={(on) => change({ transparent: on }, on ? "Washes on paper" : "Opaque paint")}
        />
        {outdated.length > 0 && (
          <Box sx={{ my: 1 }}>
            <Say>
              <strong>{outdated.map((t) => t.name).join(", ")}: changed on the rack since.</strong> This
              sitter keeps what was set out.
            </Say>
            <Button color="inherit" variant="outlined" fullWidth onClick={renew}>
              Use the newest readings
            </Button>
          </Box>
        )}
        <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
          <TextField
            size="small"
            fullWidth
            label="Keep as a studio palette"
            value={name}
            onChange={(e) => setName(e.target.value)}
            slotProps={{ htmlInput: { maxLength: 60 } }}
          />
          <Button
            color="inherit"
            variant="outlined"
            disabled={!name.trim() || changes.isPending}
            onClick={() =>
              void changes
                .keepPalette({ name: name.trim(), tubes: chosen, transparent: settings.transparent })
                .then((kept) => kept && setName(""))
            }
          >
            Keep
          </Button>
        </Box>
        {studio && (
          <Button color="inherit" fullWidth onClick={() => void changes.dropPalette(studio.key)}>
            Forget the studio palette {studio.name}
          </Button>
        )}
        <Button color="inherit" variant="outlined" fullWidth component={Link} to="/tubes" sx={{ mt: 1 }}>
          Tube rack: your own tubes and swatches
        </Button>
      </Section>
      <MediumSection sitter={sitter} />
      <DryingSection sitter={sitter} />
      {off.length > 0 && (
        <Section title="Not offered">
          <Toggle label="Offer lead and mercury paints" on={toxic} onChange={setToxic} />
          {off.map((t) => (
            <Say quiet key={t.key}>
              {t.name} {t.off_because}. {tubes.get(t.substitute)?.name} can stand in for it.
            </Say>
          ))}
        </Section>
      )}
      <Section title="Every recipe">
        <Toggle
          label="Easy to count out: few parts, few tubes"
          on={settings.recipes === "easy"}
          onChange={(on) => change({ recipes: on ? "easy" : "exact" }, on ? "Easy recipes" : "Exact recipes")}
        />
        {settings.recipes === "easy" ? (
          <Handle
            label="Flesh may be off by, in colour differences"
            value={settings.tolerance}
            least={0.5}
            most={6}
            step={0.1}
            onChange={(v) => change({ tolerance: v }, `Off by at most ${v}`)}
          />
        ) : (
          <Say quiet>As near as the tubes come, however many parts it takes.</Say>
        )}
        <Handle
          label="Tubes in one mixture, at most"
          value={settings.most_tubes}
          least={1}
          most={6}
          step={1}
          onChange={(v) => change({ most_tubes: v, must: settings.must.slice(0, v) }, `At most ${v} tubes`)}
        />
        {pick("Always include", settings.must, chosen, (next) =>
          change(
            { must: next, without: settings.without.filter((k) => !next.includes(k)) },
            "Tubes that must be in it",
          ),
        )}
        {pick("Never include", settings.without, chosen, (next) =>
          change(
            { without: next, must: settings.must.filter((k) => !next.includes(k)) },
            "Tubes that may not be in it",
          ),
        )}
        <Toggle
          label="Black is allowed"
          on={settings.black}
          onChange={(on) => change({ black: on }, on ? "Allow black" : "No black")}
        />
        <Toggle
          label="Monochrome: only values count"
          on={settings.monochrome}
          onChange={(on) => change({ monochrome: on }, on ? "Monochrome" : "In colour")}
        />
        <Toggle
          label="Clip values out of the paint&rsquo;s reach instead of compressing them"
          on={settings.clip}
          onChange={(on) => change({ clip: on }, on ? "Clip values" : "Ease values")}
        />
      </Section>
      <Section title="Cautions">
        {flesh.data?.cautions.map((c) => (
          <Say quiet key={c}>
            {c}
          </Say>
        ))}
        {Object.entries(library.data?.process_cautions ?? {}).map(([what, words]) => (
          <Say quiet key={what}>
            {words}
          </Say>
        ))}
      </Section>
    </>
  );
  useWall({ busy: isPending });
  return sheet;
}
