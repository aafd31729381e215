import { Box, ButtonBase } from "@mui/material";
import { useState } from "react";
import { base, pictureUrl, type Schemas } from "../../api/client";
import { useComputed } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import { Downloads, useFileUrl } from "../../sheet/Download";
import { Handle, Say, Section } from "../../sheet/parts";
import { useTubes } from "../../sheet/useTubes";
import { useWall } from "../../sitter/wall";
import { MixtureLine } from "../flesh/MixtureLine";
import type { JobProps } from "../job";
import { textSize } from "../../theme";

const counts = [2, 3, 4, 5];

/** Postcard sketches in few values, to choose a design before starting. */
export function SketchesJob({ sitter }: JobProps) {
  const { change } = useChange(sitter, "values");
  const file = useFileUrl(sitter);
  const now = sitter.settings.values.groups;
  return (
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
      <InColours sitter={sitter} />
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
}

/** The same in a few flat colours, designed in several ways, and what each is mixed from. */
function InColours({ sitter }: Pick<JobProps, "sitter">) {
  const [count, setCount] = useState(5);
  const [chosen, setChosen] = useState<number | null>(null);
  const tubes = useTubes(sitter);
  const found = useComputed<Schemas["ColourSketchOut"][]>(sitter, "sketches", `count=${count}`);
  const one = chosen === null ? undefined : found.data?.[chosen];
  const picture = (design: string) =>
    `${base(sitter.id)}/sketches/picture?${new URLSearchParams({
      design,
      count: String(count),
      v: sitter.keys.sketches ?? "",
    }).toString()}`;
  useWall({ busy: found.isFetching, picture: one ? picture(one.design) : null });
  return (
    <Section title="In few colours">
      <Handle label="Colours" value={count} least={3} most={8} step={1} onChange={setCount} />
      {found.isPending && <Say quiet>Laying out the colours …</Say>}
      {found.isError && <Say>{found.error.message}</Say>}
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1.5, mb: 1.5 }}>
        {found.data?.map((sketch, n) => (
          <ButtonBase
            key={sketch.design}
            aria-pressed={chosen === n}
            onClick={() => setChosen(chosen === n ? null : n)}
            sx={{ display: "block", textAlign: "left" }}
          >
            <Box
              component="img"
              src={picture(sketch.design)}
              alt={`The picture in ${count} colours, ${sketch.design}`}
              sx={{
                width: "100%",
                display: "block",
                border: 2,
                borderColor: chosen === n ? "text.primary" : "transparent",
              }}
            />
            <Box sx={{ fontSize: textSize.body, fontWeight: chosen === n ? 700 : 400 }}>{sketch.design}</Box>
          </ButtonBase>
        ))}
      </Box>
      {one?.colours.map((c, n) => (
        <MixtureLine key={n} mixture={c} tubes={tubes} title={`${Math.round((c.share ?? 0) * 100)} %`} />
      ))}
    </Section>
  );
}
