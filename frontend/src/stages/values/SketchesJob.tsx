import { Box, ButtonBase } from "@mui/material";
import { pictureUrl } from "../../api/client";
import { useChange } from "../../api/useChange";
import { Downloads, useFileUrl } from "../../sheet/Download";
import { Say, Section } from "../../sheet/parts";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { textSize } from "../../theme";

const counts = [2, 3, 4, 5];

/** Postcard sketches in few values, to choose a design before starting. */
export function SketchesJob({ sitter }: JobProps) {
  const { change } = useChange(sitter, "values");
  const file = useFileUrl(sitter);
  const now = sitter.settings.values.groups;
  const sheet = (
    <>
      <Section title="Which design?">
        <Say quiet>Stand back and squint. Choose the one that holds together with the fewest values.</Say>
        <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1.5 }}>
          {counts.map((n) => (
            <ButtonBase
              key={n}
              aria-pressed={now === n}
              onClick={() =>
                change(
                  { groups: n, mode: "fit", cuts: [], locked: [], joins: [] },
                  n === 2 ? "Notan" : `${n} groups`,
                )
              }
              sx={{ display: "block", textAlign: "left" }}
            >
              <Box
                component="img"
                src={pictureUrl(sitter, `thumbnail-${n}`)}
                alt={`The picture in ${n} values`}
                sx={{
                  width: "100%",
                  display: "block",
                  border: 2,
                  borderColor: now === n ? "text.primary" : "transparent",
                }}
              />
              <Box sx={{ fontSize: textSize.body, fontWeight: now === n ? 700 : 400 }}>
                {n} values{n === 2 ? " (notan)" : ""}
              </Box>
            </ButtonBase>
          ))}
        </Box>
      </Section>
      <Section title="Download">
        <Downloads
          files={["A4", "Letter"].map((paper) => ({
            label: `Sketches, ${paper}`,
            href: file("thumbnails.pdf", { paper }),
          }))}
        />
      </Section>
    </>
  );
  useWall({});
  return sheet;
}
