import { MenuItem, TextField, ToggleButton, ToggleButtonGroup } from "@mui/material";
import type { Schemas } from "../../api/client";
import { usePasses } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import { Say, Section } from "../../sheet/parts";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { OwnSchool } from "./OwnSchool";
import { SchoolSection } from "./SchoolSection";
import { SchoolTable } from "./SchoolTable";
import { SizeSection } from "./SizeSection";

type PassSettings = Schemas["PassSettings"];

const switches = [
  ["background", "Background", ["first", "between", "last", "first tone, then last"]],
  ["wall", "Strokes of the background", ["loose and thick"]],
  ["hair", "Hair", ["early", "late"]],
  ["lights", "Highlights", ["early", "last"]],
  ["order", "Order", ["details last", "by section"]],
  ["tones", "Tones of a place", ["dark to light", "light to dark", "between last"]],
  ["layers", "Layers of colour", ["two of the whole figure"]],
  ["sitting", "Sittings", ["all in one"]],
  ["shadows", "Shadows of the flesh", ["greened", "purple", "earth", "violet"]],
  ["softening", "Soft borders", ["at once", "within open time", "smeared at the end"]],
] as const;

const exactness = ["study", "portrait", "copy"] as const;

/** How the school is followed, and schools of the painter's own. */
export function SchoolJob({ sitter }: JobProps) {
  const settings = sitter.settings.passes;
  const plan = usePasses(sitter);
  const { change, isPending } = useChange(sitter, "passes");
  const own = settings.own.find((s) => s.key === settings.school);
  const busy = isPending || plan.isFetching;
  useWall(own ? { busy, instead: <SchoolTable sitter={sitter} school={own} /> } : { busy });
  return (
    <>
      <SchoolSection sitter={sitter} />
      <SizeSection sitter={sitter} />
      {plan.isError && <Say>{plan.error.message}</Say>}
      <Section title="On which painters differ">
        {switches.map(([key, label, words]) => (
          <TextField
            key={key}
            select
            fullWidth
            size="small"
            label={label}
            value={settings[key] ?? ""}
            onChange={(e) =>
              change({ [key]: e.target.value || null }, `${label}: ${e.target.value || "as before"}`)
            }
            slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
            sx={{ mb: 1.5 }}
          >
            <MenuItem value="">{key === "shadows" ? "as photographed" : "as the school has it"}</MenuItem>
            {words.map((w) => (
              <MenuItem key={w} value={w}>
                {w}
              </MenuItem>
            ))}
          </TextField>
        ))}
        <ToggleButtonGroup
          exclusive
          fullWidth
          value={settings.exactness}
          aria-label="How exact"
          onChange={(_, v: PassSettings["exactness"] | null) => v && change({ exactness: v }, `As a ${v}`)}
        >
          {exactness.map((e) => (
            <ToggleButton key={e} value={e}>
              {e}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
      </Section>
      <OwnSchool sitter={sitter} own={own} />
    </>
  );
}
