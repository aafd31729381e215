import { Box } from "@mui/material";
import type { Schemas } from "../../api/client";
import { Mix } from "../../sheet/Mix";
import { Say } from "../../sheet/parts";
import type { Tubes } from "../../sheet/Recipe";
import { spoken } from "../../sheet/spoken";
import { Value } from "../../sheet/Value";
import { textSize } from "../../theme";
import { WashLaid } from "./WashLaid";

/** One pass: its mixture, how it is laid, what it meets, how long it takes. */
export function PassDetails({
  pass,
  number,
  tubes,
}: {
  pass: Schemas["PlanPass"];
  number: number;
  tubes: Tubes;
}) {
  return (
    <Box sx={{ mt: 1 }}>
      <Box sx={{ display: "flex", gap: 1.5, mb: 1 }}>
        <Box
          role="img"
          aria-label={`Mixture ${pass.predicted_hex}`}
          sx={{ width: 92, height: 64, bgcolor: pass.predicted_hex, flex: "none" }}
        />
        <Box sx={{ flex: 1 }}>
          <Box sx={{ fontSize: textSize.lead, fontWeight: 700 }}>
            {number} {pass.name}
          </Box>
          <Say>
            on {pass.places.join(", ") || "the canvas"}, value{" "}
            <strong>
              <Value of={pass.value} />
            </strong>
            {pass.wet_value !== null && Math.abs(pass.wet_value - pass.value) >= 0.1 && (
              <>
                , wet <Value of={pass.wet_value} />
              </>
            )}
          </Say>
        </Box>
      </Box>
      <Mix pass={pass} tubes={tubes} />
      {pass.way && <WashLaid pass={pass} />}
      {pass.taken.map((t) => (
        <Say key={t.group}>
          <strong>{t.name}: </strong>
          {t.words}
        </Say>
      ))}
      {pass.lines > 0 && (
        <Say>
          <strong>
            {pass.lines} {pass.lines > 1 ? "lines" : "line"}
          </strong>{" "}
          that swell and taper; a sheet to practise them is below.
        </Say>
      )}
      <Say>
        {pass.tool}
        {pass.thinned.length || pass.taken.length ? "" : `; film ${pass.film_mm.toPrecision(2)} mm`}; edge{" "}
        {pass.edge.words}.
      </Say>
      {pass.coats > 1 && (
        <Say>
          <strong>{pass.coats} coats</strong>, one after the other.
        </Say>
      )}
      {pass.thinned.map((t) => (
        <Say key={t.name ?? ""}>
          {t.name && <strong>{t.name}: </strong>}
          {t.dilution.words}
        </Say>
      ))}
      <Say>
        {pass.taken.length ? (
          <>{pass.area_cm2.toFixed(0)} cm². </>
        ) : (
          <>
            {pass.area_cm2.toFixed(pass.area_cm2 < 10 ? 1 : 0)} cm² take{" "}
            <strong>{pass.ml < 0.01 ? "less than 0.01" : pass.ml.toFixed(pass.ml < 1 ? 2 : 1)} ml</strong>{" "}
            with what stays in the brush.{" "}
          </>
        )}
        {pass.note}
      </Say>
      {pass.seams.length > 0 && (
        <Box component="ul" aria-label="Borders" sx={{ m: 0, mb: 1, pl: 2.2, fontSize: textSize.small }}>
          {pass.seams.map((s) => (
            <li key={s.towards}>{s.words}</li>
          ))}
        </Box>
      )}
      <Say>
        Edges can be moved for {spoken(pass.open_minutes)} at most.
        {pass.goes.length > 0 && " Lay whole shapes in these goes, and soften each before the next:"}
      </Say>
      {pass.goes.length > 0 && (
        <Box component="ol" aria-label="Goes" sx={{ m: 0, mb: 1, pl: 2.6, fontSize: textSize.small }}>
          {pass.goes.map((g, i) => (
            <li key={i}>
              {g.place}, {g.area_cm2.toFixed(g.area_cm2 < 10 ? 1 : 0)} cm²: soften within{" "}
              {spoken(pass.open_minutes)}
              {g.in_time ? "" : "; one shape too large for that: keep its wet edge going as you work across"}
            </li>
          ))}
        </Box>
      )}
      {pass.inspect && (
        <Say>
          <strong>Before going on: </strong>
          {pass.inspect}
        </Say>
      )}
      <Say>
        <strong>What it is for: </strong>
        {pass.purpose}
      </Say>
      {pass.into_wet && <Say>It goes into the wet paint below: do not wait.</Say>}
      <Say>
        {pass.wait_minutes >= 1 ? (
          <>
            Then wait <strong>{spoken(pass.wait_minutes)}</strong>.{" "}
          </>
        ) : (
          "No need to wait before the next. "
        )}
        {pass.start_minutes < 1
          ? "The work begins here."
          : `This pass can start ${spoken(pass.start_minutes)} after the beginning.`}
      </Say>
      <Say quiet>
        About {spoken(pass.minutes)} of work, {Math.round(pass.share_of_time * 100)} % of it all
        {pass.pace && `; it ${pass.pace}`}
        {pass.paint_pace && `; it ${pass.paint_pace}`}. After this pass the canvas is{" "}
        {pass.value_error.toFixed(2)} value steps from the reference on average.
      </Say>
    </Box>
  );
}
