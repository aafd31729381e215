import { Box, FormControlLabel, Slider, Switch, TextField, Typography } from "@mui/material";
import { useEffect, useState, type ReactNode } from "react";
import { serif, textSize } from "../theme";

/** A heading of the sheet and what stands under it. */
export function Section({
  title,
  children,
  action,
}: {
  title: string;
  children: ReactNode;
  action?: ReactNode;
}) {
  return (
    <Box component="section" sx={{ mb: 3 }}>
      <Box
        sx={{
          display: "flex",
          alignItems: "center",
          borderBottom: 1,
          borderColor: "divider",
          mb: 1.5,
          minHeight: 34,
        }}
      >
        <Typography component="h2" sx={{ fontFamily: serif, fontSize: textSize.head, flex: 1 }}>
          {title}
        </Typography>
        {action}
      </Box>
      {children}
    </Box>
  );
}

/** A line of plain words. */
export function Say({ children, quiet = false }: { children: ReactNode; quiet?: boolean }) {
  return (
    <Typography
      sx={{ fontSize: textSize.body, mb: 0.8, lineHeight: 1.4 }}
      color={quiet ? "text.secondary" : "text.primary"}
    >
      {children}
    </Typography>
  );
}

interface ToggleProps {
  label: string;
  on: boolean;
  onChange: (on: boolean) => void;
}

/** Something that is so or not. */
export function Toggle({ label, on, onChange }: ToggleProps) {
  return (
    <FormControlLabel
      control={<Switch color="default" checked={on} onChange={(_, next) => onChange(next)} />}
      label={label}
    />
  );
}

interface NumberProps {
  label: string;
  value: number;
  least: number;
  most: number;
  unit?: string;
  whole?: boolean;
  onChange: (value: number) => void;
}

/** A number that is taken over when the field is left or Enter is pressed. */
export function NumberField({ label, value, least, most, unit, whole = false, onChange }: NumberProps) {
  const [text, setText] = useState(String(value));
  useEffect(() => setText(String(value)), [value]);
  const number = Number(text.replace(",", "."));
  const bad =
    text.trim() === "" ||
    !Number.isFinite(number) ||
    number < least ||
    number > most ||
    (whole && !Number.isInteger(number));
  const take = () => {
    if (bad) setText(String(value));
    else if (number !== value) onChange(number);
  };
  return (
    <TextField
      label={unit ? `${label}, ${unit}` : label}
      value={text}
      size="small"
      error={bad}
      variant="outlined"
      helperText={bad ? `${least} to ${most}` : undefined}
      onChange={(e) => setText(e.target.value)}
      onBlur={take}
      onKeyDown={(e) => e.key === "Enter" && take()}
      slotProps={{ htmlInput: { inputMode: "decimal" } }}
      sx={{ flex: 1, minWidth: 0 }}
    />
  );
}

interface HandleProps {
  label: string;
  value: number;
  least: number;
  most: number;
  step: number;
  shown?: (value: number) => string;
  onChange: (value: number) => void;
}

/** A slider whose value is taken over when it is let go. */
export function Handle({ label, value, least, most, step, shown = String, onChange }: HandleProps) {
  const [held, setHeld] = useState<number | null>(null);
  return (
    <Box sx={{ mb: 0.5 }}>
      <Box sx={{ display: "flex", justifyContent: "space-between", fontSize: textSize.small }}>
        <span>{label}</span>
        <strong>{shown(held ?? value)}</strong>
      </Box>
      <Slider
        aria-label={label}
        size="medium"
        value={held ?? value}
        min={least}
        max={most}
        step={step}
        onChange={(_, v) => setHeld(v)}
        onChangeCommitted={(_, v) => {
          setHeld(null);
          if (v !== value) onChange(v);
        }}
      />
    </Box>
  );
}
