import { StripPicture } from "./StripPicture";
import { Box, Checkbox, useTheme } from "@mui/material";
import type { Schemas, Sitter } from "../../api/client";
import { useDone } from "../../api/hooks";
import { Downloads, useFileUrl } from "../../sheet/Download";
import { useChosenPass } from "../../sheet/PassSelect";
import { Say, Section } from "../../sheet/parts";
import { Mix } from "../../sheet/Mix";
import type { Tubes } from "../../sheet/Recipe";
import { useTubes } from "../../sheet/useTubes";
import { Value } from "../../sheet/Value";
import { useWall } from "../../sitter/wall";
import { serif, studio, textSize } from "../../theme";
import type { JobProps } from "../job";
import { WashLaid } from "./WashLaid";

/** All passes across the wall, with swatches large enough to judge, to be ticked one by one. */
export function BookJob({ sitter }: JobProps) {
  const { plan, passes } = useChosenPass(sitter);
  const { done, toggle } = useDone(sitter);
  const tubes = useTubes(sitter);
  const file = useFileUrl(sitter);
  const school = plan.data?.key ?? "";
  const tickOf = (key: string) => done.find((d) => d.key === key && d.school === school)?.id;
  const left = passes.filter((p) => tickOf(p.key) === undefined);
  useWall({
    busy: plan.isFetching,
    instead: (
      <Book
        sitter={sitter}
        passes={passes}
        tubes={tubes}
        words={plan.isError ? plan.error.message : plan.isPending ? "Planning the passes …" : null}
        ticked={(key) => tickOf(key) !== undefined}
        onTick={(key) => toggle({ school, key, tick: tickOf(key) })}
      />
    ),
  });
  return (
    <>
      <Section title={plan.data?.school ?? "Book"}>
        {passes.length > 0 && (
          <Say>
            {passes.length - left.length} of {passes.length} passes are done.
            {left[0] && ` Next: ${left[0].name}.`}
          </Say>
        )}
        {plan.data?.remarks.map((r) => (
          <Say quiet key={r}>
            {r}
          </Say>
        ))}
      </Section>
      <Section title="Print">
        <Say quiet>A page a pass, in letters that can be read from the easel.</Say>
        <Downloads
          files={["A4", "Letter"].map((paper) => ({
            label: `Book, ${paper}`,
            href: file("book.pdf", { paper }),
          }))}
        />
      </Section>
    </>
  );
}

interface BookProps {
  sitter: Sitter;
  passes: Schemas["PlanPass"][];
  tubes: Tubes;
  words: string | null;
  ticked: (key: string) => boolean;
  onTick: (key: string) => void;
}

function Book({ sitter, passes, tubes, words, ticked, onTick }: BookProps) {
  const dim = useTheme().palette.mode === "dark";
  const tone = dim ? studio.dim : studio.day;
  return (
    <Box
      tabIndex={0}
      role="region"
      aria-label="Book of passes"
      sx={{ flex: 1, minHeight: 0, overflow: "auto", bgcolor: tone.wall, p: 2 }}
    >
      {words && <Box sx={{ bgcolor: tone.paper, color: tone.ink, p: 2 }}>{words}</Box>}
      {passes.map((p, i) => (
        <Box
          key={p.key}
          component="section"
          aria-label={`Pass ${i + 1}, ${p.name}`}
          sx={{
            display: "grid",
            gridTemplateColumns: "150px 130px minmax(0,1fr)",
            gap: 2,
            bgcolor: tone.paper,
            color: tone.ink,
            p: 1.5,
            mb: 1.5,
          }}
        >
          <StripPicture
            sitter={sitter}
            number={i + 1}
            of={passes.length}
            width="100%"
            name={`Canvas after pass ${i + 1}`}
          />
          <Box role="img" aria-label={`Mixture ${p.predicted_hex}`} sx={{ bgcolor: p.predicted_hex }} />
          <Box>
            <Box sx={{ display: "flex", alignItems: "center" }}>
              <Box
                component="h2"
                sx={{ fontFamily: serif, fontSize: textSize.head, fontWeight: 400, m: 0, flex: 1 }}
              >
                {i + 1} {p.name}
              </Box>
              <Checkbox
                color="default"
                checked={ticked(p.key)}
                onChange={() => onTick(p.key)}
                slotProps={{ input: { "aria-label": `${p.name} is done` } }}
              />
            </Box>
            <Mix pass={p} tubes={tubes} />
            <Box sx={{ fontSize: textSize.body }}>
              Value <Value of={p.value} />
              {p.coats > 1 && `, ${p.coats} coats`}
              {p.dilution && `, ${p.dilution.words}`}; {p.tool}; edge {p.edge.words}. {p.note}
            </Box>
            {p.way && <WashLaid pass={p} />}
            {p.inspect && <Box sx={{ fontSize: textSize.body, fontWeight: 700 }}>{p.inspect}</Box>}
          </Box>
        </Box>
      ))}
    </Box>
  );
}
