import { Box, Button, TextField, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useState } from "react";
import { Line, Text } from "react-konva";
import { rounded, type Spot } from "../../picture/spots";
import type { Size } from "../../picture/useView";
import { Downloads, useFileUrl } from "../../sheet/Download";
import { Say, Section } from "../../sheet/parts";
import { useStored } from "../../sitter/stored";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { easelUrl, PaintingSelect, usePainting, type Painting } from "./usePainting";

type Note = Painting["notes"][number];

/** What a reviewer draws over the painting, and what is wanted or what holds in words. */
export function NotesJob({ sitter }: JobProps) {
  const { paintings, painting, choose, set, isPending } = usePainting(sitter);
  const [line, setLine] = useState<Spot[]>([]);
  const [words, setWords] = useState("");
  const [holds, setHolds] = useState(false);
  const [by, setBy] = useStored("reviewer", "");
  const file = useFileUrl(sitter);
  const notes = painting?.notes ?? [];
  useWall({
    picture: easelUrl(sitter, painting, "painting"),
    busy: isPending,
    tool: painting ? "draw" : "pan",
    onStroke: (points) => setLine(thinned(points.map(rounded))),
    overlay: (px, size) => (
      <>
        {notes.map((n, i) => (
          <Drawn
            key={i}
            points={n.points as Spot[]}
            at={[n.x, n.y]}
            name={String(i + 1)}
            size={size}
            px={px}
          />
        ))}
        {line.length > 1 && <Drawn points={line} at={line[0] ?? [0, 0]} name="" size={size} px={px} />}
      </>
    ),
  });
  const add = () => {
    const first = line[0] ?? [0.5, 0.5];
    const clip = (v: number) => Math.min(1, Math.max(0, v));
    const note: Note = { points: line, x: clip(first[0]), y: clip(first[1]), words: words.trim(), holds, by };
    set({ notes: [...notes, note] }, holds ? "Note what holds" : "Note what is wanted");
    setLine([]);
    setWords("");
  };
  return (
    <>
      <PaintingSelect paintings={paintings} painting={painting} choose={choose} />
      {painting && (
        <>
          <Section title="A note">
            <Say quiet>Draw on the painting where it is meant, and write what is wanted or what holds.</Say>
            <ToggleButtonGroup
              exclusive
              fullWidth
              value={holds}
              aria-label="Kind of note"
              onChange={(_, v: boolean | null) => v !== null && setHolds(v)}
              sx={{ mb: 1.5 }}
            >
              <ToggleButton value={false}>wanted</ToggleButton>
              <ToggleButton value={true}>holds</ToggleButton>
            </ToggleButtonGroup>
            <TextField
              label="In words"
              size="small"
              fullWidth
              multiline
              minRows={2}
              value={words}
              onChange={(e) => setWords(e.target.value)}
              slotProps={{ htmlInput: { maxLength: 400 } }}
            />
            <TextField
              label="By"
              size="small"
              fullWidth
              value={by}
              onChange={(e) => setBy(e.target.value)}
              slotProps={{ htmlInput: { maxLength: 60 } }}
              sx={{ mt: 1.5, mb: 1 }}
            />
            <Button
              color="inherit"
              variant="contained"
              fullWidth
              disabled={line.length < 2 && words.trim() === ""}
              onClick={add}
            >
              Keep the note
            </Button>
          </Section>
          <Section title="Notes">
            {notes.length === 0 && <Say quiet>None yet.</Say>}
            <Box component="ol" aria-label="Notes" sx={{ pl: 3, m: 0 }}>
              {notes.map((n, i) => (
                <Box component="li" key={i} sx={{ mb: 0.8 }}>
                  <strong>{n.holds ? "Holds" : "Wanted"}</strong>: {n.words || "as drawn"}
                  {n.by && ` (${n.by})`}
                  <Button
                    color="inherit"
                    size="small"
                    aria-label={`Take note ${i + 1} away`}
                    onClick={() => set({ notes: notes.filter((_, k) => k !== i) }, "Take a note away")}
                  >
                    take away
                  </Button>
                </Box>
              ))}
            </Box>
          </Section>
          <Section title="Print">
            <Downloads
              files={["A4", "Letter"].map((paper) => ({
                label: `Review, ${paper}`,
                href: file("review.pdf", { paper, painting: painting.key }),
              }))}
            />
          </Section>
        </>
      )}
    </>
  );
}

/** A stroke of at most so many points as are kept. */
const thinned = (points: Spot[]) => {
  const step = Math.ceil(points.length / 300);
  return points.filter((_, i) => i % step === 0 || i === points.length - 1);
};

interface DrawnProps {
  points: Spot[];
  at: Spot;
  name: string;
  size: Size;
  px: number;
}

function Drawn({ points, at, name, size, px }: DrawnProps) {
  const flat = points.flatMap(([x, y]) => [x * size.width, y * size.height]);
  return (
    <>
      {flat.length > 3 &&
        (["#ffffff", "#000000"] as const).map((ink, i) => (
          <Line
            key={ink}
            listening={false}
            points={flat}
            stroke={ink}
            strokeWidth={(i ? 2 : 5) * px}
            lineCap="round"
            lineJoin="round"
          />
        ))}
      <Text
        listening={false}
        x={at[0] * size.width + 5 * px}
        y={at[1] * size.height - 20 * px}
        text={name}
        fontSize={16 * px}
        fill="#000000"
        stroke="#ffffff"
        strokeWidth={3 * px}
        fillAfterStrokeEnabled
      />
    </>
  );
}
