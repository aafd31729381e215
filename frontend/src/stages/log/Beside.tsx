import { Box, Button, MenuItem, TextField } from "@mui/material";
import { useState } from "react";
import { call, type Schemas, type Sitter } from "../../api/client";
import { useWriting, type Sitting } from "../../log/useLog";
import { useRack } from "../../rack/useRack";
import { NumberField } from "../../sheet/parts";
import { useNotice } from "../../sitter/notice";

/** What is written down beside the work: words, paint, air, photographs. */
export function Beside({ sitter, sitting }: { sitter: Sitter; sitting: Sitting }) {
  const { write, isPending } = useWriting(sitter.id);
  const notice = useNotice();
  const [words, setWords] = useState("");
  const say = async (kind: "note" | "next time") => {
    if (await write({ kind, sitting: sitting.id, words: words.trim() })) setWords("");
  };
  const readAir = async () => {
    try {
      const air = await call<Schemas["AirOut"]>("/api/studio/air");
      await write({
        kind: "air",
        sitting: sitting.id,
        temperature: air.temperature,
        humidity: air.humidity,
        simulated: air.simulated,
      });
    } catch (error) {
      notice((error as Error).message);
    }
  };
  const paintings = sitter.settings.easel.paintings ?? [];
  return (
    <>
      <TextField
        label="Note"
        size="small"
        fullWidth
        multiline
        value={words}
        onChange={(e) => setWords(e.target.value)}
        slotProps={{ htmlInput: { maxLength: 2000 } }}
      />
      <Box sx={{ display: "flex", gap: 1, mt: 1, mb: 2 }}>
        <Button
          color="inherit"
          variant="outlined"
          fullWidth
          disabled={isPending || words.trim() === ""}
          onClick={() => void say("note")}
        >
          Note it
        </Button>
        <Button
          color="inherit"
          variant="outlined"
          fullWidth
          disabled={isPending || words.trim() === ""}
          onClick={() => void say("next time")}
        >
          For next time
        </Button>
      </Box>
      <PaintUsed sitter={sitter} sitting={sitting} />
      <Box sx={{ display: "flex", gap: 1, mt: 1, mb: 1 }}>
        <Button
          color="inherit"
          variant="outlined"
          fullWidth
          disabled={isPending}
          onClick={() => void readAir()}
        >
          Read the air
        </Button>
        <Button
          color="inherit"
          variant="outlined"
          fullWidth
          disabled={isPending || paintings.length === 0}
          title={
            paintings.length === 0
              ? "Photograph the painting at the easel first"
              : "The newest photograph at the easel"
          }
          onClick={() => {
            const newest = paintings.at(-1);
            if (newest)
              void write({
                kind: "photograph",
                sitting: sitting.id,
                sha256: newest.sha256,
                words: newest.name,
              });
          }}
        >
          Newest photograph
        </Button>
      </Box>
    </>
  );
}

function PaintUsed({ sitter, sitting }: { sitter: Sitter; sitting: Sitting }) {
  const { write, isPending } = useWriting(sitter.id);
  const rack = useRack();
  const [tube, setTube] = useState("");
  const [ml, setMl] = useState(2);
  const [left, setLeft] = useState(0);
  const tubes = rack.data ?? [];
  if (tubes.length === 0) return null;
  return (
    <>
      <TextField
        select
        fullWidth
        size="small"
        label="Paint from"
        value={tube}
        onChange={(e) => setTube(e.target.value)}
        sx={{ mb: 1 }}
      >
        {tubes.map((t) => (
          <MenuItem key={t.key} value={t.key}>
            {t.name}
            {t.amount_ml !== null && `, ${t.amount_ml} ml left`}
          </MenuItem>
        ))}
      </TextField>
      {tube && (
        <Box sx={{ display: "flex", gap: 1, mb: 1, alignItems: "start" }}>
          <NumberField label="Taken" unit="ml" value={ml} least={0.1} most={500} onChange={setMl} />
          <NumberField label="Scraped off" unit="ml" value={left} least={0} most={ml} onChange={setLeft} />
          <Button
            color="inherit"
            variant="outlined"
            disabled={isPending}
            onClick={async () => {
              if (
                await write({
                  kind: "used",
                  sitting: sitting.id,
                  tube,
                  name: "",
                  ml,
                  left_ml: left,
                  off_rack_ml: 0,
                })
              )
                setTube("");
            }}
          >
            Write
          </Button>
        </Box>
      )}
    </>
  );
}
