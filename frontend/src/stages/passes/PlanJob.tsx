import { Box, ButtonBase, Checkbox, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useState } from "react";
import { base, type Schemas } from "../../api/client";
import { useDone } from "../../api/hooks";
import { Downloads, useFileUrl } from "../../sheet/Download";
import { useChosenPass } from "../../sheet/PassSelect";
import { Say, Section, Toggle } from "../../sheet/parts";
import { Mix, Palette } from "../../sheet/Mix";
import type { Tubes } from "../../sheet/Recipe";
import { Scrubber } from "../../sheet/Scrubber";
import { spoken } from "../../sheet/spoken";
import { useTubes } from "../../sheet/useTubes";
import { Value } from "../../sheet/Value";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { PassStrip } from "./PassStrip";
import { SchoolSection } from "./SchoolSection";
import { textSize } from "../../theme";

/** The ordered passes, the canvas after each, and the sheet to print. */
export function PlanJob({ sitter, look }: JobProps) {
  const { plan, passes, number, choose: setChosen } = useChosenPass(sitter);
  const { done, toggle } = useDone(sitter);
  const file = useFileUrl(sitter);
  const tubes = useTubes(sitter);
  const current = passes[number - 1];
  const [canvas, setCanvas] = useState(true);
  const [left, setLeft] = useState<string | null>(null);
  const [marked, setMarked] = useState(false);
  const tickOf = (key: string) => done.find((d) => d.key === key && d.school === plan.data?.key)?.id;
  useWall({
    busy: plan.isFetching,
    picture:
      canvas && current
        ? left === current.key
          ? `${base(sitter.id)}/passes/without/${number}?v=${sitter.keys["passes"] ?? ""}`
          : `${base(sitter.id)}/passes/${marked && current.charge.length > 0 ? "charged" : "canvas"}/${number}?v=${sitter.keys["passes"] ?? ""}`
        : undefined,
    below: current && <PassStrip sitter={sitter} passes={passes} number={number} choose={setChosen} />,
    onTray: (next) => {
      // A picture chosen in the tray takes the canvas off the wall.
      if (next.picture !== look.picture) setCanvas(false);
      return next;
    },
  });
  return (
    <>
      <ToggleButtonGroup
        exclusive
        fullWidth
        value={canvas}
        aria-label="Picture"
        onChange={(_, v: boolean | null) => v !== null && setCanvas(v)}
        sx={{ mb: 2 }}
      >
        <ToggleButton value={true}>Canvas</ToggleButton>
        <ToggleButton value={false}>Reference</ToggleButton>
      </ToggleButtonGroup>
      <SchoolSection sitter={sitter} />
      <Section title={plan.data?.school ?? "Passes"}>
        {plan.isPending && <Say quiet>Planning the passes and painting the canvas after each …</Say>}
        {plan.isError && <Say>{plan.error.message}</Say>}
        {plan.data?.about && <Say quiet>{plan.data.about}</Say>}
        {plan.data?.time && (
          <Say>
            <strong>{Math.round(plan.data.time.likely_hours)} hours</strong>, between{" "}
            {Math.round(plan.data.time.least_hours)} and {Math.round(plan.data.time.most_hours)};{" "}
            {plan.data.time.sittings.length} sittings.
            {plan.data.time.paced > 0 && (
              <>
                {" "}
                At your own pace, as the log has it; by usual times it would be{" "}
                {Math.round(plan.data.time.usual_hours)} hours.
              </>
            )}
          </Say>
        )}
        <Palette heaps={plan.data?.heaps ?? []} />
        {current && (
          <>
            <Scrubber
              before="Pass before"
              next="Next pass"
              label="Canvas after pass"
              number={number}
              count={passes.length}
              onChange={setChosen}
            />
            <Toggle
              label="The end without this pass"
              on={left === current.key}
              onChange={(on) => setLeft(on ? current.key : null)}
            />
            {current.charge.length > 0 && (
              <Toggle label="Mark where it is dropped in" on={marked} onChange={setMarked} />
            )}
            <Details pass={current} number={number} tubes={tubes} />
          </>
        )}
      </Section>
      <Section title={`All ${passes.length || ""} passes`}>
        <Box component="ol" sx={{ listStyle: "none", p: 0, m: 0 }}>
          {passes.map((p, i) => {
            const tick = tickOf(p.key);
            const bold = i + 1 === number ? 700 : 400;
            return (
              <Box
                component="li"
                key={p.key}
                aria-current={i + 1 === number ? "step" : undefined}
                sx={{
                  display: "flex",
                  alignItems: "center",
                  borderBottom: 1,
                  borderColor: "divider",
                  fontWeight: bold,
                }}
              >
                <Checkbox
                  color="default"
                  checked={tick !== undefined}
                  onChange={() => toggle({ school: plan.data?.key ?? "", key: p.key, tick })}
                  slotProps={{ input: { "aria-label": `${p.name} is done` } }}
                />
                <ButtonBase
                  onClick={() => setChosen(i + 1)}
                  sx={{
                    flex: 1,
                    justifyContent: "flex-start",
                    minHeight: 44,
                    fontSize: textSize.body,
                    fontWeight: "inherit",
                    gap: 1,
                    textAlign: "left",
                  }}
                >
                  <Box aria-hidden sx={{ width: 26, height: 20, bgcolor: p.predicted_hex, flex: "none" }} />
                  <span style={{ flex: 1 }}>
                    {i + 1} {p.name}
                  </span>
                  <span>
                    <Value of={p.value} />
                  </span>
                </ButtonBase>
              </Box>
            );
          })}
        </Box>
        {plan.data?.remarks.map((r) => (
          <Say quiet key={r}>
            {r}
          </Say>
        ))}
      </Section>
      <Section title="Download">
        <Downloads
          files={["A4", "Letter"].map((paper) => ({
            label: `PDF, ${paper}`,
            href: file("plan.pdf", { paper }),
          }))}
        />
        <Downloads
          files={[
            { label: "Lines, SVG", href: file("lines.svg") },
            { label: "Lines to practise, PDF", href: file("practice.pdf") },
            { label: "Plan as data, JSON", href: file("plan.json") },
          ]}
        />
        <Downloads
          files={[
            { label: "Layers, OpenRaster", href: file("passes.ora") },
            { label: "Pictures, ZIP", href: file("passes.zip") },
          ]}
        />
      </Section>
      <Section title="Cautions">
        {plan.data?.cautions.map((c) => (
          <Say quiet key={c}>
            {c}
          </Say>
        ))}
      </Section>
    </>
  );
}

const ways = {
  flat: "Laid flat, in one strength.",
  graded: "One puddle in several strengths: it is laid weakest, and stronger paint goes in while it shines.",
  charged: "Other mixtures go in while it shines, and merge by themselves.",
  "pulled out": "Begun at its dark end, at full strength, and drawn out from there with a clean, damp brush.",
  linked: "One wash over several places of one value; nothing stops at their borders.",
} as const satisfies Record<NonNullable<Schemas["PlanPass"]["way"]>, string>;

/** How a wash is laid, what is dropped into it, and what is kept out of it. */
function Laid({ pass }: { pass: Schemas["PlanPass"] }) {
  return (
    <>
      <Say>
        {pass.paper_words} {pass.way && ways[pass.way]} {pass.grain_words}
      </Say>
      {pass.charge.length > 0 && (
        <Box
          component="ol"
          type="a"
          aria-label="Dropped in"
          sx={{ m: 0, mb: 1, pl: 2.6, fontSize: textSize.small }}
        >
          {pass.charge.map((c, i) => (
            <li key={i}>
              <Box
                component="span"
                role="img"
                aria-label={`Colour there ${c.predicted_hex}`}
                sx={{ display: "inline-block", width: 26, height: 14, mr: 1, bgcolor: c.predicted_hex }}
              />
              {c.words}; {c.place}, value <Value of={c.value} />
            </li>
          ))}
        </Box>
      )}
      {pass.reserve.length > 0 && (
        <Say>
          <strong>Kept out of it: </strong>
          {pass.reserve.map((r) => `${r.place}, ${means[r.means]}`).join("; ")}.
        </Say>
      )}
    </>
  );
}

const means = {
  paper: "painted round",
  mask: "masked beforehand",
  lift: "lifted while it is damp",
  opaque: "touched in at the end",
} as const satisfies Record<Schemas["PlanReserve"]["means"], string>;

function Details({ pass, number, tubes }: { pass: Schemas["PlanPass"]; number: number; tubes: Tubes }) {
  return (
    <Box sx={{ mt: 1 }}>
      <Box sx={{ display: "flex", gap: 1.5, mb: 1 }}>
        <Box
          role="img"
          aria-label={`Mixture ${pass.predicted_hex}`}
          sx={{ width: 92, height: 64, bgcolor: pass.predicted_hex, flex: "none" }}
        />
        <Box sx={{ flex: 1 }}>
          <Box sx={{ fontSize: textSize.lead, fontWeight: 700 }}>
            {number} {pass.name}
          </Box>
          <Say>
            on {pass.places.join(", ") || "the canvas"}, value{" "}
            <strong>
              <Value of={pass.value} />
            </strong>
            {pass.wet_value !== null && Math.abs(pass.wet_value - pass.value) >= 0.1 && (
              <>
                , wet <Value of={pass.wet_value} />
              </>
            )}
          </Say>
        </Box>
      </Box>
      <Mix pass={pass} tubes={tubes} />
      {pass.way && <Laid pass={pass} />}
      {pass.taken.map((t) => (
        <Say key={t.group}>
          <strong>{t.name}: </strong>
          {t.words}
        </Say>
      ))}
      {pass.lines > 0 && (
        <Say>
          <strong>
            {pass.lines} {pass.lines > 1 ? "lines" : "line"}
          </strong>{" "}
          that swell and taper; a sheet to practise them is below.
        </Say>
      )}
      <Say>
        {pass.tool}
        {pass.thinned.length || pass.taken.length ? "" : `; film ${pass.film_mm.toPrecision(2)} mm`}; edge{" "}
        {pass.edge.words}.
      </Say>
      {pass.coats > 1 && (
        <Say>
          <strong>{pass.coats} coats</strong>, one after the other.
        </Say>
      )}
      {pass.thinned.map((t) => (
        <Say key={t.name ?? ""}>
          {t.name && <strong>{t.name}: </strong>}
          {t.dilution.words}
        </Say>
      ))}
      <Say>
        {pass.taken.length ? (
          <>{pass.area_cm2.toFixed(0)} cm². </>
        ) : (
          <>
            {pass.area_cm2.toFixed(pass.area_cm2 < 10 ? 1 : 0)} cm² take{" "}
            <strong>{pass.ml < 0.01 ? "less than 0.01" : pass.ml.toFixed(pass.ml < 1 ? 2 : 1)} ml</strong>{" "}
            with what stays in the brush.{" "}
          </>
        )}
        {pass.note}
      </Say>
      {pass.seams.length > 0 && (
        <Box component="ul" aria-label="Borders" sx={{ m: 0, mb: 1, pl: 2.2, fontSize: textSize.small }}>
          {pass.seams.map((s) => (
            <li key={s.towards}>{s.words}</li>
          ))}
        </Box>
      )}
      <Say>
        Edges can be moved for {spoken(pass.open_minutes)} at most.
        {pass.goes.length > 0 && " Lay whole shapes in these goes, and soften each before the next:"}
      </Say>
      {pass.goes.length > 0 && (
        <Box component="ol" aria-label="Goes" sx={{ m: 0, mb: 1, pl: 2.6, fontSize: textSize.small }}>
          {pass.goes.map((g, i) => (
            <li key={i}>
              {g.place}, {g.area_cm2.toFixed(g.area_cm2 < 10 ? 1 : 0)} cm²: soften within{" "}
              {spoken(pass.open_minutes)}
              {g.in_time ? "" : "; one shape too large for that: keep its wet edge going as you work across"}
            </li>
          ))}
        </Box>
      )}
      {pass.inspect && (
        <Say>
          <strong>Before going on: </strong>
          {pass.inspect}
        </Say>
      )}
      <Say>
        <strong>What it is for: </strong>
        {pass.purpose}
      </Say>
      {pass.into_wet && <Say>It goes into the wet paint below: do not wait.</Say>}
      <Say>
        {pass.wait_minutes >= 1 ? (
          <>
            Then wait <strong>{spoken(pass.wait_minutes)}</strong>.{" "}
          </>
        ) : (
          "No need to wait before the next. "
        )}
        {pass.start_minutes < 1
          ? "The work begins here."
          : `This pass can start ${spoken(pass.start_minutes)} after the beginning.`}
      </Say>
      <Say quiet>
        About {spoken(pass.minutes)} of work, {Math.round(pass.share_of_time * 100)} % of it all
        {pass.pace && `; it ${pass.pace}`}
        {pass.paint_pace && `; it ${pass.paint_pace}`}. After this pass the canvas is{" "}
        {pass.value_error.toFixed(2)} value steps from the reference on average.
      </Say>
    </Box>
  );
}
