import { Box, Button, Radio, TextField } from "@mui/material";
import { useState } from "react";
import { base, call, type Schemas } from "../../api/client";
import { useMeasures } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import { labelSpots } from "../../picture/labels";
import { MeasureLine } from "../../picture/Overlays";
import type { Spot } from "../../picture/spots";
import { ends } from "../../picture/spots";
import { Say, Section } from "../../sheet/parts";
import { Row } from "../../sheet/Row";
import { useNotice } from "../../sitter/notice";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { textSize } from "../../theme";

type Reading = Schemas["ReadingOut"];
const words = (r: Pick<Reading, "mm" | "multiple">) =>
  r.multiple === null ? `${r.mm.toFixed(1)} mm` : `${r.multiple.toFixed(2)} ×`;

/** Sight-size callipers: draw a line, read it in units, keep it under a name. */
export function MeasureJob({ sitter }: JobProps) {
  const settings = sitter.settings.reference;
  const kept = settings.measures;
  const measures = useMeasures(sitter);
  const notice = useNotice();
  const { change, isPending } = useChange(sitter, "reference");
  const [now, setNow] = useState<Reading | null>(null);
  const [name, setName] = useState("");
  const [chosen, setChosen] = useState<number | null>(null);
  const [rule, setRule] = useState<number | null>(null);

  const draw = async (points: Spot[]) => {
    const line = ends(points);
    if (!line) return;
    const [a, b] = line;
    try {
      setNow(
        await call<Reading>(
          `${base(sitter.id)}/measures/read?x1=${at(a[0])}&y1=${at(a[1])}&x2=${at(b[0])}&y2=${at(b[1])}`,
        ),
      );
      setChosen(null);
    } catch (error) {
      notice((error as Error).message);
    }
  };
  const keep = () => {
    if (!now) return;
    const title = name.trim() || `measure ${kept.length + 1}`;
    const measure = { name: title, start: now.start, end: now.end };
    change(kept.length === 0 ? { unit: 0 } : {}, `Keep ${title}`, { measures: { add: [measure] } });
    setNow(null);
    setName("");
  };
  const remove = (i: number) => {
    const { unit } = settings;
    const next = unit === null || unit === i ? null : unit > i ? unit - 1 : unit;
    change({ unit: next }, `Remove ${kept[i]?.name ?? ""}`, { measures: { start: i, remove: 1 } });
    setChosen(null);
  };
  const readings = measures.data?.measures ?? [];
  const proportions = measures.data?.proportions ?? [];
  const shownRule = rule === null ? undefined : proportions[rule];

  const sheet = (
    <>
      <Section title="Callipers">
        {!now && (
          <Say quiet>
            Draw from one point to another. The first measure kept becomes the unit; everything else is read
            as a multiple of it.
          </Say>
        )}
        {now && (
          <>
            <Say>
              <strong>{now.mm.toFixed(1)} mm</strong>
              {now.multiple !== null && (
                <>
                  , <strong>{now.multiple.toFixed(2)}</strong> units
                </>
              )}
              ; {lean(now.angle)}; {now.across.toFixed(1)} mm across, {now.down.toFixed(1)} mm up and down.
            </Say>
            <Box sx={{ display: "flex", gap: 1 }}>
              <TextField
                size="small"
                label="Name"
                value={name}
                onChange={(e) => setName(e.target.value)}
                onKeyDown={(e) => e.key === "Enter" && keep()}
                slotProps={{ htmlInput: { maxLength: 60 } }}
                sx={{ flex: 1 }}
              />
              <Button color="inherit" variant="outlined" onClick={keep}>
                Keep
              </Button>
            </Box>
          </>
        )}
      </Section>
      <Section title="Kept measures">
        {kept.length === 0 && <Say quiet>None yet. A head height makes a good unit.</Say>}
        {kept.map((m, i) => {
          const r = readings[i];
          return (
            <Box
              key={`${i}${m.name}`}
              sx={{
                display: "flex",
                alignItems: "center",
                borderBottom: 1,
                borderColor: "divider",
                bgcolor: chosen === i ? "background.paper" : "transparent",
              }}
            >
              <Radio
                color="default"
                checked={settings.unit === i}
                onChange={() => change({ unit: i }, `Unit: ${m.name}`)}
                slotProps={{ input: { "aria-label": `${m.name} is the unit` } }}
              />
              <Row
                label={m.name}
                pressed={chosen === i}
                onClick={() => setChosen(chosen === i ? null : i)}
                sx={{ display: "block", width: "auto", flex: 1, borderBottom: 0, fontWeight: 400, py: 0.5 }}
              >
                <Box sx={{ display: "flex", justifyContent: "space-between" }}>
                  <span>{m.name}</span>
                  {r && <strong>{words(r)}</strong>}
                </Box>
                {r && (
                  <Box sx={{ fontSize: textSize.fine, color: "text.secondary" }}>
                    {r.mm.toFixed(0)} mm, {lean(r.angle)}
                  </Box>
                )}
              </Row>
              <Button
                color="inherit"
                size="small"
                aria-label={`Remove ${m.name}`}
                onClick={() => remove(i)}
                sx={{ minWidth: 36 }}
              >
                ×
              </Button>
            </Box>
          );
        })}
      </Section>
      <Section title="The face beside the rule of thumb">
        {proportions.length === 0 ? (
          <Say quiet>{measures.isPending ? "Measuring …" : "No face was found to compare."}</Say>
        ) : (
          <Say quiet>Common practice, never a law: where your sitter differs, the likeness begins.</Say>
        )}
        {proportions.map((p, i) => (
          <Row
            key={p.name}
            pressed={rule === i}
            onClick={() => setRule(rule === i ? null : i)}
            sx={{ fontSize: textSize.small }}
          >
            <Box sx={{ flex: 1 }}>{p.name}</Box>
            <Box sx={{ textAlign: "right", whiteSpace: "nowrap" }}>
              <strong>{p.here.toFixed(2)}</strong> (usual {p.usual.toFixed(1)})
            </Box>
          </Row>
        ))}
      </Section>
    </>
  );
  useWall({
    busy: isPending,
    tool: "draw",
    straight: true,
    onStroke: (points) => void draw(points),
    overlay: (px, size) => (
      <>
        {readings.map((r, i) => (
          <MeasureLine
            key={i}
            start={r.start}
            end={r.end}
            words={`${r.name} ${words(r)}`}
            at={labelSpots(readings, size, px)[i]}
            size={size}
            px={px}
            bold={chosen === i}
          />
        ))}
        {now && <MeasureLine bold start={now.start} end={now.end} words={words(now)} size={size} px={px} />}
        {shownRule && (
          <MeasureLine
            bold
            start={shownRule.line[0]}
            end={shownRule.line[1]}
            words={shownRule.here.toFixed(2)}
            size={size}
            px={px}
          />
        )}
      </>
    ),
  });
  return sheet;
}

/** How a line leans, from the level or from the plumb, whichever is nearer. */
function lean(angle: number): string {
  if (Math.abs(angle) <= 45)
    return Math.abs(angle) < 0.5
      ? "level"
      : `${Math.abs(angle).toFixed(0)}° off level, ${angle > 0 ? "rising" : "falling"}`;
  const off = 90 - Math.abs(angle);
  return off < 0.5 ? "plumb" : `${off.toFixed(0)}° off plumb, leaning ${angle > 0 ? "right" : "left"}`;
}

const at = (v: number) => Math.min(1.5, Math.max(-0.5, v)).toFixed(4);
