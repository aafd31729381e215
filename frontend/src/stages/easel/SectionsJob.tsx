import { Box, Checkbox, ToggleButton, ToggleButtonGroup, useTheme } from "@mui/material";
import { useState } from "react";
import { base, type Schemas } from "../../api/client";
import { useComputed } from "../../api/hooks";
import { Downloads, useFileUrl } from "../../sheet/Download";
import { Say, Section, Toggle } from "../../sheet/parts";
import { Mix } from "../../sheet/Mix";
import { Row } from "../../sheet/Row";
import { useTubes } from "../../sheet/useTubes";
import { Value } from "../../sheet/Value";
import { useStored } from "../../sitter/stored";
import { useWall } from "../../sitter/wall";
import { studio, textSize } from "../../theme";
import type { JobProps } from "../job";
import { usePainting } from "./usePainting";

type SectionRow = Schemas["SectionOut"];
type Order = "focus first" | "dark first";

/** The painting section by section: reference and painting at one size, and what just this piece takes. */
export function SectionsJob({ sitter }: JobProps) {
  const { painting } = usePainting(sitter);
  const [order, setOrder] = useStored<Order>("section-order", "focus first");
  const all = useComputed<SectionRow[]>(sitter, "easel/sections", `order=${encodeURIComponent(order)}`);
  const [key, setKey] = useState<string | null>(null);
  const [done, setDone] = useStored<string[]>(`sections-${sitter.id}`, []);
  const [squint, setSquint] = useState(false);
  const rows = all.data ?? [];
  const chosen = rows.find((s) => s.key === key) ?? rows.find((s) => !done.includes(s.key)) ?? rows[0];
  const box = chosen ? `x1=${chosen.x1}&y1=${chosen.y1}&x2=${chosen.x2}&y2=${chosen.y2}` : "";
  const needs = useComputed<Schemas["NeedsOut"]>(sitter, "easel/section", box, chosen !== undefined);
  const tubes = useTubes(sitter);
  const file = useFileUrl(sitter);
  const v = sitter.keys["easel/compared"] ?? "";
  const at = `${base(sitter.id)}/easel/section.jpg?${box}&squint=${squint}&v=${v}`;
  useWall({
    busy: all.isFetching || needs.isFetching,
    instead: chosen ? (
      <Crops
        name={chosen.name}
        reference={at}
        painting={painting ? `${at}&painting=${painting.key}&view=painting` : null}
      />
    ) : undefined,
  });
  const tick = (name: string) =>
    setDone(done.includes(name) ? done.filter((d) => d !== name) : [...done, name]);
  const query = { order, ...(painting ? { painting: painting.key } : {}) };
  return (
    <>
      <Section title="Sections">
        <ToggleButtonGroup
          exclusive
          fullWidth
          value={order}
          aria-label="Order"
          onChange={(_, o: Order | null) => o && setOrder(o)}
        >
          <ToggleButton value="focus first">focus first</ToggleButton>
          <ToggleButton value="dark first">dark first</ToggleButton>
        </ToggleButtonGroup>
        <Toggle label="Squint" on={squint} onChange={setSquint} />
        <Box component="ul" aria-label="Sections" sx={{ listStyle: "none", p: 0, m: 0 }}>
          {rows.map((s) => (
            <Box component="li" key={s.key} sx={{ display: "flex" }}>
              <Row pressed={s.key === chosen?.key} onClick={() => setKey(s.key)}>
                {s.name}
              </Row>
              <Checkbox
                color="default"
                checked={done.includes(s.key)}
                onChange={() => tick(s.key)}
                slotProps={{ input: { "aria-label": `${s.name} is done` } }}
              />
            </Box>
          ))}
        </Box>
      </Section>
      {chosen && (
        <Section title={chosen.name}>
          {needs.isError && <Say>{needs.error.message}</Say>}
          {needs.data?.ceilings.map((c) => (
            <Say key={c.place}>
              Light at {c.place}: no lighter than <Value of={c.ceiling} />.
            </Say>
          ))}
          {needs.data && (
            <Say quiet>
              Edges:{" "}
              {Object.entries(needs.data.edges)
                .filter(([, mm]) => mm >= 1)
                .map(([kind, mm]) => `${kind} ${mm.toFixed(0)} mm`)
                .join(", ") || "none"}
              .
            </Say>
          )}
          {needs.data?.passes.map((p) => (
            <Box key={p.number} sx={{ mb: 1 }}>
              <Box sx={{ fontSize: textSize.small }}>
                {p.number} {p.name}: {p.tool}, {p.edge}
              </Box>
              <Mix pass={p} tubes={tubes} />
            </Box>
          ))}
        </Section>
      )}
      <Section title="Print">
        <Downloads
          files={["A4", "Letter"].map((paper) => ({
            label: `Sections, ${paper}`,
            href: file("sections.pdf", { paper, ...query }),
          }))}
        />
      </Section>
    </>
  );
}

function Crops({ name, reference, painting }: { name: string; reference: string; painting: string | null }) {
  const tone = useTheme().palette.mode === "dark" ? studio.dim : studio.day;
  return (
    <Box
      role="region"
      aria-label={`${name}: reference and painting`}
      sx={{
        flex: 1,
        minHeight: 0,
        bgcolor: tone.wall,
        display: "grid",
        gridTemplateColumns: painting ? "1fr 1fr" : "1fr",
        gap: 2,
        p: 2,
      }}
    >
      <img src={reference} alt="Reference" style={{ width: "100%", height: "100%", objectFit: "contain" }} />
      {painting && (
        <img src={painting} alt="Painting" style={{ width: "100%", height: "100%", objectFit: "contain" }} />
      )}
    </Box>
  );
}
