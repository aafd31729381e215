import {
  Autocomplete,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  TextField,
  Typography,
} from "@mui/material";
import { useState } from "react";
import { useLibrary } from "../api/hooks";
import { serif, textSize } from "../theme";

/** A tube of the painter's own: what is in it, what it is called, how much is left. */
export function NewTube({
  onClose,
  onAdd,
}: {
  onClose: () => void;
  onAdd: (tube: { name: string; pigment: string; amount_ml: number | null }) => void;
}) {
  const library = useLibrary();
  const options = library.data?.tubes.filter((t) => !t.own) ?? [];
  const [pigment, setPigment] = useState<string | null>(null);
  const [name, setName] = useState("");
  const [ml, setMl] = useState("37");
  const amount = ml.trim() === "" ? null : Number(ml.replace(",", "."));
  const bad = amount !== null && !(amount >= 0 && amount <= 5000);
  const found = options.find((t) => t.key === pigment);
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs">
      <DialogTitle sx={{ fontFamily: serif }}>Add a tube</DialogTitle>
      <DialogContent sx={{ display: "grid", gap: 2, pt: "8px !important" }}>
        <Autocomplete
          options={options}
          groupBy={(t) => t.family}
          getOptionLabel={(t) => `${t.name} (${t.ci_name})`}
          value={found ?? null}
          isOptionEqualToValue={(a, b) => a.key === b.key}
          onChange={(_, t) => {
            setPigment(t?.key ?? null);
            if (t && !name) setName(`My ${t.name.toLowerCase()}`);
          }}
          renderInput={(p) => <TextField {...p} label="What is in it" autoFocus />}
        />
        {found?.off_because && (
          <Typography sx={{ fontSize: textSize.small }}>
            {found.name} {found.off_because}. {options.find((t) => t.key === found.substitute)?.name} can
            stand in for it.
          </Typography>
        )}
        <TextField
          label="What you call it"
          value={name}
          onChange={(e) => setName(e.target.value)}
          slotProps={{ htmlInput: { maxLength: 60 } }}
        />
        <TextField
          label="Left in it, ml"
          value={ml}
          error={bad}
          helperText={bad ? "0 to 5000, or empty when you do not count" : " "}
          onChange={(e) => setMl(e.target.value)}
          slotProps={{ htmlInput: { inputMode: "decimal" } }}
        />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          disableElevation
          disabled={!pigment || !name.trim() || bad}
          onClick={() => pigment && onAdd({ name: name.trim(), pigment, amount_ml: amount })}
        >
          Add
        </Button>
      </DialogActions>
    </Dialog>
  );
}
