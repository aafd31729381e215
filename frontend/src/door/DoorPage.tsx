import { Box, Button, TextField, Typography } from "@mui/material";
import { useState } from "react";
import { useStored } from "../sitter/stored";
import { serif, textSize } from "../theme";
import { useEntering } from "./useDoor";

/** What a painter sees who comes from another machine: a name, the passphrase, and in. */
export function DoorPage({ secret }: { secret: boolean }) {
  const { enter } = useEntering();
  const [painter, setPainter] = useStored("painter", "");
  const [passphrase, setPassphrase] = useState("");
  return (
    <Box
      component="main"
      sx={{ height: "100vh", overflow: "auto", display: "grid", placeItems: "center", p: 3 }}
    >
      <Box
        component="form"
        sx={{ width: "100%", maxWidth: 380, display: "grid", gap: 2 }}
        onSubmit={(e) => {
          e.preventDefault();
          enter.mutate({ painter, passphrase });
        }}
      >
        <Typography component="h1" sx={{ fontFamily: serif, fontSize: textSize.door }}>
          True Sitter
        </Typography>
        <Typography color="text.secondary">
          This studio has a passphrase. Your name goes beside what you change.
        </Typography>
        <TextField
          label="Your name"
          value={painter}
          autoFocus={painter === ""}
          autoComplete="nickname"
          onChange={(e) => setPainter(e.target.value)}
          slotProps={{ htmlInput: { maxLength: 40 } }}
        />
        <TextField
          label="Passphrase"
          type="password"
          value={passphrase}
          autoFocus={painter !== ""}
          autoComplete="current-password"
          onChange={(e) => setPassphrase(e.target.value)}
          slotProps={{ htmlInput: { maxLength: 200 } }}
        />
        <Button
          type="submit"
          variant="contained"
          disableElevation
          disabled={enter.isPending || painter.trim() === "" || passphrase === ""}
        >
          {enter.isPending ? "Looking …" : "Come in"}
        </Button>
        {enter.isError && <Typography role="alert">{enter.error.message}</Typography>}
        {!secret && (
          <Typography color="text.secondary" sx={{ fontSize: textSize.small }}>
            What goes between this device and the studio is not encrypted: come in only over a network you
            trust.
          </Typography>
        )}
      </Box>
    </Box>
  );
}
