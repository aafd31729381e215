import { Box, Button, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useState } from "react";
import { Line, Text } from "react-konva";
import { type Sitter } from "../../api/client";
import { RectangleMark, SpotMark } from "../../picture/Overlays";
import { spanned, type Spot } from "../../picture/spots";
import type { Size } from "../../picture/useView";
import { useImage } from "../../picture/useImage";
import { Say, Section, Toggle } from "../../sheet/parts";
import { useWall } from "../../sitter/wall";
import { easelUrl, useComparison, type Painting } from "./usePainting";

interface Props {
  sitter: Sitter;
  painting: Painting;
  set: (fields: Partial<Painting>, words: string) => void;
  remove: () => void;
  pending: boolean;
}

type Doing = "look" | "corners" | "white";
const corner = ["top left", "top right", "bottom right", "bottom left"] as const;

/** How one photograph is read: its corners, its light, whether it was wet, and what it is held to. */
export function HandSection({ sitter, painting, set, remove, pending }: Props) {
  const found = useComparison(sitter, painting);
  const [doing, setDoing] = useState<Doing>("look");
  const [picked, setPicked] = useState<Spot[]>([]);
  const url = easelUrl(sitter, painting, "photograph");
  const { image } = useImage(url);
  const shown: Spot[] =
    doing === "corners" ? picked : (found.data?.registration.corners ?? painting.corners ?? []);
  const pick = (spot: Spot) => {
    const next = [...picked, spot];
    if (next.length < 4) {
      setPicked(next);
      return;
    }
    setPicked([]);
    setDoing("look");
    set({ corners: next as Painting["corners"], refine: true }, "Set the painting's corners");
  };
  const mark = (points: Spot[]) => {
    const box = spanned(points);
    if (!box) return;
    setDoing("look");
    set({ whites: [...painting.whites, { ...box, reflects: 0.9 }] }, "Mark a white card");
  };
  useWall({
    plain: true,
    picture: url,
    busy: pending || found.isFetching,
    tool: doing === "corners" ? "pick" : doing === "white" ? "draw" : "pan",
    straight: doing === "white",
    onPick: pick,
    onStroke: mark,
    size: image ? { width: image.naturalWidth, height: image.naturalHeight } : undefined,
    overlay: (px, size) => (
      <>
        <Quad corners={shown} px={px} size={size} />
        {painting.whites.map((w, i) => (
          <RectangleMark key={i} from={[w.x1, w.y1]} to={[w.x2, w.y2]} size={size} px={px} />
        ))}
      </>
    ),
  });
  const r = found.data?.registration;
  const light = found.data?.light;
  return (
    <>
      <Section title="How it is read">
        {found.isPending && <Say quiet>Laying it on the plan …</Say>}
        {found.isError && <Say>{found.error.message}</Say>}
        {r && light && (
          <Say>
            <span data-testid="registered">
              {r.found === "hand" ? "Corners by hand" : "Corners found"}, held to the{" "}
              {r.how === "plan" ? "plan" : "photograph of the sitter"}
              {r.rms_px !== null && `, exact to ${(r.rms_px / 1.5).toFixed(1)} thousandths of its height`}.
            </span>{" "}
            Light taken from {light.taken_from}; it falls off by {Math.round(light.fall_off * 100)} per cent.
            {light.gloss > 0.005 &&
              ` Gloss hides ${Math.round(light.gloss * 100)} per cent: photograph that from another side.`}
            {!light.absolute && " Without a white card a key that is wrong as a whole cannot be seen."}
          </Say>
        )}
        <ToggleButtonGroup
          exclusive
          fullWidth
          value={doing}
          aria-label="By hand"
          onChange={(_, v: Doing | null) => {
            setPicked([]);
            setDoing(v ?? "look");
          }}
        >
          <ToggleButton value="look">look</ToggleButton>
          <ToggleButton value="corners">corners</ToggleButton>
          <ToggleButton value="white">white card</ToggleButton>
        </ToggleButtonGroup>
        {doing === "corners" && <Say quiet>Pick the painting’s {corner[picked.length]} corner.</Say>}
        {doing === "white" && <Say quiet>Draw a line from corner to corner inside a white card.</Say>}
        {painting.whites.length > 0 && (
          <Button color="inherit" fullWidth onClick={() => set({ whites: [] }, "Forget the white cards")}>
            Forget {painting.whites.length === 1 ? "the white card" : "the white cards"}
          </Button>
        )}
        {painting.corners !== null && (
          <Button
            color="inherit"
            fullWidth
            onClick={() => set({ corners: null, refine: true }, "Find the corners")}
          >
            Find the corners again
          </Button>
        )}
      </Section>
      <Section title="What it is">
        <Toggle
          label="The paint was wet"
          on={painting.wet}
          onChange={(wet) => set({ wet }, wet ? "The paint was wet" : "The paint was dry")}
        />
        <Toggle
          label="The light was even"
          on={painting.even}
          onChange={(even) => set({ even }, even ? "The light was even" : "The light fell off")}
        />
        <ToggleButtonGroup
          exclusive
          fullWidth
          value={painting.against}
          aria-label="Held to"
          onChange={(_, v: Painting["against"] | null) => v && set({ against: v }, `Hold it to the ${v}`)}
          sx={{ mt: 1 }}
        >
          <ToggleButton value="likelier">likelier</ToggleButton>
          <ToggleButton value="plan">plan</ToggleButton>
          <ToggleButton value="photograph">photo</ToggleButton>
          <ToggleButton value="drawing">drawing</ToggleButton>
        </ToggleButtonGroup>
        <Box sx={{ mt: 1 }}>
          <Button color="inherit" variant="outlined" fullWidth onClick={remove}>
            Take this photograph away
          </Button>
        </Box>
      </Section>
    </>
  );
}

function Quad({ corners, px, size }: { corners: Spot[]; px: number; size: Size }) {
  const points = corners.flatMap(([x, y]) => [x * size.width, y * size.height]);
  if (corners.length === 1 && corners[0])
    return <SpotMark spot={corners[0]} name="first corner" size={size} px={px} />;
  return (
    <>
      {(["#ffffff", "#000000"] as const).map((ink, i) => (
        <Line
          key={ink}
          listening={false}
          points={points}
          closed={corners.length === 4}
          stroke={ink}
          strokeWidth={(i ? 1.5 : 4) * px}
        />
      ))}
      {corners.map(([x, y], i) => (
        <Text
          key={i}
          listening={false}
          x={x * size.width + 6 * px}
          y={y * size.height + 6 * px}
          text={String(i + 1)}
          fontSize={15 * px}
          fill="#000000"
          stroke="#ffffff"
          strokeWidth={3 * px}
          fillAfterStrokeEnabled
        />
      ))}
    </>
  );
}
