import { Box, ButtonBase } from "@mui/material";
import type { Sitter } from "../../api/client";
import { useSizes } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import { Say, Section } from "../../sheet/parts";
import { textSize } from "../../theme";

const SIZES = ["sketch", "study", "portrait", "every pass"] as const;

/** How much of the plan is painted: each size with what it takes and how near it comes. */
export function SizeSection({ sitter }: { sitter: Sitter }) {
  const chosen = sitter.settings.passes.size;
  const sizes = useSizes(sitter);
  const { change } = useChange(sitter, "passes");
  const farthest = Math.max(0.01, ...(sizes.data ?? []).map((s) => s.value_error));
  return (
    <Section title="Size">
      <Box role="group" aria-label="Size of the plan">
        {SIZES.map((size) => {
          const one = sizes.data?.find((s) => s.size === size);
          return (
            <ButtonBase
              key={size}
              aria-pressed={size === chosen}
              onClick={() => change({ size }, `Size: ${size}`)}
              sx={{
                display: "grid",
                gridTemplateColumns: "84px 1fr",
                width: "100%",
                minHeight: 44,
                px: 1,
                py: 0.5,
                textAlign: "left",
                border: 1,
                borderColor: size === chosen ? "text.primary" : "divider",
                mb: 0.5,
              }}
            >
              <strong>{size}</strong>
              {one && (
                <Box sx={{ fontSize: textSize.fine }}>
                  {one.passes} passes, {one.heaps || "no"} heaps, {one.brushes} brushes,{" "}
                  {one.hours.toFixed(0)} h
                  <Box
                    sx={{
                      height: 4,
                      mt: 0.4,
                      bgcolor: "text.secondary",
                      width: `${(100 * one.value_error) / farthest}%`,
                    }}
                    role="img"
                    aria-label={`off by ${one.value_error.toFixed(2)} steps`}
                  />
                </Box>
              )}
            </ButtonBase>
          );
        })}
      </Box>
      <Say quiet>
        {sizes.isPending
          ? "Planning every size …"
          : "The bar is how far the last canvas is from the sitter in value; what loses least is left out first."}
      </Say>
    </Section>
  );
}
