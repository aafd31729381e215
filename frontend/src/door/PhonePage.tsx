import { Box, Button, Typography } from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useParams } from "react-router";
import { useSitter } from "../api/hooks";
import { useTakeIn } from "../stages/easel/useTakeIn";
import { serif, textSize } from "../theme";
import type { Sitter } from "../api/client";
import { keys } from "../api/keys";

/** A phone at the easel: one button that photographs the painting into the sitter's easel. */
export function PhonePage() {
  const { id = "" } = useParams();
  const sitter = useSitter(id);
  return (
    <Box
      component="main"
      sx={{ height: "100vh", overflow: "auto", p: 3, display: "grid", alignContent: "center" }}
    >
      {sitter.isError && <Typography role="alert">{sitter.error.message}</Typography>}
      {sitter.data && <Shutter sitter={sitter.data} />}
    </Box>
  );
}

function Shutter({ sitter }: { sitter: Sitter }) {
  const client = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const [taken, setTaken] = useState(0);
  const { upload } = useTakeIn(sitter, () => {
    setTaken((n) => n + 1);
    void client.invalidateQueries({ queryKey: keys.sitter(sitter.id) });
  });
  const send = (file: File, byHand: boolean) =>
    upload.mutate({ file, after: null, wet: false, drawing: false, byHand });
  return (
    <Box sx={{ display: "grid", gap: 2, maxWidth: 480, mx: "auto", width: "100%" }}>
      <Typography component="h1" sx={{ fontFamily: serif, fontSize: textSize.title }}>
        {sitter.name}
      </Typography>
      <Typography color="text.secondary">
        The whole painting, with a little wall round it, from straight in front, without flash.
      </Typography>
      <input
        ref={input}
        type="file"
        hidden
        accept="image/*"
        capture="environment"
        aria-label="Photograph of the painting"
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) send(file, false);
          e.target.value = "";
        }}
      />
      <Button
        variant="contained"
        disableElevation
        sx={{ minHeight: 96, fontSize: textSize.head }}
        disabled={upload.isPending}
        onClick={() => input.current?.click()}
      >
        {upload.isPending ? "Looking for the painting …" : "Photograph the painting"}
      </Button>
      <Typography role="status">
        {taken > 0 && `${taken === 1 ? "One photograph is" : `${taken} photographs are`} at the easel now.`}
      </Typography>
      {upload.isError && (
        <Box role="alert">
          <Typography>{upload.error.message}</Typography>
          {upload.variables && (
            <Button
              color="inherit"
              variant="outlined"
              fullWidth
              sx={{ mt: 1 }}
              onClick={() => upload.variables && send(upload.variables.file, true)}
            >
              Keep it, and set its corners by hand
            </Button>
          )}
        </Box>
      )}
    </Box>
  );
}
