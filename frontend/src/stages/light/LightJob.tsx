import { Button } from "@mui/material";
import { Arrow } from "react-konva";
import { pictureUrl } from "../../api/client";
import { useForm } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import { Say, Section } from "../../sheet/parts";
import { Downloads, useFileUrl } from "../../sheet/Download";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { Ball } from "./Ball";

/** Where the key light comes from, on a ball in the sitter's own flesh; dragged where it is wrong. */
export function LightJob({ sitter }: JobProps) {
  const form = useForm(sitter);
  const file = useFileUrl(sitter);
  const { change, isPending } = useChange(sitter, "light");
  const own = sitter.settings.light.key;
  const data = form.data;
  const direction = data?.direction;
  const key = own ?? data?.key ?? [0, 0, 1];
  useWall({
    busy: form.isFetching || isPending,
    overlay: (px, size) => {
      const [x, y] = key;
      const long = Math.min(size.width, size.height) * 0.16;
      const [cx, cy] = [
        size.width * 0.5 + x * size.width * 0.36,
        size.height * 0.42 - y * size.height * 0.36,
      ];
      const points = [cx + x * long, cy - y * long, cx, cy];
      return (
        Math.hypot(x, y) > 0.1 && (
          <>
            <Arrow
              listening={false}
              points={points}
              stroke="#ffffff"
              fill="#ffffff"
              strokeWidth={7 * px}
              pointerLength={16 * px}
              pointerWidth={16 * px}
            />
            <Arrow
              listening={false}
              points={points}
              stroke="#000000"
              fill="#000000"
              strokeWidth={3 * px}
              pointerLength={14 * px}
              pointerWidth={13 * px}
            />
          </>
        )
      );
    },
  });
  return (
    <>
      <Section title="Key light">
        <Ball
          picture={pictureUrl(sitter, "ball")}
          light={[key[0] ?? 0, key[1] ?? 0, key[2] ?? 1]}
          words={direction?.words ?? "from the front"}
          onLight={(light) =>
            change(
              { key: light.map((v) => Math.round(v * 1000) / 1000) as [number, number, number] },
              "Key light",
            )
          }
        />
        {form.isPending && <Say quiet>Looking for the light …</Say>}
        {form.isError && <Say>{form.error.message}</Say>}
        {data && !direction && (
          <Say>
            Too little bare skin shows where the light comes from. Drag the light on the ball until it is lit
            as the sitter is.
          </Say>
        )}
        {direction && (
          <Say>
            From the {direction.words}
            {direction.by_hand ? ", as you set it." : "."}
            {!direction.by_hand &&
              ` One light in that place explains ${Math.round(direction.confidence * 100)} % of how light and dark the skin is.`}
          </Say>
        )}
        {direction && !direction.by_hand && !direction.from_face && (
          <Say>
            No face was found: this is read off the roundness of the figure's outline, and is less sure. Check
            it against a shoulder or an arm.
          </Say>
        )}
        {direction?.second && (
          <Say>
            One light does not explain it: a second one, {Math.round(direction.second.strength * 100)} % as
            strong, comes from the {direction.second.words}. It may be a lamp or a bright wall.
          </Say>
        )}
        {direction && !direction.second && !direction.by_hand && direction.from_face && (
          <Say quiet>No second light or strong bounce shows.</Say>
        )}
        <Say quiet>
          Drag the light, or move it with the arrow keys. Past the rim of the ball it stands behind the
          sitter.
        </Say>
        {own && (
          <Button
            color="inherit"
            variant="outlined"
            fullWidth
            onClick={() => change({ key: null }, "Light as found")}
          >
            As found in the photograph
          </Button>
        )}
      </Section>
      <Section title="Download">
        <Downloads
          files={[
            { label: "Light sheet, PDF", href: file("light.pdf") },
            { label: "Drawing of the light, SVG", href: file("light.svg") },
          ]}
        />
      </Section>
    </>
  );
}
