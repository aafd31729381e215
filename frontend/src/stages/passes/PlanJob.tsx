import { Box, ButtonBase, Checkbox, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useState } from "react";
import { base } from "../../api/client";
import { useDone } from "../../api/hooks";
import { Downloads, useFileUrl } from "../../sheet/Download";
import { useChosenPass } from "../../sheet/PassSelect";
import { Say, Section, Toggle } from "../../sheet/parts";
import { Palette } from "../../sheet/Mix";
import { Scrubber } from "../../sheet/Scrubber";
import { useTubes } from "../../sheet/useTubes";
import { Value } from "../../sheet/Value";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { PassDetails } from "./PassDetails";
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
  const drops = marked && (current?.charge.length ?? 0) > 0;
  useWall({
    busy: plan.isFetching,
    picture:
      canvas && current
        ? left === current.key
          ? `${base(sitter.id)}/passes/without/${number}?v=${sitter.keys["passes"] ?? ""}`
          : `${base(sitter.id)}/passes/${drops ? "charged" : "canvas"}/${number}?v=${sitter.keys["passes"] ?? ""}`
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
            <PassDetails pass={current} number={number} tubes={tubes} />
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
