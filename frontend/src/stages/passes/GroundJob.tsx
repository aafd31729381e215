import { Box, Button } from "@mui/material";
import { useState } from "react";
import { base } from "../../api/client";
import { useGrounds } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import { Say, Section } from "../../sheet/parts";
import { Recipe } from "../../sheet/Recipe";
import { Row } from "../../sheet/Row";
import { spoken } from "../../sheet/spoken";
import { useTubes } from "../../sheet/useTubes";
import { Value } from "../../sheet/Value";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";

/** Which ground to lay: what of it may stay in the finished picture, and what that saves. */
export function GroundJob({ sitter }: JobProps) {
  const settings = sitter.settings.passes;
  const grounds = useGrounds(sitter);
  const tubes = useTubes(sitter);
  const { change, isPending } = useChange(sitter, "passes");
  const [looked, setLooked] = useState<string | null>(null);
  const all = grounds.data?.grounds ?? [];
  const laid = settings.ground === "auto" ? all[0]?.key : settings.ground;
  const shown =
    all.find((g) => g.key === (looked ?? (settings.ground === "school" ? all[0]?.key : laid))) ?? all[0];
  useWall({
    busy: grounds.isFetching || isPending,
    veil: shown
      ? `${base(sitter.id)}/grounds/${encodeURIComponent(shown.key)}.png?v=${sitter.keys["grounds"] ?? ""}`
      : null,
  });
  return (
    <>
      <Section title="Ground">
        {grounds.isPending && <Say quiet>Laying each ground under the picture …</Say>}
        {grounds.isError && <Say>{grounds.error.message}</Say>}
        {grounds.data?.paper && <Say>The paper is the ground in this school: nothing is laid under it.</Say>}
        {grounds.data && !grounds.data.paper && all.length === 0 && (
          <Say>These tubes have no white to mix a ground with.</Say>
        )}
        {all.length > 0 && (
          <Say quiet>
            Part of a good ground is still seen in the finished picture: where each may stay is shown in its
            own colour. What stays is left out of the passes.
          </Say>
        )}
        <Box component="ul" aria-label="Grounds" sx={{ listStyle: "none", p: 0, m: 0 }}>
          {all.map((g) => (
            <Box component="li" key={g.key}>
              <Row
                pressed={shown?.key === g.key}
                onClick={() => setLooked(g.key)}
                sx={{ justifyContent: "space-between", gap: 1 }}
              >
                <Box aria-hidden sx={{ width: 40, height: 26, bgcolor: g.hex, flex: "none" }} />
                <Box component="span" sx={{ flex: 1, textAlign: "left" }}>
                  {g.name}
                  {laid === g.key && ", laid"}
                </Box>
                <span>{g.area_cm2 >= 1 ? `${g.area_cm2.toFixed(0)} cm²` : "none stays"}</span>
              </Row>
            </Box>
          ))}
        </Box>
      </Section>
      {shown && (
        <Section title={shown.name}>
          <Box role="img" aria-label={`Ground ${shown.hex}`} sx={{ height: 56, bgcolor: shown.hex, mb: 1 }} />
          <Recipe parts={shown.parts} tubes={tubes} />
          <Say>
            Value{" "}
            <strong>
              <Value of={shown.value} />
            </strong>
            .{" "}
            {shown.area_cm2 >= 1
              ? `${shown.area_cm2.toFixed(0)} cm² may stay, mostly as ${shown.serves}: ` +
                `${shown.ml.toFixed(1)} ml and ${spoken(shown.minutes)} saved.`
              : "Nothing of it may stay."}
          </Say>
          <Say quiet>
            {Math.abs(shown.warmer) < 3
              ? "It is as warm as the flesh."
              : shown.warmer > 0
                ? "It is cooler than the flesh and sets it off."
                : "It is warmer than the flesh: the flesh will look cool on it."}
          </Say>
          <Button
            color="inherit"
            variant="outlined"
            fullWidth
            disabled={settings.ground === shown.key}
            onClick={() => change({ ground: shown.key }, `Ground: ${shown.name}`)}
            sx={{ mb: 1 }}
          >
            Lay this ground
          </Button>
          <Button
            color="inherit"
            variant="outlined"
            fullWidth
            disabled={settings.ground === "school"}
            onClick={() => change({ ground: "school" }, "Ground as the school has it")}
          >
            As the school has it
          </Button>
        </Section>
      )}
    </>
  );
}
