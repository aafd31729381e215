import { Box, TextField, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useState } from "react";
import { base, type Schemas, type Sitter } from "../../api/client";
import { useComputed } from "../../api/hooks";
import { SpotMark } from "../../picture/Overlays";
import type { Spot } from "../../picture/spots";
import { PassSelect, useChosenPass } from "../../sheet/PassSelect";
import { Handle, Say, Section } from "../../sheet/parts";
import { Pair, Recipe } from "../../sheet/Recipe";
import { useCounted } from "../../sheet/Value";
import { useTubes } from "../../sheet/useTubes";
import { useLeft } from "../../sitter/stored";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { CoatsSection } from "./CoatsSection";
import { textSize } from "../../theme";

type Under = "grey" | "canvas" | "paper" | "coats";

/** Thin layers: glazes over grey, washes over paper, or the whole picture in coats of two mixtures. */
export function GlazeJob({ sitter }: JobProps) {
  const washes = sitter.settings.flesh.transparent;
  const [under, setUnder] = useState<Under>(washes ? "paper" : "grey");
  return (
    <>
      <ToggleButtonGroup
        exclusive
        fullWidth
        value={under}
        aria-label="What lies below"
        onChange={(_, v: Under | null) => v && setUnder(v)}
        sx={{ mb: 1.5 }}
      >
        <ToggleButton value="grey">grey</ToggleButton>
        <ToggleButton value="canvas">canvas</ToggleButton>
        <ToggleButton value="paper">paper</ToggleButton>
        <ToggleButton value="coats">in coats</ToggleButton>
      </ToggleButtonGroup>
      {under === "coats" ? <CoatsSection sitter={sitter} /> : <SpotGlazes sitter={sitter} under={under} />}
    </>
  );
}

const TITLES = { grey: "Glaze over grey", canvas: "Glaze over the canvas", paper: "Wash over paper" };
const WORDS = {
  grey: "Choose the value of the dry grey underpainting, then press on the picture where it lies.",
  canvas: "Choose after which pass of the plan it is laid, then press where.",
  paper: "Press on the picture: which washes, thinned with water, give its colour over white paper.",
};
const BELOW = { grey: "a grey", canvas: "a canvas", paper: "paper" };

/** Which thin film over what is there gives the colour of a spot, and what each coat does. */
function SpotGlazes({ sitter, under }: { sitter: Sitter; under: Exclude<Under, "coats"> }) {
  const tubes = useTubes(sitter);
  const value = useCounted();
  const [spot, setSpot] = useLeft<Spot | null>(`glaze-${sitter.id}`, null);
  const [ground, setGround] = useLeft(`glaze-ground-${sitter.id}`, 8);
  const { plan, passes, number: after, choose } = useChosenPass(sitter, under === "canvas");
  const [measured, setMeasured] = useLeft(`glaze-over-${sitter.id}`, "");
  const lab = /^\s*(-?\d+(?:\.\d+)?)[\s,;]+(-?\d+(?:\.\d+)?)[\s,;]+(-?\d+(?:\.\d+)?)\s*$/.exec(measured);
  const over = lab ? `&over=${lab.slice(1).join(",")}` : null;
  const extra = { grey: over ?? `&ground=${ground}`, canvas: `&after=${after}`, paper: "" }[under];
  const query = spot ? `x=${spot[0].toFixed(4)}&y=${spot[1].toFixed(4)}${extra}` : "";
  const ready = spot !== null && (under !== "canvas" || passes.length > 0);
  const found = useComputed<Schemas["GlazesOut"]>(sitter, "flesh/glazes", query, ready);
  const sheet = (
    <>
      <Section title={TITLES[under]}>
        <Say quiet>{WORDS[under]}</Say>
        {under === "canvas" && plan.isPending && <Say quiet>Planning the passes …</Say>}
        {under === "canvas" && plan.data && passes.length === 0 && <Say>{plan.data.remarks[0]}</Say>}
        {under === "canvas" && passes.length > 0 && (
          <PassSelect passes={passes} number={after} choose={choose} />
        )}
        {under === "grey" && (
          <Handle
            label="Underpainting, value"
            value={ground}
            least={1}
            most={9.5}
            step={0.1}
            shown={(v) => value(v)}
            onChange={setGround}
          />
        )}
        {under === "grey" && (
          <TextField
            fullWidth
            size="small"
            label="Or a colour measured there, L* a* b*"
            value={measured}
            error={measured.trim() !== "" && !lab}
            helperText={measured.trim() !== "" && !lab ? "three numbers, as 62 10 20" : undefined}
            onChange={(e) => setMeasured(e.target.value)}
            sx={{ mb: 1.5 }}
          />
        )}
        {found.isError && <Say>{found.error.message}</Say>}
        {found.data && (
          <Say>
            {found.data.place}: from {BELOW[under]} of {value(found.data.ground_value)} to{" "}
            {value(found.data.target_value)}.
            {found.data.target_value > found.data.ground_value
              ? ` A glaze only darkens: begin with a lighter ${under === "canvas" ? "layer" : "grey"}.`
              : ""}
          </Say>
        )}
        {found.data && !found.data.glazes.some((g) => g.near) && (
          <Say>
            <strong>No glaze from these tubes comes near.</strong> Begin with another grey, or set out a clear
            warm colour.
          </Say>
        )}
      </Section>
      {found.data?.glazes.map((g, i) => (
        <Box
          key={Object.keys(g.parts).join()}
          data-testid="glaze"
          sx={{ display: "flex", gap: 1.2, py: 1, borderTop: 1, borderColor: "divider" }}
        >
          <Pair
            left={found.data.target_hex}
            right={g.after_hex}
            label={`Target ${found.data.target_hex}, with the glaze ${g.after_hex}`}
          />
          <Box sx={{ flex: 1, minWidth: 0 }}>
            <Box sx={{ display: "flex", justifyContent: "space-between", mb: 0.4 }}>
              <strong>{i ? `or, ${i + 1}` : "best"}</strong>
              <span>{value(g.after_value)}</span>
            </Box>
            <Recipe parts={g.parts} tubes={tubes} thinned={g.dilution.words} />
            <Box sx={{ fontSize: textSize.fine, color: "text.secondary" }}>
              off by {g.delta.toFixed(1)} in colour, value counting more
            </Box>
            {g.coats.length > 0 && (
              <>
                <Box
                  sx={{ display: "flex", height: 26, mt: 0.6 }}
                  role="img"
                  aria-label={`${g.coats.length} thin coats`}
                >
                  <Box sx={{ flex: 1, bgcolor: found.data.ground_hex }} />
                  {g.coats.map((c, j) => (
                    <Box key={j} sx={{ flex: 1, bgcolor: c.hex }} />
                  ))}
                </Box>
                <Box sx={{ fontSize: textSize.fine }}>
                  {g.coats.length === 1 ? "one coat" : `${g.coats.length} coats`} of {g.coat.words}:{" "}
                  {g.coats.map((c) => value(c.value)).join(", ")}
                </Box>
              </>
            )}
          </Box>
        </Box>
      ))}
      <Say quiet>
        {under !== "paper"
          ? "Only over paint that is dry. Fat over lean: more oil in the glaze than in what lies below."
          : "Each wash over one that is dry. More water for a thinner film; no white tube is needed."}
      </Say>
    </>
  );
  useWall({
    tool: "pick",
    onPick: setSpot,
    picture:
      under === "canvas" && passes.length > 0
        ? `${base(sitter.id)}/passes/canvas/${after}?v=${sitter.keys["passes"] ?? ""}`
        : undefined,
    busy: found.isFetching || plan.isFetching,
    overlay: (px, size) => spot && <SpotMark spot={spot} size={size} px={px} />,
  });
  return sheet;
}
