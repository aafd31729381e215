import { Box, Button, Slider } from "@mui/material";

interface Props {
  /** What is stepped through, as in "Layer before". */
  before: string;
  next: string;
  label: string;
  number: number;
  count: number;
  onChange: (number: number) => void;
}

/** Steps through numbered things from 1, one at a time or by a slider. */
export function Scrubber({ before, next, label, number, count, onChange }: Props) {
  const step = { color: "inherit", variant: "outlined" } as const;
  return (
    <Box sx={{ display: "flex", alignItems: "center", gap: 1 }}>
      <Button {...step} disabled={number <= 1} onClick={() => onChange(number - 1)} aria-label={before}>
        Before
      </Button>
      <Slider
        aria-label={label}
        min={1}
        max={count}
        step={1}
        value={number}
        onChange={(_, v) => onChange(v)}
        sx={{ mx: 1 }}
      />
      <Button {...step} disabled={number >= count} onClick={() => onChange(number + 1)} aria-label={next}>
        Next
      </Button>
    </Box>
  );
}
