import { Box, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useState } from "react";
import { base, type Schemas } from "../../api/client";
import { useComputed } from "../../api/hooks";
import { Say, Section } from "../../sheet/parts";
import { Value } from "../../sheet/Value";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { easelUrl, PaintingSelect, usePainting } from "./usePainting";
import { textSize } from "../../theme";

/** The passes that are left, planned anew on what is really on the canvas. */
export function AgainJob({ sitter }: JobProps) {
  const { paintings, painting, choose } = usePainting(sitter);
  const under = painting?.after !== null && painting !== undefined;
  const again = useComputed<Schemas["AgainOut"]>(
    sitter,
    "easel/again",
    `painting=${painting?.key ?? ""}`,
    under,
  );
  const [seen, setSeen] = useState<"now" | "end">("end");
  const end = `${base(sitter.id)}/easel/again.png?painting=${painting?.key ?? ""}&v=${sitter.keys["easel/again"] ?? ""}`;
  useWall({
    picture: under && seen === "end" && again.isSuccess ? end : easelUrl(sitter, painting, "painting"),
    busy: again.isFetching,
  });
  const d = under ? again.data : undefined;
  const now = new Map(d?.new.map((p) => [p.key, p]));
  return (
    <>
      <PaintingSelect paintings={paintings} painting={painting} choose={choose} />
      {painting && !under && (
        <Say>All passes have been laid: correct single places under “compare” instead.</Say>
      )}
      {under && (
        <>
          <ToggleButtonGroup
            exclusive
            fullWidth
            value={seen}
            aria-label="Picture"
            onChange={(_, v: typeof seen | null) => v && setSeen(v)}
          >
            <ToggleButton value="now">as it is</ToggleButton>
            <ToggleButton value="end">as it will end</ToggleButton>
          </ToggleButtonGroup>
          <Section title="Plan again">
            {again.isPending && <Say quiet>Planning the rest on what is there …</Say>}
            {again.isError && <Say>{again.error.message}</Say>}
            {d && d.dropped.length > 0 && d.dropped.map((s) => <Say key={s}>{s}</Say>)}
            {d && d.beyond.length === 0 && <Say>The passes that are left bring it to what was planned.</Say>}
            {d?.beyond.map((b) => (
              <Box key={b.place} sx={{ mb: 1.2 }}>
                <Say>
                  <strong>{b.place}</strong> ends {Math.abs(b.steps).toFixed(1)} steps too{" "}
                  {b.steps > 0 ? "light" : "dark"}, on {b.area_cm2.toFixed(0)} cm².
                </Say>
                {b.ways.map((w) => (
                  <Say key={w.kind} quiet>
                    {w.words}
                    {w.minutes > 0 && ` About ${Math.max(5, Math.round(w.minutes / 5) * 5)} minutes.`}
                  </Say>
                ))}
              </Box>
            ))}
          </Section>
          {d && (
            <Section title="Old and new">
              <Box component="ol" start={d.laid + 1} aria-label="Passes left" sx={{ pl: 3, m: 0 }}>
                {d.old.map((p) => {
                  const fresh = now.get(p.key);
                  const moved = fresh && Math.abs(fresh.value - p.value) >= 0.05;
                  return (
                    <Box component="li" key={p.key} sx={{ mb: 0.8, fontSize: textSize.small }}>
                      <Box sx={{ textDecoration: fresh ? "none" : "line-through" }}>{p.name}</Box>
                      <Box sx={{ display: "flex", gap: 0.5, alignItems: "center" }}>
                        <Box aria-hidden sx={{ width: 34, height: 16, bgcolor: p.hex }} />
                        <Box
                          aria-hidden
                          sx={{ width: 34, height: 16, bgcolor: fresh?.hex ?? "transparent" }}
                        />
                        <span>
                          <Value of={p.value} />
                          {moved && fresh && (
                            <>
                              {" "}
                              → <Value of={fresh.value} />
                            </>
                          )}
                          {!fresh && " drops out"}
                        </span>
                      </Box>
                    </Box>
                  );
                })}
              </Box>
            </Section>
          )}
        </>
      )}
    </>
  );
}
