import {
  Box,
  Button,
  ButtonBase,
  CircularProgress,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  Typography,
} from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef, useState, type DragEvent } from "react";
import { Link, useNavigate } from "react-router";
import { base, call, pictureUrl, send, type Sitter } from "../api/client";
import { useSitters, usualCanvas } from "../api/hooks";
import { OnTheEasel } from "../log/OnTheEasel";
import { useNotice } from "../sitter/notice";
import { serif, studio, textSize } from "../theme";
import { keys } from "../api/keys";

const ACCEPT =
  "image/jpeg,image/png,image/webp,image/tiff,image/heic,image/heif,.jpg,.jpeg,.png,.webp,.tif,.tiff,.heic,.heif,.zip";

/** All sitters, and the place where a new photograph is put in. */
export function Shelf() {
  const sitters = useSitters();
  const client = useQueryClient();
  const navigate = useNavigate();
  const notice = useNotice();
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const [asking, setAsking] = useState<Sitter | null>(null);
  const refresh = () => client.invalidateQueries({ queryKey: keys.sitters });

  const add = useMutation({
    mutationFn: async (file: File) => {
      const form = new FormData();
      const saved = /\.zip$/i.test(file.name);
      form.append(saved ? "file" : "photo", file);
      if (saved) return call<Sitter>("/api/sitter-files", { method: "POST", body: form });
      const sitter = await call<Sitter>("/api/sitters", { method: "POST", body: form });
      try {
        const { usual } = await client.fetchQuery(usualCanvas);
        if (usual) await send("POST", `${base(sitter.id)}/reference/usual-canvas`);
      } catch (error) {
        // The sitter is there all the same, framed as photographed.
        notice((error as Error).message);
      }
      return sitter;
    },
    onSuccess: async (sitter) => {
      await refresh();
      void navigate(`/sitters/${sitter.id}/reference`);
    },
    onError: (error) => notice(error.message),
  });
  const restore = useMutation({
    mutationFn: (id: string) => send<Sitter>("POST", `${base(id)}/restore`),
    onSuccess: refresh,
    onError: (error) => notice(error.message),
  });
  const remove = useMutation({
    mutationFn: (sitter: Sitter) => send("DELETE", base(sitter.id)),
    onSuccess: async (_, sitter) => {
      await refresh();
      notice(`${sitter.name} was removed from the shelf.`, {
        label: "Put back",
        run: () => restore.mutate(sitter.id),
      });
    },
    onError: (error) => notice(error.message),
  });

  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    const file = event.dataTransfer.files[0];
    if (file) add.mutate(file);
  };

  return (
    <Box
      component="main"
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
      sx={{ height: "100vh", overflow: "auto", bgcolor: "background.default", px: { xs: 3, md: 6 }, py: 4 }}
    >
      <Box
        sx={{
          display: "flex",
          alignItems: "baseline",
          gap: 3,
          borderBottom: 1,
          borderColor: "divider",
          pb: 2,
          mb: 4,
        }}
      >
        <Typography component="h1" sx={{ fontFamily: serif, fontSize: textSize.door }}>
          True Sitter
        </Typography>
        <Typography color="text.secondary" sx={{ flex: 1 }}>
          from a photograph to a plan that can be painted
        </Typography>
        <Button color="inherit" component={Link} to="/log">
          Log
        </Button>
        <Button color="inherit" component={Link} to="/drills">
          Drills
        </Button>
        <Button color="inherit" component={Link} to="/keeping">
          Safekeeping
        </Button>
        <Button color="inherit" component={Link} to="/tubes">
          Tube rack
        </Button>
        <Button
          variant="contained"
          disableElevation
          disabled={add.isPending}
          onClick={() => input.current?.click()}
        >
          {add.isPending ? "Reading it …" : "New sitter"}
        </Button>
        <input
          ref={input}
          type="file"
          hidden
          accept={ACCEPT}
          aria-label="Photograph of the sitter"
          onChange={(e) => {
            const file = e.target.files?.[0];
            e.target.value = "";
            if (file) add.mutate(file);
          }}
        />
      </Box>
      {sitters.isPending && <CircularProgress color="inherit" size={28} aria-label="Loading the shelf" />}
      {sitters.isError && <Typography role="alert">{sitters.error.message}</Typography>}
      <Box
        component="ul"
        aria-label="Sitters"
        sx={{
          display: "grid",
          gridTemplateColumns: "repeat(auto-fill, minmax(250px, 1fr))",
          gap: 5,
          p: 0,
          m: 0,
          listStyle: "none",
        }}
      >
        {sitters.data?.map((sitter) => (
          <Box component="li" key={sitter.id}>
            <Link to={`/sitters/${sitter.id}/reference`} style={{ textDecoration: "none", color: "inherit" }}>
              <Box
                sx={{ bgcolor: studio.day.wall, p: 2, height: 300, display: "grid", placeItems: "center" }}
              >
                <Box
                  component="img"
                  src={pictureUrl(sitter, "colour")}
                  alt={`Reference of ${sitter.name}`}
                  loading="lazy"
                  sx={{ maxWidth: "100%", maxHeight: 268, display: "block" }}
                />
              </Box>
              <Typography component="h2" sx={{ fontFamily: serif, fontSize: textSize.head, mt: 1.5 }}>
                {sitter.name}
              </Typography>
            </Link>
            <Typography color="text.secondary" sx={{ fontSize: textSize.small, lineHeight: 1.4 }}>
              {sitter.note || sitter.filename}
            </Typography>
            <Typography sx={{ fontSize: textSize.small, mt: 0.5 }}>
              {sitter.settings.reference.canvas_width_mm} × {sitter.settings.reference.canvas_height_mm} mm ·{" "}
              {sitter.settings.values.groups} groups
            </Typography>
            <OnTheEasel sitter={sitter.id} />
            <Box sx={{ display: "flex", ml: -1 }}>
              <Button href={`${base(sitter.id)}/file`} aria-label={`Save ${sitter.name} as a file`}>
                Save
              </Button>
              <Button onClick={() => setAsking(sitter)} aria-label={`Remove ${sitter.name} from the shelf`}>
                Remove
              </Button>
            </Box>
          </Box>
        ))}
        <Box component="li">
          <ButtonBase
            onClick={() => input.current?.click()}
            sx={{
              width: "100%",
              height: 300,
              border: over ? "3px solid" : "1px dashed",
              borderColor: over ? "text.primary" : "text.secondary",
              display: "grid",
              placeItems: "center",
              textAlign: "center",
              p: 3,
              cursor: "pointer",
            }}
          >
            <Typography color="text.secondary">
              {sitters.data?.length === 0 ? "The shelf is empty. " : ""}Drop a photograph here: JPEG, PNG,
              WebP, TIFF or HEIC, up to 60 MB. One clear light from the side is best. A sitter saved as a file
              comes back here too.
            </Typography>
          </ButtonBase>
        </Box>
      </Box>
      <Dialog open={asking !== null} onClose={() => setAsking(null)}>
        <DialogTitle sx={{ fontFamily: serif }}>Remove {asking?.name} from the shelf?</DialogTitle>
        <DialogContent>
          The photograph and everything planned for it go. You can put them back until the application is
          started anew.
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setAsking(null)}>Keep</Button>
          <Button
            variant="contained"
            disableElevation
            onClick={() => {
              if (asking) remove.mutate(asking);
              setAsking(null);
            }}
          >
            Remove
          </Button>
        </DialogActions>
      </Dialog>
    </Box>
  );
}
