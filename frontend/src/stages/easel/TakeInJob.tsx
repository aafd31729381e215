import { Box, Button, MenuItem, TextField } from "@mui/material";
import { useRef, useState } from "react";
import { usePasses } from "../../api/hooks";
import { Say, Section, Toggle } from "../../sheet/parts";
import { Row } from "../../sheet/Row";
import type { JobProps } from "../job";
import { CameraSection } from "./CameraSection";
import { HandSection } from "./HandSection";
import { stateOf, usePainting } from "./usePainting";
import { useDoor } from "../../door/useDoor";
import { useTakeIn } from "./useTakeIn";

const FORMATS = "image/jpeg,image/png,image/webp,image/tiff,image/heic,image/heif";

const DRAWING = "drawing";

/** Photographs of the painting: taken in, put in order, and read right where they were not. */
export function TakeInJob({ sitter }: JobProps) {
  const { paintings, painting, choose, set, remove, isPending } = usePainting(sitter);
  const passes = usePasses(sitter);
  const { upload, camera } = useTakeIn(sitter, choose);
  const input = useRef<HTMLInputElement>(null);
  const door = useDoor();
  const [after, setAfter] = useState("");
  const [wet, setWet] = useState(false);
  const [refused, setRefused] = useState<File | null>(null);
  const drawing = after === DRAWING;
  const laid = after === "" || drawing ? null : Number(after);
  const send = (file: File, byHand: boolean) => {
    setRefused(null);
    upload.mutate({ file, after: laid, wet, drawing, byHand }, { onError: () => setRefused(file) });
  };
  const names = passes.data?.passes ?? [];
  return (
    <>
      <Section title="Take in">
        <TextField
          select
          fullWidth
          size="small"
          label="It shows the painting"
          value={after}
          onChange={(e) => setAfter(e.target.value)}
          slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
        >
          <MenuItem value="">finished</MenuItem>
          <MenuItem value={DRAWING}>as a bare drawing, before any paint</MenuItem>
          {names.map((p, i) => (
            <MenuItem key={p.key} value={String(i + 1)}>
              after pass {i + 1}, {p.name}
            </MenuItem>
          ))}
        </TextField>
        {drawing ? (
          <Say quiet>
            Held to the outlines that are carried over: what lies elsewhere, and what was forgotten.
          </Say>
        ) : (
          <Toggle label="The paint was wet" on={wet} onChange={setWet} />
        )}
        <input
          ref={input}
          type="file"
          hidden
          accept={FORMATS}
          data-testid="painting-file"
          onChange={(e) => {
            const file = e.target.files?.[0];
            if (file) send(file, false);
            e.target.value = "";
          }}
        />
        <Button
          color="inherit"
          variant="contained"
          fullWidth
          disabled={upload.isPending}
          onClick={() => input.current?.click()}
        >
          {upload.isPending ? "Looking for the painting …" : "Photograph of the painting …"}
        </Button>
        {upload.isError && (
          <Box role="alert" sx={{ mt: 1 }}>
            <Say>{upload.error.message}</Say>
            {refused && (
              <Button color="inherit" variant="outlined" fullWidth onClick={() => send(refused, true)}>
                Keep it, and set its corners by hand
              </Button>
            )}
          </Box>
        )}
        {door.data?.studio && (
          <Box sx={{ my: 1, display: "flex", gap: 1.5, alignItems: "center" }}>
            <Box
              component="img"
              src={`/api/door/code.svg?to=/easel/${sitter.id}`}
              alt="Code for a phone at the easel"
              sx={{ width: 120 }}
            />
            <Say quiet>A phone that reads this code photographs the painting straight into this list.</Say>
          </Box>
        )}
        <CameraSection sitter={sitter} camera={camera} after={laid} drawing={drawing} />
      </Section>
      <Section title="Photographs">
        {paintings.length === 0 && (
          <Say quiet>
            None yet. The whole painting has to be seen, with a little wall round it; a white card beside it
            lets its key be judged too.
          </Say>
        )}
        <Box component="ul" aria-label="Photographs" sx={{ listStyle: "none", p: 0, m: 0 }}>
          {paintings.map((p) => (
            <li key={p.key}>
              <Row pressed={p.key === painting?.key} onClick={() => choose(p.key)}>
                {stateOf(p)}
              </Row>
            </li>
          ))}
        </Box>
      </Section>
      {painting && (
        <HandSection
          key={painting.key}
          sitter={sitter}
          painting={painting}
          set={set}
          remove={remove}
          pending={isPending}
        />
      )}
    </>
  );
}
