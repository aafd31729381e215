import { Box, Button, TextField } from "@mui/material";
import { useEffect, useState, type ReactNode } from "react";
import type { Schemas } from "../api/client";
import { Say, Section, Toggle } from "../sheet/parts";
import type { Patches, PatchName, RackChanges, RackTube } from "./useRack";
import { textSize } from "../theme";

type Lab = [number, number, number];
export interface Pending {
  source: Schemas["NewReading"]["source"];
  patches: Patches;
}

interface Props {
  tube: RackTube;
  pigment: string;
  pending: Pending | null;
  onPending: (pending: Pending | null) => void;
  onRemove: () => void;
  changes: RackChanges;
  photoButton: ReactNode;
}

const shortNames: Record<string, string> = {
  masstone: "masstone",
  tint: "tint 1 : 10",
  over_black: "film, black",
  over_white: "film, paper",
  wash: "wash 1 : 10",
};

/** One tube: what it is called, what is left, how it was read, and what that changed. */
export function TubeSheet({ tube, pigment, pending, onPending, onRemove, changes, photoButton }: Props) {
  return (
    <>
      <Section
        title={tube.name}
        action={
          <Button color="inherit" size="small" onClick={onRemove}>
            Remove
          </Button>
        }
      >
        <Say quiet>{pigment}</Say>
        <Box sx={{ display: "flex", gap: 1, my: 1.5 }}>
          <Kept
            label="Name"
            value={tube.name}
            wide
            onTake={(name) => name && void changes.change(tube, { name })}
          />
          <Kept
            label="Left, ml"
            value={tube.amount_ml === null ? "" : String(tube.amount_ml)}
            onTake={(text) => {
              const ml = text === "" ? null : Number(text.replace(",", "."));
              void changes.change(tube, { amount_ml: Number.isNaN(ml) ? -1 : ml });
            }}
          />
        </Box>
        <Toggle label="Empty" on={tube.empty} onChange={(on) => void changes.change(tube, { empty: on })} />
      </Section>
      <Section title="Read its swatches">
        {pending ? (
          <>
            <Table
              head={["", "L*", "a*", "b*"]}
              rows={Object.entries(pending.patches).map(([name, p]) => [
                `${shortNames[name] ?? name}${p.uneven ? ", uneven" : ""}`,
                ...p.lab.map((v) => v.toFixed(1)),
              ])}
            />
            {Object.values(pending.patches).some((p) => p.uneven) && (
              <Say>A patch is uneven: a shadow, gloss or brush mark may lie on it.</Say>
            )}
            <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
              <Button
                variant="contained"
                disableElevation
                disabled={changes.isPending}
                onClick={() =>
                  void changes
                    .takeReading(tube.key, asReading(pending))
                    .then((kept) => kept && onPending(null))
                }
              >
                Use this reading
              </Button>
              <Button color="inherit" onClick={() => onPending(null)}>
                Discard
              </Button>
            </Box>
          </>
        ) : (
          <Box sx={{ display: "grid", gap: 1 }}>
            <Button
              color="inherit"
              variant="outlined"
              fullWidth
              disabled={changes.isPending}
              onClick={() =>
                void changes
                  .meter(tube.key)
                  .then((patches) => patches && onPending({ source: "colour meter", patches }))
              }
            >
              With the colour meter (simulated)
            </Button>
            {photoButton}
            <ByHand
              key={tube.key}
              white={tube.white}
              onRead={(patches) => onPending({ source: "by hand", patches })}
            />
          </Box>
        )}
      </Section>
      <Section title="Readings">
        {tube.readings.length === 0 && (
          <Say quiet>
            Never read: the library&rsquo;s typical colour is used, which is from memory and may be far from
            what is in your tube.
          </Say>
        )}
        {[...tube.readings].reverse().map((r) => (
          <Box key={r.id} data-testid="reading" sx={{ mb: 1.5 }}>
            <Box
              sx={{ display: "flex", alignItems: "center", justifyContent: "space-between", minHeight: 44 }}
            >
              <Box sx={{ fontWeight: r.id === tube.reading ? 700 : 400, fontSize: textSize.body }}>
                {r.source},{" "}
                {new Date(`${r.at}Z`).toLocaleDateString("en-GB", {
                  day: "numeric",
                  month: "long",
                  year: "numeric",
                })}
              </Box>
              {r.id === tube.reading ? (
                <Box component="span" sx={{ whiteSpace: "nowrap" }}>
                  in use
                </Box>
              ) : (
                <Button color="inherit" size="small" onClick={() => void changes.useReading(tube.key, r.id)}>
                  use
                </Button>
              )}
            </Box>
            <Table
              head={["off by (ΔE)", "before", "after"]}
              rows={Object.entries(r.before).map(([name, off]) => [
                shortNames[name] ?? name,
                off.toFixed(1),
                (r.after[name] ?? 0).toFixed(1),
              ])}
            />
          </Box>
        ))}
        {tube.reading !== null && (
          <Button
            color="inherit"
            variant="outlined"
            fullWidth
            onClick={() => void changes.useReading(tube.key, null)}
          >
            Use the library&rsquo;s typical colour
          </Button>
        )}
      </Section>
    </>
  );
}

function asReading({ source, patches }: Pending): Schemas["NewReading"] {
  const lab = (name: PatchName): Lab | null => patches[name]?.lab ?? null;
  const masstone = lab("masstone");
  if (!masstone) throw new Error("a reading has a masstone");
  return {
    source,
    swatches: {
      masstone,
      tint: lab("tint"),
      over_black: lab("over_black"),
      over_white: lab("over_white"),
      wash: lab("wash"),
    },
  };
}

/** A field that is taken over when it is left or Enter is pressed. */
function Kept({
  label,
  value,
  wide = false,
  onTake,
}: {
  label: string;
  value: string;
  wide?: boolean;
  onTake: (text: string) => void;
}) {
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  const take = () => {
    if (text.trim() !== value) onTake(text.trim());
    if (wide && !text.trim()) setText(value);
  };
  return (
    <TextField
      size="small"
      label={label}
      value={text}
      onChange={(e) => setText(e.target.value)}
      onBlur={take}
      onKeyDown={(e) => e.key === "Enter" && take()}
      slotProps={{ htmlInput: { maxLength: 60, inputMode: wide ? "text" : "decimal" } }}
      sx={{ flex: wide ? 2 : 1, minWidth: 0 }}
    />
  );
}

function ByHand({ white, onRead }: { white: boolean; onRead: (patches: Patches) => void }) {
  const [masstone, setMasstone] = useState("");
  const [tint, setTint] = useState("");
  const parse = (text: string): Lab | null => {
    const numbers = text
      .trim()
      .split(/[\s;]+/)
      .map((t) => Number(t.replace(",", ".")));
    return numbers.length === 3 && numbers.every(Number.isFinite) ? (numbers as Lab) : null;
  };
  const first = parse(masstone);
  const second = parse(tint);
  const patch = (lab: Lab) => ({ lab, hex: "", uneven: false });
  const field = (label: string, text: string, set: (t: string) => void) => (
    <TextField
      size="small"
      fullWidth
      label={label}
      placeholder="56.1 14.2 41.0"
      value={text}
      error={text.trim() !== "" && !parse(text)}
      onChange={(e) => set(e.target.value)}
    />
  );
  return (
    <>
      <Say quiet>or type L* a* b* (D65) from a meter of your own:</Say>
      {field("Masstone", masstone, setMasstone)}
      {!white && field("Tint 1 : 10", tint, setTint)}
      <Button
        color="inherit"
        variant="outlined"
        disabled={!first || (tint.trim() !== "" && !second)}
        onClick={() =>
          first && onRead({ masstone: patch(first), ...(second ? { tint: patch(second) } : {}) })
        }
      >
        Use these numbers
      </Button>
    </>
  );
}

function Table({ head, rows }: { head: string[]; rows: string[][] }) {
  return (
    <Box
      component="table"
      sx={{
        width: "100%",
        borderCollapse: "collapse",
        fontSize: textSize.small,
        "& td, & th": {
          textAlign: "right",
          fontWeight: 400,
          py: 0.3,
          borderBottom: 1,
          borderColor: "divider",
        },
        "& td:first-of-type, & th:first-of-type": { textAlign: "left" },
        "& th": { color: "text.secondary" },
      }}
    >
      <thead>
        <tr>
          {head.map((h) => (
            <th key={h}>{h}</th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row[0]}>
            {row.map((cell, i) => (
              <td key={i}>{cell}</td>
            ))}
          </tr>
        ))}
      </tbody>
    </Box>
  );
}
