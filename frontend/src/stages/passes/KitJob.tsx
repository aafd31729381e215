import { Box } from "@mui/material";
import type { Schemas } from "../../api/client";
import { useKit } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import { Downloads, useFileUrl } from "../../sheet/Download";
import { Heaps, sameParts } from "../../sheet/Mix";
import { Say, Section } from "../../sheet/parts";
import { BrushSection } from "./BrushSection";
import { spoken } from "../../sheet/spoken";
import { useTubes } from "../../sheet/useTubes";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { textSize } from "../../theme";

/** What has to lie ready before the first pass. */
export function KitJob({ sitter }: JobProps) {
  const kit = useKit(sitter);
  const tubes = useTubes(sitter);
  const file = useFileUrl(sitter);
  useWall({ busy: kit.isFetching });
  const { change } = useChange(sitter, "passes");
  const { own_heaps, heap_names } = sitter.settings.passes;
  const rename = (heap: Schemas["PlanPaletteHeap"], called: string) => {
    const same = (one: { parts: Record<string, number> }) => sameParts(one.parts, heap.parts);
    const named = { name: called, parts: heap.parts };
    if (own_heaps.some(same))
      change({ own_heaps: own_heaps.map((h) => (same(h) ? named : h)) }, `Heap ${called}`);
    else change({ heap_names: [...heap_names.filter((h) => !same(h)), named] }, `Heap ${called}`);
  };
  const name = (key: string) => tubes.get(key)?.name ?? key;
  return (
    <>
      {kit.isPending && <Say quiet>Counting brushes and paint …</Say>}
      {kit.isError && <Say>{kit.error.message}</Say>}
      {kit.data && (
        <>
          <Section title="Before">
            {kit.data.preparing.map((line) => (
              <Say key={line}>{line}</Say>
            ))}
          </Section>
          {kit.data.heaps.length > 0 && (
            <Section title="Heaps">
              <Say quiet>
                Mixed once; every pass is one of them as it is, two together, or one with a tube.
              </Say>
              <Heaps heaps={kit.data.heaps} tubes={tubes} onName={rename} />
              <Say quiet>A heap keeps: {kit.data.keeps}.</Say>
            </Section>
          )}
          {kit.data.brushes.some((b) => b.mm === null) && (
            <Section title="Tools">
              {kit.data.brushes
                .filter((b) => b.mm === null)
                .map((b) => (
                  <Line
                    key={b.name}
                    left={b.name}
                    right={`${b.passes} ${b.passes === 1 ? "pass" : "passes"}`}
                  />
                ))}
            </Section>
          )}
          <BrushSection sitter={sitter} kit={kit.data} />
          <Section title="Paint">
            {kit.data.tubes.map((t) => (
              <Line
                key={t.key}
                left={name(t.key)}
                right={t.ml < 0.1 ? "a touch" : `${t.ml.toFixed(1)} ml, ${t.cm.toFixed(1)} cm`}
              />
            ))}
            {kit.data.thinner_ml >= 1 && (
              <Line left={`To thin it: ${kit.data.thinner}`} right={`${kit.data.thinner_ml.toFixed(0)} ml`} />
            )}
            {kit.data.stir.map((key) => (
              <Say key={key}>
                <strong>{name(key)} is heavy and settles in thin paint:</strong> stir before every stroke.
              </Say>
            ))}
          </Section>
          {kit.data.timers.length > 0 && (
            <Section title="Timers">
              {kit.data.timers.map((t) => (
                <Line key={t.name} left={`after ${t.name}`} right={spoken(t.minutes)} />
              ))}
            </Section>
          )}
          {kit.data.reserves.length > 0 && (
            <Section title="Keeping the white">
              {kit.data.reserves.map((r) => (
                <Say key={r.place}>
                  <strong>
                    {r.place}: {r.means}.{" "}
                  </strong>
                  {r.why}
                  {r.pools && " Washes gather along a mask so long: draw the bead off with a dry brush."}
                </Say>
              ))}
              <Downloads files={[{ label: "Masks at true size, SVG", href: file("masks.svg") }]} />
            </Section>
          )}
          <Section title="After">
            {kit.data.clearing.map((line) => (
              <Say key={line}>{line}</Say>
            ))}
          </Section>
        </>
      )}
    </>
  );
}

function Line({ left, right }: { left: string; right: string }) {
  return (
    <Box
      sx={{
        display: "flex",
        gap: 1,
        fontSize: textSize.body,
        py: 0.4,
        borderBottom: 1,
        borderColor: "divider",
      }}
    >
      <span style={{ flex: 1 }}>{left}</span>
      <span>{right}</span>
    </Box>
  );
}
