import { Box, Button, MenuItem, TextField } from "@mui/material";
import { useState } from "react";
import { base, send, type Sitter } from "../../api/client";
import { useWorks, useWriting, type Entry } from "../../log/useLog";
import { Handle, NumberField, Say } from "../../sheet/parts";
import { useNotice } from "../../sitter/notice";

const local = (date: Date) => {
  const two = (n: number) => String(n).padStart(2, "0");
  const day = [date.getFullYear(), two(date.getMonth() + 1), two(date.getDate())].join("-");
  return `${day}T${two(date.getHours())}:${two(date.getMinutes())}`;
};

/** A sitting that was not timed, written down afterwards. */
export function PastSitting({ sitter }: { sitter: Sitter }) {
  const [open, setOpen] = useState(false);
  const works = useWorks(sitter);
  const notice = useNotice();
  const { refresh } = useWriting(sitter.id);
  const [began, setBegan] = useState(() => local(new Date(Date.now() - 2 * 3_600_000)));
  const [minutes, setMinutes] = useState(60);
  const [key, setKey] = useState("");
  const [done, setDone] = useState(100);
  const start = new Date(began);
  const end = new Date(start.getTime() + minutes * 60_000);
  const bad = Number.isNaN(start.getTime())
    ? "This is no time."
    : end.getTime() > Date.now()
      ? "It would end in the future."
      : "";
  const keep = async () => {
    const path = `${base(sitter.id)}/log`;
    const work = works.data?.find((w) => w.key === key) ?? null;
    let first: Entry | undefined;
    try {
      first = await send<Entry>("POST", path, {
        what: { kind: "began", work },
        at: start.toISOString(),
      });
      await send("POST", path, {
        what: { kind: "ended", sitting: first.id, done: work ? done / 100 : null },
        at: end.toISOString(),
      });
      setOpen(false);
    } catch (error) {
      notice((error as Error).message);
      // Half a sitting would go on for ever.
      if (first) await send("DELETE", `${path}/entries/${first.id}`).catch(() => undefined);
    } finally {
      await refresh();
    }
  };
  if (!open)
    return (
      <Button color="inherit" variant="outlined" fullWidth onClick={() => setOpen(true)}>
        Write a past sitting down
      </Button>
    );
  return (
    <Box sx={{ display: "grid", gap: 1.5, mt: 1 }}>
      <Box sx={{ display: "flex", gap: 1 }}>
        <TextField
          label="Begun"
          type="datetime-local"
          size="small"
          value={began}
          error={bad !== ""}
          onChange={(e) => setBegan(e.target.value)}
          slotProps={{ inputLabel: { shrink: true } }}
          sx={{ flex: 2 }}
        />
        <NumberField label="Worked" unit="min" value={minutes} least={1} most={1440} onChange={setMinutes} />
      </Box>
      <TextField select size="small" label="On" value={key} onChange={(e) => setKey(e.target.value)}>
        <MenuItem value="">Something beside the plan</MenuItem>
        {works.data?.map((w, i) => (
          <MenuItem key={w.key} value={w.key}>
            {i + 1} {w.name}
          </MenuItem>
        ))}
      </TextField>
      {key && (
        <Handle
          label="Done of it then"
          value={done}
          least={0}
          most={100}
          step={5}
          shown={(v) => `${v} %`}
          onChange={setDone}
        />
      )}
      {bad && <Say>{bad}</Say>}
      <Box sx={{ display: "flex", gap: 1 }}>
        <Button color="inherit" fullWidth onClick={() => setOpen(false)}>
          Leave it
        </Button>
        <Button
          color="inherit"
          variant="outlined"
          fullWidth
          disabled={bad !== ""}
          onClick={() => void keep()}
        >
          Write it down
        </Button>
      </Box>
    </Box>
  );
}
