import { Box, Button, ButtonBase } from "@mui/material";
import { pictureUrl, type Schemas, type Settings, type Sitter } from "../../api/client";
import { useFramings } from "../../api/hooks";
import { Say, Section } from "../../sheet/parts";
import { onCanvas } from "./onCanvas";
import { textSize } from "../../theme";

type Reference = Settings["reference"];
type Framing = Schemas["FramingOut"];
type Set = (part: Partial<Reference>, words: string) => void;

/** Frames to press: as small pictures, round the head that was found and the whole photograph. */
export function Framings({ sitter, aspect, onSet }: { sitter: Sitter; aspect: number; onSet: Set }) {
  const found = useFramings(sitter).data;
  const settings = sitter.settings.reference;
  if (!found) return null;
  const { upright } = found;
  return (
    <Section title="Framed to the sitter">
      {upright && (
        <>
          <Say>{found.turn_sentence}</Say>
          <Button
            color="inherit"
            variant="outlined"
            fullWidth
            sx={{ mb: 1 }}
            onClick={() => onSet(upright, "Turn the photograph")}
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
            photograph={pictureUrl(sitter, "square")}
            aspect={aspect}
            mirror={settings.mirror}
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
  aspect,
  mirror,
  on,
  onPress,
}: {
  framing: Framing;
  photograph: string;
  aspect: number;
  mirror: boolean;
  on: boolean;
  onPress: () => void;
}) {
  const { canvas_width_mm: width, canvas_height_mm: height } = framing;
  return (
    <ButtonBase
      aria-pressed={on}
      onClick={onPress}
      sx={{ minWidth: 0, display: "block", p: 0.5, border: 2, borderColor: on ? "text.primary" : "divider" }}
    >
      <svg
        viewBox={`0 0 ${width} ${height}`}
        style={{ width: "100%", height: 110, display: "block" }}
        aria-hidden
      >
        <svg width={width} height={height} viewBox={`0 0 ${width} ${height}`}>
          <image
            href={photograph}
            width={1}
            height={aspect}
            preserveAspectRatio="none"
            transform={onCanvas(framing, aspect, mirror)}
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
