import { Box, Button, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { base, call, send, type Schemas } from "../../api/client";
import { useArrows, useHair } from "../../api/hooks";
import { BrushArrows, DrawnStrokes, GrowthLines } from "../../picture/HairOverlays";
import { rounded, type Spot } from "../../picture/spots";
import { Downloads, useFileUrl } from "../../sheet/Download";
import { Say, Section, Toggle } from "../../sheet/parts";
import { PlaceList, usePlaces } from "../../sheet/places";
import { useLeft } from "../../sitter/stored";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";

type Report = Schemas["PracticeOut"];
type Paper = Schemas["PaperOut"];

const ways = { along: "along the form", across: "across the planes" } as const;

/** Strokes drawn for practice and checked; the sheet to draw over; which way the brush goes elsewhere. */
export function PracticeJob({ sitter }: JobProps) {
  const hair = useHair(sitter);
  const file = useFileUrl(sitter);
  const [strokes, setStrokes] = useLeft<Spot[][]>(`practice-${sitter.id}`, []);
  const [lines, setLines] = useState(true);
  const [arrows, setArrows] = useState<"none" | "along" | "across">("none");
  const brush = useArrows(sitter, arrows !== "none");
  const check = useMutation({
    mutationFn: ({ drawn, widths = [] }: { drawn: Spot[][]; widths?: number[][] }) =>
      send<Report>("POST", `${base(sitter.id)}/hair/practice`, {
        strokes: drawn,
        widths_mm: widths,
        planes: arrows === "none" ? null : ways[arrows],
      }),
  });
  const paper = useMutation({
    mutationFn: (photo: File) => {
      const body = new FormData();
      body.append("photo", photo);
      return call<Paper>(`${base(sitter.id)}/hair/practice/photograph`, { method: "POST", body });
    },
    onSuccess: ({ strokes: found, widths_mm }) => keep(found, widths_mm),
  });
  const faults = (check.data?.faults ?? []).map((f, i) => ({
    ...f,
    place: f.stroke < 0 ? `all of them` : `stroke ${f.stroke + 1}${faultMark(check.data, i)}`,
  }));
  const places = usePlaces(faults);
  const draw = (points: Spot[]) => {
    if (points.length < 2 || strokes.length >= 100) return;
    const next = [...strokes, points.filter((_, i) => i % 2 === 0 || i === points.length - 1).map(rounded)];
    setStrokes(next);
    check.mutate({ drawn: next });
  };
  const keep = (next: Spot[][], widths?: number[][]) => {
    setStrokes(next);
    places.choose(null);
    if (next.length > 0) check.mutate({ drawn: next, widths });
    else check.reset();
  };
  useWall({
    tool: "draw",
    strokeWidth: 1,
    onStroke: draw,
    busy: hair.isFetching || check.isPending || brush.isFetching,
    overlay: (px, size) => (
      <>
        {hair.data && lines && arrows === "none" && (
          <GrowthLines lines={hair.data.lines} numbered={false} size={size} px={px} />
        )}
        {arrows !== "none" && brush.data && (
          <BrushArrows lines={Object.values(brush.data[arrows]).flat()} size={size} px={px} />
        )}
        <DrawnStrokes strokes={strokes} chosen={places.chosen?.stroke ?? null} size={size} px={px} />
        {places.mark(px, size)}
      </>
    ),
  });
  return (
    <>
      <Section title="Practise on the picture">
        <Say quiet>
          Draw strokes over the hair from root to tip, as you would with the brush. Nothing is painted; each
          is checked at once.
        </Say>
        {check.isError && <Say>{check.error.message}</Say>}
        {check.data && strokes.length > 0 && (
          <Say>
            <strong>
              {check.data.right} of {check.data.strokes}
            </strong>{" "}
            strokes hold.
          </Say>
        )}
        {strokes.length > 0 && (
          <PlaceList of={faults} places={places} right={(f) => f.kind} more={(f) => f.said} />
        )}
        {strokes.length > 0 && (
          <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
            <Button color="inherit" variant="outlined" fullWidth onClick={() => keep(strokes.slice(0, -1))}>
              Take the last back
            </Button>
            <Button color="inherit" variant="outlined" fullWidth onClick={() => keep([])}>
              Wipe all
            </Button>
          </Box>
        )}
        <Toggle label="Show the growth lines" on={lines} onChange={setLines} />
      </Section>
      <Section title="On paper">
        <Say quiet>Sample strokes of every layer at true size, to draw over with the brush.</Say>
        <Downloads
          files={["A4", "Letter"].map((paper) => ({
            label: `PDF, ${paper}`,
            href: file("hair_practice.pdf", { paper }),
          }))}
        />
      </Section>
      <Section title="Off a photograph">
        <Say quiet>
          Trace the growth lines, draw dark strokes on them, photograph the sheet, crop it to the edges of the
          canvas: its strokes are found and checked like those drawn here.
        </Say>
        {paper.isPending && <Say quiet>Looking for strokes …</Say>}
        {paper.isError && <Say>{paper.error.message}</Say>}
        <Button component="label" color="inherit" variant="outlined" fullWidth>
          Open a photograph of strokes
          <input
            hidden
            type="file"
            accept="image/*"
            aria-label="Photograph of strokes"
            onChange={(e) => {
              const photo = e.target.files?.[0];
              if (photo) paper.mutate(photo);
              e.target.value = "";
            }}
          />
        </Button>
      </Section>
      <Section title="Brush on skin, cloth and wall">
        <ToggleButtonGroup
          exclusive
          fullWidth
          value={arrows}
          aria-label="Direction of the brush"
          onChange={(_, v: typeof arrows | null) => v && setArrows(v)}
          sx={{ mb: 1 }}
        >
          <ToggleButton value="none">hidden</ToggleButton>
          <ToggleButton value="along">round it</ToggleButton>
          <ToggleButton value="across">its planes</ToggleButton>
        </ToggleButtonGroup>
        {brush.isError && <Say>{brush.error.message}</Say>}
        <Say quiet>
          Round the form: as a hand would stroke it. Along its planes: at right angles to that, for flat,
          carved strokes.
        </Say>
        <Downloads
          files={[
            { label: "Round, SVG", href: file("brush.svg") },
            { label: "Planes, SVG", href: file("brush.svg", { across: true }) },
          ]}
        />
      </Section>
    </>
  );
}

/** A second fault of one stroke is told apart from the first. */
function faultMark(report: Report | undefined, at: number): string {
  const stroke = report?.faults[at]?.stroke;
  const before = report?.faults.slice(0, at).filter((f) => f.stroke === stroke).length ?? 0;
  return before > 0 ? `, again` : "";
}
