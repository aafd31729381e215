import { Box, Button, ButtonBase } from "@mui/material";
import { pictureUrl, type Schemas, type Settings, type Sitter } from "../../api/client";
import { useFramings } from "../../api/hooks";
import { Say, Section } from "../../sheet/parts";
import { textSize } from "../../theme";

type Reference = Settings["reference"];
type Framing = Schemas["FramingOut"];
type Set = (part: Partial<Reference>, words: string) => void;

/** Frames to press: as small pictures, round the head that was found and the whole photograph. */
export function Framings({ sitter, onSet }: { sitter: Sitter; onSet: Set }) {
  const found = useFramings(sitter).data;
  const settings = sitter.settings.reference;
  if (!found) return null;
  return (
    <Section title="Framed to the sitter">
      {found.turns > 0 && (
        <>
          <Say>{found.turn_sentence}</Say>
          <Button
            color="inherit"
            variant="outlined"
            fullWidth
            sx={{ mb: 1 }}
            onClick={() => onSet(turned(settings, found.turns), "Turn the photograph")}
          >
            Turn it upright
          </Button>
        </>
      )}
      <Box
        role="group"
        aria-label="Frames"
        sx={{ display: "grid", gridTemplateColumns: "repeat(3, 1fr)", gap: 1, mb: 1 }}
      >
        {found.framings.map((framing) => (
          <Small
            key={framing.name}
            framing={framing}
            photograph={pictureUrl(sitter, "photograph")}
            on={isSet(settings, framing)}
            onPress={() => onSet(setBy(framing), `Frame ${framing.name}`)}
          />
        ))}
      </Box>
      {found.sentence && <Say quiet>{found.sentence}</Say>}
    </Section>
  );
}

function Small({
  framing,
  photograph,
  on,
  onPress,
}: {
  framing: Framing;
  photograph: string;
  on: boolean;
  onPress: () => void;
}) {
  const [left, top] = framing.corners[0] ?? [0, 0];
  const [right, bottom] = framing.corners[2] ?? [1, 1];
  const [width, height] = [framing.canvas_width_mm, framing.canvas_height_mm];
  // The photograph is laid under a window of the canvas's proportions.
  const [wide, high] = [width / (right - left), height / (bottom - top)];
  return (
    <ButtonBase
      aria-pressed={on}
      onClick={onPress}
      sx={{
        flex: "1 1 0",
        minWidth: 0,
        display: "block",
        p: 0.5,
        border: 2,
        borderColor: on ? "text.primary" : "divider",
      }}
    >
      <svg
        viewBox={`0 0 ${width} ${height}`}
        style={{ width: "100%", height: 110, display: "block" }}
        aria-hidden
      >
        <svg width={width} height={height} viewBox={`0 0 ${width} ${height}`}>
          <image
            href={photograph}
            x={-left * wide}
            y={-top * high}
            width={wide}
            height={high}
            preserveAspectRatio="none"
          />
        </svg>
      </svg>
      <Box
        component="span"
        sx={{ display: "block", fontSize: textSize.fine, fontWeight: on ? 700 : 400, mt: 0.5 }}
      >
        {framing.name}
      </Box>
      <Box component="span" sx={{ display: "block", fontSize: textSize.fine, color: "text.secondary" }}>
        {framing.face_mm === null ? `${width} × ${height} mm` : `face ${framing.face_mm.toFixed(0)} mm`}
      </Box>
    </ButtonBase>
  );
}

const framed = ["canvas_width_mm", "canvas_height_mm", "centre_x", "centre_y", "zoom"] as const;

const setBy = (framing: Framing): Partial<Reference> =>
  Object.fromEntries(framed.map((name) => [name, framing[name]]));

const isSet = (settings: Reference, framing: Framing) =>
  framed.every((name) => Math.abs(settings[name] - framing[name]) < 0.002);

/** The photograph turned; what was framed on it begins anew. */
function turned(settings: Reference, turns: number): Partial<Reference> {
  const { canvas_width_mm: width, canvas_height_mm: height } = settings;
  return {
    quarter_turns: (settings.quarter_turns + turns) % 4,
    centre_x: 0.5,
    centre_y: 0.5,
    zoom: 1,
    straighten: 0,
    keystone: null,
    ...(turns % 2 ? { canvas_width_mm: height, canvas_height_mm: width } : {}),
  };
}
