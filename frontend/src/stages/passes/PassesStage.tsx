import { Box, Button, ButtonBase, Checkbox, Slider, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useState } from "react";
import { base, type Schemas } from "../../api/client";
import { useChange, usePasses } from "../../api/hooks";
import { Say, Section } from "../../sheet/parts";
import { Recipe, type Tubes } from "../../sheet/Recipe";
import { useTubes } from "../../sheet/useTubes";
import { useStored } from "../../sitter/stored";
import { Workspace, type StageProps } from "../../sitter/Workspace";

/** The ordered passes, the canvas after each, and the sheet to print. */
export function PassesStage({ sitter, look, onLook }: StageProps) {
  const plan = usePasses(sitter);
  const { change } = useChange(sitter, "passes");
  const passes = plan.data?.passes ?? [];
  const [chosen, setChosen] = useStored(`pass-${sitter.id}`, 1);
  const number = Math.min(Math.max(1, chosen), Math.max(1, passes.length));
  const current = passes[number - 1];
  const done = new Set(sitter.settings.passes.done ?? []);
  const tubes = useTubes(sitter);
  const [canvas, setCanvas] = useState(true);
  const toggle = (key: string) => {
    const next = done.has(key) ? [...done].filter((k) => k !== key) : [...done, key];
    change({ done: next }, done.has(key) ? "Untick a pass" : "Tick a pass");
  };

  const sheet = (
    <>
      <ToggleButtonGroup exclusive fullWidth value={canvas} aria-label="Picture" onChange={(_, v: boolean | null) => v !== null && setCanvas(v)} sx={{ mb: 2 }}>
        <ToggleButton value={true}>Canvas</ToggleButton>
        <ToggleButton value={false}>Reference</ToggleButton>
      </ToggleButtonGroup>
      <Section title={plan.data?.school ?? "Passes"}>
        {plan.isPending && <Say quiet>Planning the passes and painting the canvas after each …</Say>}
        {plan.isError && <Say>{plan.error.message}</Say>}
        {current && (
          <>
            <Box sx={{ display: "flex", alignItems: "center", gap: 1 }}>
              <Button color="inherit" variant="outlined" disabled={number <= 1} onClick={() => setChosen(number - 1)} aria-label="Pass before">Before</Button>
              <Slider aria-label="Canvas after pass" min={1} max={passes.length} step={1} value={number} onChange={(_, v) => setChosen(v as number)} sx={{ mx: 1 }} />
              <Button color="inherit" variant="outlined" disabled={number >= passes.length} onClick={() => setChosen(number + 1)} aria-label="Next pass">Next</Button>
            </Box>
            <Details pass={current} number={number} tubes={tubes} />
          </>
        )}
      </Section>
      <Section title={`All ${passes.length || ""} passes`}>
        <Box component="ol" sx={{ listStyle: "none", p: 0, m: 0 }}>
          {passes.map((p, i) => (
            <Box component="li" key={p.key} aria-current={i + 1 === number ? "step" : undefined} sx={{ display: "flex", alignItems: "center", borderBottom: 1, borderColor: "divider", fontWeight: i + 1 === number ? 700 : 400 }}>
              <Checkbox color="default" checked={done.has(p.key)} onChange={() => toggle(p.key)} slotProps={{ input: { "aria-label": `${p.name} is done` } }} />
              <ButtonBase onClick={() => setChosen(i + 1)} sx={{ flex: 1, justifyContent: "flex-start", minHeight: 44, fontSize: 15, fontWeight: "inherit", gap: 1, textAlign: "left" }}>
                <Box aria-hidden sx={{ width: 26, height: 20, bgcolor: p.predicted_hex, flex: "none" }} />
                <span style={{ flex: 1 }}>{i + 1} {p.name}</span>
                <span>{p.value.toFixed(1)}</span>
              </ButtonBase>
            </Box>
          ))}
        </Box>
        {plan.data?.remarks.map((r) => <Say quiet key={r}>{r}</Say>)}
      </Section>
      <Section title="Print">
        <Box sx={{ display: "flex", gap: 1, mb: 1 }}>
          <Button color="inherit" variant="outlined" fullWidth href={`${base(sitter.id)}/files/plan.pdf?paper=A4`}>PDF, A4</Button>
          <Button color="inherit" variant="outlined" fullWidth href={`${base(sitter.id)}/files/plan.pdf?paper=Letter`}>PDF, Letter</Button>
        </Box>
        <Button color="inherit" variant="outlined" fullWidth href={`${base(sitter.id)}/files/plan.json`}>Plan as data, JSON</Button>
      </Section>
      <Section title="Cautions">{plan.data?.cautions.map((c) => <Say quiet key={c}>{c}</Say>)}</Section>
    </>
  );
  return (
    <Workspace sitter={sitter} look={canvas ? { ...look, picture: "canvas" } : look} onLook={(next) => { if (next.picture !== "canvas" && next.picture !== look.picture) setCanvas(false); onLook(next.picture === "canvas" ? { ...next, picture: look.picture } : next); }} sheet={sheet} busy={plan.isFetching}
      picture={canvas && current ? `${base(sitter.id)}/passes/canvas/${number}?v=${sitter.keys["passes"] ?? ""}` : undefined} />
  );
}

function Details({ pass, number, tubes }: { pass: Schemas["PlanPass"]; number: number; tubes: Tubes }) {
  return (
    <Box sx={{ mt: 1 }}>
      <Box sx={{ display: "flex", gap: 1.5, mb: 1 }}>
        <Box role="img" aria-label={`Mixture ${pass.predicted_hex}`} sx={{ width: 92, height: 64, bgcolor: pass.predicted_hex, flex: "none" }} />
        <Box sx={{ flex: 1 }}>
          <Box sx={{ fontSize: 17, fontWeight: 700 }}>{number} {pass.name}</Box>
          <Say>on {pass.places.join(", ") || "the canvas"}, value <strong>{pass.value.toFixed(1)}</strong></Say>
        </Box>
      </Box>
      <Recipe parts={pass.parts} tubes={tubes} heap={pass.heap ?? null} />
      <Say>{pass.tool}, up to <strong>{pass.brush_mm} mm</strong>; film {film(pass.film_mm)}; edge {pass.edge}.</Say>
      <Say>{pass.area_cm2.toFixed(0)} cm² take <strong>{pass.ml.toFixed(pass.ml < 1 ? 2 : 1)} ml</strong> with what stays in the brush. {pass.note}</Say>
      <Say>{pass.wait_minutes >= 1 ? <>Then wait <strong>{time(pass.wait_minutes)}</strong>. </> : "No need to wait before the next. "}{pass.start_minutes < 1 ? "The work begins here." : `This pass can start ${time(pass.start_minutes)} after the beginning.`}</Say>
      <Say quiet>After this pass the canvas is {pass.value_error.toFixed(2)} value steps from the reference on average.</Say>
    </Box>
  );
}

const film = (mm: number) => (mm < 0.01 ? `${(mm * 1000).toPrecision(2)} µm` : `${mm} mm`);
const time = (minutes: number) =>
  minutes >= 2880 ? `${Math.round(minutes / 1440)} days` : minutes >= 90 ? `${Math.round(minutes / 60)} hours` : `${Math.round(minutes)} minutes`;
