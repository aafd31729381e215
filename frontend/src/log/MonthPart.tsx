import { Box, Button, Typography } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { call, type Schemas } from "../api/client";
import { useSitters } from "../api/hooks";
import { useShortcuts } from "../sitter/shortcuts";
import { serif, textSize } from "../theme";
import { zone } from "./useLog";
import { clockOf, worked } from "./words";
import { keys } from "../api/keys";

const week = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

/** A month: hours by picture, what becomes dry, and how much is wet at night. */
export function MonthPart() {
  const [at, setAt] = useState(() => new Date(new Date().getFullYear(), new Date().getMonth(), 1));
  const year = at.getFullYear();
  const month = at.getMonth() + 1;
  const sitters = useSitters();
  const days = useQuery({
    queryKey: keys.book("month", year, month),
    queryFn: () =>
      call<Schemas["DayOut"][]>(
        `/api/log/month?year=${year}&month=${month}&zone=${encodeURIComponent(zone)}`,
      ),
    placeholderData: keepPreviousData,
  });
  const names = Object.fromEntries(sitters.data?.map((s) => [s.id, s.name]) ?? []);
  const move = (by: number) => setAt(new Date(year, month - 1 + by, 1));
  useShortcuts({ arrowleft: () => move(-1), arrowright: () => move(1) });
  const first = (at.getDay() + 6) % 7;
  const whole = days.data?.reduce((sum, d) => sum + minutesOf(d), 0) ?? 0;
  const today = new Date().toDateString();
  return (
    <Box sx={{ maxWidth: 1100 }}>
      <Box sx={{ display: "flex", alignItems: "center", gap: 1, mb: 2 }}>
        <Button color="inherit" variant="outlined" aria-label="Month before" onClick={() => move(-1)}>
          ‹
        </Button>
        <Typography
          component="h2"
          sx={{ fontFamily: serif, fontSize: textSize.title, minWidth: 200, textAlign: "center" }}
        >
          {at.toLocaleDateString("en-GB", { month: "long", year: "numeric" })}
        </Typography>
        <Button color="inherit" variant="outlined" aria-label="Month after" onClick={() => move(1)}>
          ›
        </Button>
        <Typography color="text.secondary" sx={{ ml: 2 }}>
          {whole > 0 ? `${worked(whole)} painted` : "Nothing painted"}
        </Typography>
      </Box>
      {days.isError && <Typography role="alert">{days.error.message}</Typography>}
      <Box
        role="table"
        aria-label="Month"
        sx={{ display: "grid", gridTemplateColumns: "repeat(7, 1fr)", borderTop: 1, borderColor: "divider" }}
      >
        <Box role="row" sx={{ display: "contents" }}>
          {week.map((day) => (
            <Box
              key={day}
              role="columnheader"
              sx={{ fontSize: textSize.small, color: "text.secondary", py: 0.5, px: 1 }}
            >
              {day}
            </Box>
          ))}
        </Box>
        {weeksOf(first, days.data ?? []).map((row, n) => (
          <Box key={n} role="row" sx={{ display: "contents" }}>
            {row.map((d, i) =>
              d ? (
                <Day
                  key={d.day}
                  day={d}
                  names={names}
                  today={new Date(`${d.day}T12:00`).toDateString() === today}
                />
              ) : (
                <Box key={i} role="cell" sx={{ borderTop: 1, borderColor: "divider" }} />
              ),
            )}
          </Box>
        ))}
      </Box>
    </Box>
  );
}

/** Days in rows of seven; empty places before the first and after the last. */
function weeksOf(first: number, days: Schemas["DayOut"][]): (Schemas["DayOut"] | null)[][] {
  if (days.length === 0) return [];
  const cells = [...Array<null>(first).fill(null), ...days];
  const rows = Math.ceil(cells.length / 7);
  return Array.from({ length: rows }, (_, n) =>
    Array.from({ length: 7 }, (__, i) => cells[7 * n + i] ?? null),
  );
}

const minutesOf = (day: Schemas["DayOut"]) => Object.values(day.minutes).reduce((sum, m) => sum + m, 0);

function Day({
  day,
  names,
  today,
}: {
  day: Schemas["DayOut"];
  names: Record<string, string>;
  today: boolean;
}) {
  return (
    <Box
      role="cell"
      aria-label={day.day}
      aria-current={today ? "date" : undefined}
      sx={{ minHeight: 92, borderTop: today ? 3 : 1, borderColor: today ? "text.primary" : "divider", p: 1 }}
    >
      <Box sx={{ display: "flex", fontSize: textSize.small }}>
        <strong style={{ flex: 1 }}>{Number(day.day.slice(8))}</strong>
        {day.drying > 0 && (
          <Box
            component="span"
            sx={{ color: "text.secondary" }}
            title="Layers still wet at the end of the day"
          >
            {day.drying} wet
          </Box>
        )}
      </Box>
      {Object.entries(day.minutes).map(([sitter, minutes]) => (
        <Box key={sitter} sx={{ fontSize: textSize.small, overflowWrap: "anywhere" }}>
          {names[sitter] ?? "a picture"} <strong>{worked(minutes)}</strong>
        </Box>
      ))}
      {day.dry.map((c) => (
        <Box key={`${c.sitter}${c.key}${c.name}`} sx={{ fontSize: textSize.fine, color: "text.secondary" }}>
          {clockOf(c.dry_at)} dry: {c.name}
        </Box>
      ))}
    </Box>
  );
}
