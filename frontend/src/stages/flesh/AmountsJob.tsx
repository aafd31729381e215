import { Box } from "@mui/material";
import { useBatch } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import { Handle, NumberField, Say, Section } from "../../sheet/parts";
import { useTubes } from "../../sheet/useTubes";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { textSize } from "../../theme";

/** How much of every mixture and every tube a sitting takes. */
export function AmountsJob({ sitter }: JobProps) {
  const tubes = useTubes(sitter);
  const settings = sitter.settings.flesh;
  const washes = settings.transparent;
  const batch = useBatch(sitter);
  const { change, isPending } = useChange(sitter, "flesh");
  const families = [...new Set(batch.data?.lines.map((l) => l.family))];
  const right = { textAlign: "right" } as const;
  const sheet = (
    <>
      <Section title="How it is laid">
        <Box sx={{ display: "flex", gap: 1, mb: 1.5 }}>
          {!washes && (
            <NumberField
              label="Wet film"
              unit="mm"
              value={settings.film_mm}
              least={0.005}
              most={5}
              onChange={(v) => change({ film_mm: v }, `Film of ${v} mm`)}
            />
          )}
          <NumberField
            label="Coats"
            value={settings.coats}
            least={1}
            most={20}
            whole
            onChange={(v) => change({ coats: v }, `${v} coats`)}
          />
        </Box>
        <Handle
          label="Left in the brush"
          value={Math.round(settings.loss * 100)}
          least={0}
          most={90}
          step={5}
          shown={(v) => `${v} %`}
          onChange={(v) => change({ loss: v / 100 }, `${v} % lost`)}
        />
      </Section>
      <Section title="From each tube">
        {batch.isPending && <Say quiet>Reckoning …</Say>}
        {batch.isError && <Say>{batch.error.message}</Say>}
        {batch.data?.pace && <Say quiet>{batch.data.pace}.</Say>}
        {batch.data && (
          <Box
            component="table"
            sx={{
              width: "100%",
              borderCollapse: "collapse",
              fontSize: textSize.body,
              "& td, & th": { py: 0.5, borderBottom: 1, borderColor: "divider", fontWeight: 400 },
            }}
          >
            <thead>
              <tr>
                <Box component="th" sx={{ textAlign: "left" }}>
                  tube
                </Box>
                <Box component="th" sx={right}>
                  ml
                </Box>
                <Box component="th" sx={right}>
                  strand, cm
                </Box>
              </tr>
            </thead>
            <tbody>
              {batch.data.tubes.map((t) => {
                const left = tubes.get(t.tube)?.left_ml ?? null;
                const short = left !== null && left < t.ml;
                return (
                  <tr key={t.tube} data-testid="batch-tube">
                    <td>
                      <Box
                        component="span"
                        aria-hidden
                        sx={{
                          display: "inline-block",
                          width: 14,
                          height: 14,
                          mr: 1,
                          bgcolor: tubes.get(t.tube)?.hex,
                          verticalAlign: "-2px",
                        }}
                      />
                      {tubes.get(t.tube)?.name ?? t.tube}
                      {left !== null && (
                        <Box sx={{ fontSize: textSize.fine, fontWeight: short ? 700 : 400 }}>
                          {short
                            ? `only ${left} ml left: short by ${(t.ml - left).toFixed(1)}`
                            : `${left} ml left`}
                        </Box>
                      )}
                    </td>
                    <Box component="td" sx={right}>
                      {t.ml.toFixed(t.ml < 0.995 ? 2 : 1)}
                    </Box>
                    <Box component="td" sx={right}>
                      {t.cm < 0.1 ? "a touch" : t.cm.toFixed(1)}
                    </Box>
                  </tr>
                );
              })}
            </tbody>
          </Box>
        )}
        <Say quiet>
          Strand from a usual opening of 8 mm. The areas are what the picture shows on your canvas.
          {washes && " Each is a puddle, with its water."}
        </Say>
      </Section>
      {families.map((family) => (
        <Section key={family} title={family}>
          {batch.data?.lines
            .filter((l) => l.family === family && l.ml >= 0.005)
            .map((l) => (
              <Box key={l.name} sx={{ fontSize: textSize.body, py: 0.3 }}>
                <Box sx={{ display: "flex" }}>
                  <Box sx={{ flex: 1 }}>{l.name}</Box>
                  <Box sx={{ width: 90, ...right }}>{l.area_cm2.toFixed(0)} cm²</Box>
                  <Box sx={{ width: 76, ...right }}>{l.ml.toFixed(l.ml < 0.995 ? 2 : 1)} ml</Box>
                </Box>
                {l.thinner_ml > 0 && (
                  <Box sx={{ fontSize: textSize.fine, color: "text.secondary", ...right }}>
                    {(l.made_ml - l.thinner_ml).toFixed(2)} ml of paint in {l.thinner_ml.toFixed(1)} ml of
                    water
                  </Box>
                )}
                {l.made_ml > l.ml * 1.02 && (
                  <Box sx={{ fontSize: textSize.fine, color: "text.secondary", ...right }}>
                    mix {l.made_ml.toFixed(1)} ml: of less the smallest part cannot be measured
                  </Box>
                )}
              </Box>
            ))}
        </Section>
      ))}
    </>
  );
  useWall({ busy: isPending || batch.isFetching });
  return sheet;
}
