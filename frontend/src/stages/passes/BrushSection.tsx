import { Box, Button, IconButton, MenuItem, TextField } from "@mui/material";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { call, send, type Schemas, type Sitter } from "../../api/client";
import { keys } from "../../api/keys";
import { useChange } from "../../api/useChange";
import { Say, Section } from "../../sheet/parts";
import { useNotice } from "../../sitter/notice";
import { textSize } from "../../theme";

type Brush = Sitter["settings"]["passes"]["brushes"][number];
const SHAPES = ["flat", "filbert", "round", "liner", "mop"] as const;
const HAIR = ["bristle", "synthetic", "soft hair"] as const;
const POINTS = ["sharp", "usual", "worn"] as const;
const LENGTHS = ["short", "usual", "long"] as const;
const STIFFNESS = ["as its hair is", "stiff", "springy", "soft"] as const;
/** Screen pixels to a millimetre of brush: all of them beside one another at one scale. */
const SCALE = 0.9;

const useBrushes = () =>
  useQuery({ queryKey: keys.brushes, queryFn: () => call<Schemas["BrushesOut"]>("/api/brushes") });

const named = (b: Brush) => (b.number ? `no. ${b.number} ${b.shape}` : `${b.mm} mm ${b.shape}`);

/** What is told of a brush beyond its name, where it is not as usual. */
const told = (b: Brush) =>
  [
    b.hair,
    b.length === "usual" ? "" : `${b.length} hair`,
    b.point === "usual" ? "" : `${b.point} point`,
    b.stiffness ?? "",
    b.number && b.mm ? `${b.mm} mm` : "",
  ]
    .filter(Boolean)
    .join(", ");

/** The brushes that are there; plans take at most six of them. */
export function BrushSection({ sitter, kit }: { sitter: Sitter; kit: Schemas["KitOut"] | undefined }) {
  const brushes = sitter.settings.passes.brushes;
  const known = useBrushes();
  const client = useQueryClient();
  const notice = useNotice();
  const { change } = useChange(sitter, "passes");
  const set = (next: Brush[], words: string) => change({ brushes: next }, words);
  const width = (b: Brush) => b.mm ?? known.data?.numbers[b.shape]?.[b.number] ?? 1;
  const uses = (n: number) => kit?.uses[n] ?? 0;
  const keep = async () => {
    try {
      await send("PUT", "/api/brushes", { brushes });
      await client.invalidateQueries({ queryKey: keys.brushes });
      notice("Every new sitter begins with these brushes.");
    } catch (error) {
      notice((error as Error).message);
    }
  };
  return (
    <Section title="Brushes there are">
      {brushes.length === 0 && (
        <Say quiet>None are named: the plan takes the six from a shop that it is quickest with.</Say>
      )}
      {brushes.map((b, n) => (
        <Box
          key={`${named(b)}${told(b)}${n}`}
          sx={{
            display: "flex",
            alignItems: "center",
            gap: 1,
            borderBottom: 1,
            borderColor: "divider",
            minHeight: 44,
            py: 0.5,
          }}
        >
          <Stroke shape={b.shape} mm={width(b)} used={uses(n) > 0} />
          <Box sx={{ flex: 1, fontSize: textSize.body }}>
            {uses(n) > 0 ? <strong>{named(b)}</strong> : named(b)}
            <Box component="span" sx={{ fontSize: textSize.fine, color: "text.secondary" }}>
              {" "}
              {told(b)}
              {uses(n) > 0 && `; ${uses(n)} ${uses(n) === 1 ? "pass" : "passes"}`}
            </Box>
          </Box>
          <IconButton
            aria-label={`Put the ${named(b)} away`}
            onClick={() =>
              set(
                brushes.filter((_, i) => i !== n),
                `Without ${named(b)}`,
              )
            }
          >
            ×
          </IconButton>
        </Box>
      ))}
      {kit?.missing.map((m) => (
        <Say key={m.name}>
          <strong>{m.name}</strong>
          {m.too_wide
            ? ` is missing: nothing here is narrow enough for pass ${m.passes.join(", ")}.`
            : ` would save ${Math.round(m.minutes)} minutes.`}
        </Say>
      ))}
      {known.data && (
        <NewBrush
          numbers={known.data.numbers}
          onAdd={(b) => set([...brushes, b], `A ${named(b)} more`)}
          full={brushes.length >= 40}
        />
      )}
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 1 }}>
        <Button
          disabled={!known.data}
          onClick={() => known.data && set(known.data.usual ?? known.data.starting, "The usual brushes")}
        >
          The usual ones
        </Button>
        <Button disabled={brushes.length === 0} onClick={() => set([], "Any brush a shop has")}>
          Any a shop has
        </Button>
        <Button onClick={() => void keep()}>For every new sitter</Button>
      </Box>
    </Section>
  );
}

/** The stroke a brush lays beside the others'; pale where the plan does not take it. */
function Stroke({ shape, mm, used }: { shape: Brush["shape"]; mm: number; used: boolean }) {
  const wide = Math.max(1, mm * SCALE);
  const ends = { flat: 0, filbert: wide / 2, round: wide, liner: wide, mop: wide };
  return (
    <Box aria-hidden sx={{ width: 64, height: Math.max(20, wide), display: "flex", alignItems: "center" }}>
      <Box
        sx={{
          width: 56,
          height: `${wide}px`,
          borderRadius: `0 ${ends[shape]}px ${ends[shape]}px 0`,
          bgcolor: used ? "text.primary" : "text.disabled",
        }}
      />
    </Box>
  );
}

/** A brush to be added: told by its number, or by its width where that is another. */
function NewBrush({
  numbers,
  onAdd,
  full,
}: {
  numbers: Schemas["BrushesOut"]["numbers"];
  onAdd: (brush: Brush) => void;
  full: boolean;
}) {
  const [shape, setShape] = useState<Brush["shape"]>("round");
  const [number, setNumber] = useState("4");
  const [mm, setMm] = useState("");
  const [hair, setHair] = useState<Brush["hair"]>("synthetic");
  const [length, setLength] = useState<Brush["length"]>("usual");
  const [point, setPoint] = useState<Brush["point"]>("usual");
  const [stiffness, setStiffness] = useState<(typeof STIFFNESS)[number]>("as its hair is");
  const known = Object.entries(numbers[shape] ?? {}).sort((a, b) => a[1] - b[1]);
  const held = known.some(([n]) => n === number) ? number : (known[0]?.[0] ?? "");
  const own = Number(mm.replace(",", "."));
  const bad = mm.trim() !== "" && !(own > 0 && own <= 150);
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1.5, mt: 1.5 }}>
      <Choice label="Shape" value={shape} of={SHAPES} onChange={setShape} />
      <TextField select size="small" label="Number" value={held} onChange={(e) => setNumber(e.target.value)}>
        {known.map(([n, width]) => (
          <MenuItem key={n} value={n}>
            {n}, {width} mm
          </MenuItem>
        ))}
      </TextField>
      <TextField
        size="small"
        label="Own width, mm"
        value={mm}
        error={bad}
        helperText={bad ? "up to 150" : undefined}
        onChange={(e) => setMm(e.target.value)}
        slotProps={{ htmlInput: { inputMode: "decimal" } }}
      />
      <Choice label="Hair" value={hair} of={HAIR} onChange={setHair} />
      <Choice label="Its length" value={length} of={LENGTHS} onChange={setLength} />
      <Choice label="Point" value={point} of={POINTS} onChange={setPoint} />
      <Choice label="Stiffness" value={stiffness} of={STIFFNESS} onChange={setStiffness} />
      <Button
        sx={{ gridColumn: "1 / -1" }}
        disabled={bad || full}
        onClick={() =>
          onAdd({
            shape,
            number: held,
            mm: mm.trim() ? own : null,
            hair,
            length,
            point,
            stiffness: stiffness === "as its hair is" ? null : stiffness,
          })
        }
      >
        Add the brush
      </Button>
    </Box>
  );
}

function Choice<T extends string>({
  label,
  value,
  of,
  onChange,
}: {
  label: string;
  value: T;
  of: readonly T[];
  onChange: (value: T) => void;
}) {
  return (
    <TextField
      select
      size="small"
      label={label}
      value={value}
      onChange={(e) => onChange(e.target.value as T)}
    >
      {of.map((one) => (
        <MenuItem key={one} value={one}>
          {one}
        </MenuItem>
      ))}
    </TextField>
  );
}
