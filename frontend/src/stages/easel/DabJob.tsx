import { Box, Button, MenuItem, TextField, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { base, call, send, type Schemas } from "../../api/client";
import { useFlesh } from "../../api/hooks";
import { RectangleMark, SpotMark } from "../../picture/Overlays";
import { spanned, type Spot } from "../../picture/spots";
import { Say, Section } from "../../sheet/parts";
import { Pair } from "../../sheet/Recipe";
import { useTubes } from "../../sheet/useTubes";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";

type Mark = Schemas["MarkIn"];
type Doing = "spot" | "white" | "dab";

/** A dab on the brush or palette, photographed beside a white, compared with a spot of the reference. */
export function DabJob({ sitter }: JobProps) {
  const flesh = useFlesh(sitter);
  const tubes = useTubes(sitter);
  const input = useRef<HTMLInputElement>(null);
  const [photo, setPhoto] = useState<Schemas["PhotoOut"] | null>(null);
  const [doing, setDoing] = useState<Doing>("spot");
  const [spot, setSpot] = useState<Spot | null>(null);
  const [white, setWhite] = useState<Mark | null>(null);
  const [dab, setDab] = useState<Mark | null>(null);
  const [group, setGroup] = useState("");
  const mixture = flesh.data?.mixtures.find((m) => String(m.group) === group);
  const keep = useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.append("photo", file);
      return call<Schemas["PhotoOut"]>("/api/swatches/photo", { method: "POST", body: form });
    },
    onSuccess: (kept) => {
      setPhoto(kept);
      setWhite(null);
      setDab(null);
      setDoing("white");
    },
  });
  const check = useMutation({
    mutationFn: (marks: { white: Mark; dab: Mark; spot: Spot }) =>
      send<Schemas["DabOut"]>("POST", `${base(sitter.id)}/easel/dab`, {
        sha256: photo?.sha256,
        white: marks.white,
        dab: marks.dab,
        x: marks.spot[0],
        y: marks.spot[1],
        parts: mixture?.parts ?? {},
      }),
  });
  const onPhoto = doing !== "spot" && photo !== null;
  useWall({
    ...(onPhoto
      ? {
          plain: true,
          picture: `/api/swatches/photo/${photo.sha256}`,
          size: { width: photo.width, height: photo.height },
        }
      : {}),
    busy: check.isPending || keep.isPending,
    tool: onPhoto ? "draw" : "pick",
    straight: onPhoto,
    onPick: setSpot,
    onStroke: (points) => {
      const box = spanned(points);
      if (!box) return;
      if (doing === "white") {
        setWhite(box);
        setDoing("dab");
      } else setDab(box);
    },
    overlay: (px, size) =>
      onPhoto ? (
        <>
          {[white, dab].map(
            (m, i) =>
              m && <RectangleMark key={i} from={[m.x1, m.y1]} to={[m.x2, m.y2]} size={size} px={px} />,
          )}
        </>
      ) : (
        spot && <SpotMark spot={spot} name="meant for" size={size} px={px} />
      ),
  });
  const ready = spot && white && dab;
  const d = check.data;
  return (
    <Section title="A dab beside its spot">
      <Say quiet>
        Pick the spot it is meant for. Then photograph the dab beside something white, and draw a line from
        corner to corner inside each.
      </Say>
      <input
        ref={input}
        type="file"
        hidden
        accept="image/*"
        data-testid="dab-file"
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) keep.mutate(file);
          e.target.value = "";
        }}
      />
      <Button color="inherit" variant="outlined" fullWidth onClick={() => input.current?.click()}>
        Photograph of the dab …
      </Button>
      {keep.isError && <Say>{keep.error.message}</Say>}
      <ToggleButtonGroup
        exclusive
        fullWidth
        value={doing}
        aria-label="What is marked"
        onChange={(_, v: Doing | null) => v && setDoing(v)}
        sx={{ mt: 1.5 }}
      >
        <ToggleButton value="spot">spot</ToggleButton>
        <ToggleButton value="white" disabled={!photo}>
          white
        </ToggleButton>
        <ToggleButton value="dab" disabled={!photo}>
          dab
        </ToggleButton>
      </ToggleButtonGroup>
      <TextField
        select
        fullWidth
        size="small"
        label="What is on the brush"
        value={group}
        onChange={(e) => setGroup(e.target.value)}
        slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
        sx={{ mt: 2, mb: 1.5 }}
      >
        <MenuItem value="">not known</MenuItem>
        {(flesh.data?.mixtures ?? []).map((m) => (
          <MenuItem key={String(m.group)} value={String(m.group)}>
            flesh, value {m.target_value.toFixed(1)}
          </MenuItem>
        ))}
      </TextField>
      <Button
        color="inherit"
        variant="contained"
        fullWidth
        disabled={!ready || check.isPending}
        onClick={() => ready && check.mutate({ white, dab, spot })}
      >
        Compare them
      </Button>
      {check.isError && <Say>{check.error.message}</Say>}
      {d && (
        <Box sx={{ mt: 1.5, display: "flex", gap: 1.5 }}>
          <Pair left={d.hex} right={d.wanted_hex} label="The dab, and what is wanted" />
          <Box>
            <Say>
              <span data-testid="dab">{d.words}</span>
            </Say>
            {d.addition && (
              <Say>
                To make it {d.addition.direction}: 1 part{" "}
                {tubes.get(d.addition.tube)?.name ?? d.addition.tube} to {d.addition.pile} of the pile
                {d.addition.side_effects && ` (it also turns ${d.addition.side_effects})`}.
              </Say>
            )}
            {!d.addition && d.direction && <Say>Make it {d.direction}.</Say>}
          </Box>
        </Box>
      )}
    </Section>
  );
}
