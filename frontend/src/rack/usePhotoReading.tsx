import { Box, Button, TextField, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useRef, useState } from "react";
import { Group, Text } from "react-konva";
import type { Schemas } from "../api/client";
import { RectangleMark } from "../picture/Overlays";
import { PictureStage } from "../picture/PictureStage";
import type { Spot } from "../picture/spots";
import { Say, Section } from "../sheet/parts";
import { spanned } from "../picture/spots";
import type { PatchName, Patches, RackChanges, RackTube } from "./useRack";

type Mark = Schemas["MarkIn"];
type What = PatchName | "white";
const words: Record<What, string> = {
  white: "white",
  masstone: "masstone",
  tint: "tint",
  over_black: "film on black",
  over_white: "film on paper",
  wash: "wash",
};

/** Patches marked on a photograph of a swatch sheet, read against its white. */
export function usePhotoReading(
  tube: RackTube | undefined,
  changes: RackChanges,
  onRead: (patches: Patches) => void,
) {
  const input = useRef<HTMLInputElement>(null);
  const [photo, setPhoto] = useState<Schemas["PhotoOut"] | null>(null);
  const [what, setWhat] = useState<What>("white");
  const [whites, setWhites] = useState<Mark[]>([]);
  const [patches, setPatches] = useState<Record<string, Mark>>({});
  const [white, setWhite] = useState("88");
  const kinds: What[] = tube?.white
    ? ["white", "masstone"]
    : ["white", "masstone", "tint", "over_black", "over_white", "wash"];
  const percent = Number(white.replace(",", "."));
  const badWhite = !(percent >= 5 && percent <= 100);
  const close = () => {
    setPhoto(null);
    setWhites([]);
    setPatches({});
    setWhat("white");
  };
  const mark = (points: Spot[]) => {
    const box = spanned(points);
    if (!box) return;
    if (what === "white") setWhites([...whites, box]);
    else {
      setPatches({ ...patches, [what]: box });
      const next = kinds[kinds.indexOf(what) + 1];
      if (next) setWhat(next);
    }
  };
  const read = async () => {
    if (!photo) return;
    const found = await changes.readPhoto(photo.sha256, { whites, white: percent / 100, patches });
    if (found) {
      onRead(found);
      close();
    }
  };
  const button = (
    <>
      <Button color="inherit" variant="outlined" fullWidth onClick={() => input.current?.click()}>
        From a photograph
      </Button>
      <input
        ref={input}
        type="file"
        hidden
        accept="image/*,.heic,.heif"
        aria-label="Photograph of swatches"
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = "";
          if (file) void changes.addPhoto(file).then((kept) => kept && setPhoto(kept));
        }}
      />
    </>
  );
  const marks: [string, Mark][] = [
    ...whites.map((w, i): [string, Mark] => [`white ${i + 1}`, w]),
    ...kinds.flatMap((k): [string, Mark][] => {
      const m = k === "white" ? undefined : patches[k];
      return m ? [[words[k], m]] : [];
    }),
  ];
  const wall = photo && (
    <PictureStage
      label="Photograph of swatches"
      pictures={[`/api/swatches/photo/${photo.sha256}`]}
      size={photo}
      tool="draw"
      straight
      fitSignal={0}
      busy={changes.isPending}
      onStroke={mark}
      overlay={(px) =>
        marks.map(([name, m]) => (
          <Group key={name} listening={false}>
            <RectangleMark from={[m.x1, m.y1]} to={[m.x2, m.y2]} size={photo} px={px} />
            <Text
              x={m.x1 * photo.width}
              y={name === words.over_white ? m.y2 * photo.height + 4 * px : m.y1 * photo.height - 18 * px}
              text={name}
              fontSize={15 * px}
              fill="#000000"
              stroke="#ffffff"
              strokeWidth={3 * px}
              fillAfterStrokeEnabled
            />
          </Group>
        ))
      }
    />
  );
  const sheet = photo && (
    <Section title="Mark the patches">
      <Say quiet>
        Say what comes next, then drag a rectangle inside it. White first: paper, or a grey card. Three whites
        spread over the sheet also take out light that falls off.
      </Say>
      <ToggleButtonGroup
        exclusive
        orientation="vertical"
        fullWidth
        value={what}
        aria-label="What to mark"
        onChange={(_, v: What | null) => v && setWhat(v)}
        sx={{ mb: 1.5 }}
      >
        {kinds.map((k) => (
          <ToggleButton key={k} value={k} sx={{ justifyContent: "space-between", px: 1.5 }}>
            <span>{words[k]}</span>
            <span>{k === "white" ? whites.length || "" : patches[k] ? "marked" : ""}</span>
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <TextField
        size="small"
        fullWidth
        label="The white reflects, %"
        value={white}
        error={badWhite}
        helperText={badWhite ? "5 to 100" : "paper about 88, a grey card 18"}
        onChange={(e) => setWhite(e.target.value)}
        sx={{ mb: 1.5 }}
      />
      <Box sx={{ display: "flex", gap: 1 }}>
        <Button
          variant="contained"
          disableElevation
          disabled={whites.length === 0 || !patches.masstone || badWhite}
          onClick={() => void read()}
        >
          Read
        </Button>
        <Button
          color="inherit"
          onClick={() =>
            whites.length + Object.keys(patches).length
              ? (setWhites([]), setPatches({}), setWhat("white"))
              : close()
          }
        >
          {whites.length + Object.keys(patches).length ? "Clear marks" : "Close"}
        </Button>
      </Box>
    </Section>
  );
  return { button, wall, sheet, close };
}
