import { Box, Button } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { base, call, type Schemas } from "../../api/client";
import { useComputed } from "../../api/hooks";
import { Say, Section } from "../../sheet/parts";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { ProgressCurve } from "./ProgressCurve";
import { easelUrl, PaintingSelect, useComparison, usePainting } from "./usePainting";
import { textSize } from "../../theme";
import { keys } from "../../api/keys";

/** How it stands: whether to stop, relations, usual faults, progress, and habits. */
export function StandJob({ sitter }: JobProps) {
  const { paintings, painting, choose, change } = usePainting(sitter);
  const found = useComparison(sitter, painting);
  const progress = useComputed<Schemas["ProgressOut"][]>(sitter, "easel/progress", "", paintings.length > 0);
  const habits = useQuery({
    queryKey: keys.habits(sitter.id, sitter.keys["easel/compared"]),
    queryFn: () => call<Schemas["HabitsOut"]>(`${base(sitter.id)}/easel/habits`),
    enabled: found.isSuccess,
  });
  useWall({
    picture: easelUrl(sitter, painting, "painting"),
    busy: found.isFetching,
    force: { upsideDown: true },
  });
  const d = found.data;
  const allowed = sitter.settings.easel.allowances;
  const value = (habits.data?.habits ?? []).filter((h) => h.what === "value");
  return (
    <>
      <PaintingSelect paintings={paintings} painting={painting} choose={choose} />
      {painting && (
        <>
          <Section title="Go on or stop">
            {found.isPending && <Say quiet>Holding it to the plan …</Say>}
            {found.isError && <Say>{found.error.message}</Say>}
            {d && (
              <Say>
                <strong data-testid="stop">{d.stop.stop ? "Stop." : "Go on."}</strong> {d.stop.words}
              </Say>
            )}
            {d && (
              <Say quiet>
                Range painted: {Math.round(d.range.contrast * 100)} per cent of the planned one. The picture
                stands upside down, so that it is seen anew.
              </Say>
            )}
            {progress.data && progress.data.length > 1 && <ProgressCurve points={progress.data} />}
          </Section>
          {d && (
            <Section title="How things stand to one another">
              {d.relations.slice(0, 10).map((r) => (
                <Say key={`${r.one}${r.other}`} quiet={r.holds}>
                  {r.words}
                </Say>
              ))}
            </Section>
          )}
          {d && (
            <Section title="Usual faults, looked for">
              {d.rules.map((v) => (
                <Box key={v.rule} sx={{ mb: 0.8 }}>
                  <Say quiet={v.holds}>
                    {v.words}{" "}
                    <Box component="span" sx={{ fontSize: textSize.fine, color: "text.secondary" }}>
                      ({v.measured.toFixed(2)}; limit {v.limit.toFixed(2)})
                    </Box>
                  </Say>
                </Box>
              ))}
            </Section>
          )}
          <Section title="What you tend to do">
            {habits.isPending && <Say quiet>Looking through all paintings …</Say>}
            {habits.data && habits.data.habits.length === 0 && (
              <Say quiet>
                {habits.data.paintings < 4
                  ? `A habit shows from four paintings on; there are ${habits.data.paintings}.`
                  : "Nothing is off the same way from painting to painting."}
              </Say>
            )}
            {habits.data?.habits.map((h) => (
              <Say key={`${h.place}${h.what}`}>{h.words}</Say>
            ))}
            {value.length > 0 && (
              <Button
                color="inherit"
                variant="outlined"
                fullWidth
                onClick={() =>
                  change(
                    {
                      allowances: value.map((h) => ({
                        place: h.place,
                        steps: Math.max(-2, Math.min(2, h.mean)),
                      })),
                    },
                    "Let the plan allow for habits",
                  )
                }
              >
                Let the plan allow for them
              </Button>
            )}
            {allowed.length > 0 && (
              <Button
                color="inherit"
                fullWidth
                onClick={() => change({ allowances: [] }, "Plan without habits")}
              >
                Plan without allowing for habits
              </Button>
            )}
          </Section>
        </>
      )}
    </>
  );
}
