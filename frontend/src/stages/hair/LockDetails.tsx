import { Button, ToggleButton, ToggleButtonGroup } from "@mui/material";
import type { Schemas } from "../../api/client";
import { useTubes } from "../../sheet/useTubes";
import { MixtureLine } from "../flesh/MixtureLine";
import type { JobProps } from "../job";
import { useLockType, type HairType } from "./useLockType";

type Lock = Schemas["LockOut"];

export const types = ["straight", "wavy", "coily", "frizz", "short"] as const;

const over = (ranks: readonly number[]) =>
  ranks.length === 0 ? "" : ` Lies over ${ranks.map((n) => `lock ${n}`).join(", ")}.`;

const shadows = (lock: Lock) =>
  lock.shadows
    .map(
      (s) =>
        ` Its shadow lies on lock ${s.on}: ${s.steps.toFixed(1)} steps darker, ${s.width_mm.toFixed(1)} mm.`,
    )
    .join("");

const curl = (lock: Lock) =>
  lock.curl_mm === null
    ? "No curl is seen"
    : `It curls every ${lock.curl_mm.toFixed(1)} mm, ${(lock.swing_mm ?? 0).toFixed(1)} mm to either side`;

/** What is said of one lock: its type, which a press corrects, its strands, its brush, its three tones. */
export function LockDetails({ sitter, lock }: { sitter: JobProps["sitter"]; lock: Lock }) {
  const tubes = useTubes(sitter);
  const type = useLockType(sitter, lock);
  return (
    <>
      {lock.typed && (
        <ToggleButtonGroup
          exclusive
          fullWidth
          size="small"
          value={lock.type}
          aria-label={`Type of ${lock.place}`}
          onChange={(_, v: HairType | null) => v && type.press(v)}
          sx={{ mb: 0.8 }}
        >
          {types.map((t) => (
            <ToggleButton key={t} value={t} sx={{ px: 0.4 }}>
              {t}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
      )}
      {lock.pressed !== null && (
        <Button color="inherit" variant="outlined" size="small" onClick={type.release} sx={{ mb: 0.8 }}>
          As it looks
        </Button>
      )}
      <div>
        {curl(lock)}; its strands lie {lock.disorder.toFixed(0)}° off its way on average. A brush of up to{" "}
        {lock.brush_mm.toFixed(1)} mm follows it.
      </div>
      <div>
        Lightest {lock.turns}, {lock.contrast.toFixed(1)} steps from dark to light.{over(lock.over)}
        {shadows(lock)} {lock.form?.words} Pull its strokes {lock.pull}
        {lock.pull === "from the tip" && ", ending on the line"}.
      </div>
      {lock.tones.map((tone) => (
        <MixtureLine key={tone.name} mixture={tone.mixed} tubes={tubes} title={tone.name} />
      ))}
    </>
  );
}
