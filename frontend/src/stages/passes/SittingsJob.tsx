import { Box, Button, TextField } from "@mui/material";
import { useState } from "react";
import { call, type Schemas } from "../../api/client";
import { useChange } from "../../api/useChange";
import { Downloads, useFileUrl } from "../../sheet/Download";
import { useChosenPass } from "../../sheet/PassSelect";
import { NumberField, Say, Section, Toggle } from "../../sheet/parts";
import { spoken } from "../../sheet/spoken";
import { useNotice } from "../../sitter/notice";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { textSize } from "../../theme";

const day = (start: string, plus: number) => {
  const date = new Date(`${start}T12:00:00`);
  if (Number.isNaN(date.getTime())) return `day ${plus + 1}`;
  date.setDate(date.getDate() + plus);
  return date.toLocaleDateString("en-GB", { weekday: "short", day: "numeric", month: "short" });
};

/** When what is painted: sittings, drying, and how warm and damp the studio is. */
export function SittingsJob({ sitter }: JobProps) {
  const settings = sitter.settings.passes;
  const { plan, passes, choose } = useChosenPass(sitter);
  const { change, isPending } = useChange(sitter, "passes");
  const file = useFileUrl(sitter);
  const notice = useNotice();
  const [start, setStart] = useState(() => new Date().toISOString().slice(0, 10));
  useWall({ busy: plan.isFetching || isPending });
  const time = plan.data?.time;
  return (
    <>
      <Section title="Time">
        {plan.isPending && <Say quiet>Planning the passes …</Say>}
        {plan.isError && <Say>{plan.error.message}</Say>}
        {time && (
          <>
            <Say>
              <strong>{time.likely_hours.toFixed(1)} hours</strong> of work, likely between{" "}
              {time.least_hours.toFixed(0)} and {time.most_hours.toFixed(0)};{" "}
              {Math.round(time.hair_share * 100)}&nbsp;% of it goes into hair.
            </Say>
            <Say>
              <strong>{time.sittings.length} sittings</strong> over {time.days}{" "}
              {time.days > 1 ? "days" : "day"}.
            </Say>
          </>
        )}
        <Box sx={{ display: "flex", gap: 1, mt: 1.5, mb: 1.5 }}>
          <NumberField
            label="Longest sitting"
            unit="h"
            value={settings.sitting_hours}
            least={0.25}
            most={24}
            onChange={(v) => change({ sitting_hours: v }, `Sittings of ${v} h`)}
          />
          <NumberField
            label="Days off between"
            value={settings.rest_days}
            least={0}
            most={30}
            whole
            onChange={(v) => change({ rest_days: v }, `${v} days between sittings`)}
          />
        </Box>
        <Box sx={{ display: "flex", gap: 1 }}>
          <NumberField
            label="Studio"
            unit="°C"
            value={settings.temperature}
            least={0}
            most={45}
            onChange={(v) => change({ temperature: v }, `Studio at ${v} °C`)}
          />
          <NumberField
            label="Humidity"
            unit="%"
            value={settings.humidity}
            least={5}
            most={95}
            onChange={(v) => change({ humidity: v }, `Humidity ${v} %`)}
          />
        </Box>
        <Toggle
          label="Waits shortened with a hair dryer"
          on={settings.dryer}
          onChange={(on) => change({ dryer: on }, on ? "Dry with warm air" : "Let it dry by itself")}
        />
        <Button
          color="inherit"
          variant="outlined"
          fullWidth
          sx={{ mt: 1.5 }}
          onClick={() => {
            call<Schemas["AirOut"]>("/api/studio/air")
              .then((air) =>
                change(
                  { temperature: air.temperature, humidity: air.humidity },
                  `Air read: ${air.temperature} °C, ${air.humidity} %`,
                ),
              )
              .catch((error: Error) => notice(error.message));
          }}
        >
          Read the sensor on the wall
        </Button>
        <Say quiet>No sensor is connected: a made-up one stands in for it.</Say>
      </Section>
      <Section title="Sittings">
        <TextField
          type="date"
          size="small"
          fullWidth
          label="The first on"
          value={start}
          onChange={(e) => setStart(e.target.value)}
          sx={{ mb: 1.5 }}
        />
        <Box component="ol" aria-label="Sittings" sx={{ listStyle: "none", p: 0, m: 0 }}>
          {time?.sittings.map((s, i) => (
            <Box component="li" key={s.day} sx={{ mb: 1.5 }}>
              <Box sx={{ fontWeight: 700 }}>
                {i + 1} {day(start, s.day)}, {spoken(s.minutes)}
              </Box>
              {s.intervals.map((b) => (
                <Box
                  key={b.number}
                  component="button"
                  onClick={() => choose(b.number)}
                  sx={{
                    all: "unset",
                    cursor: "pointer",
                    display: "flex",
                    width: "100%",
                    fontSize: textSize.small,
                    py: 0.2,
                    "&:focus-visible": { outline: 2, outlineStyle: "solid" },
                  }}
                >
                  <span style={{ flex: 1 }}>
                    {b.number} {passes[b.number - 1]?.name}
                    {b.ends ? "" : ", goes on"}
                  </span>
                  <span>{spoken(b.minutes)}</span>
                </Box>
              ))}
              {s.waiting.length > 0 && (
                <Say quiet>
                  {s.waiting.length === 1 ? "One pass waits" : `${s.waiting.length} passes wait`} for paint
                  that is still wet the day after.
                </Say>
              )}
            </Box>
          ))}
        </Box>
        <Downloads
          files={[{ label: "Calendar, iCalendar", href: file("sittings.ics", { start: `${start}T09:00` }) }]}
        />
      </Section>
    </>
  );
}
