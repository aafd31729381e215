import { Box } from "@mui/material";
import type { Schemas } from "../../api/client";
import { Say } from "../../sheet/parts";
import { Value } from "../../sheet/Value";
import { textSize } from "../../theme";

/** How a wash is laid, what is dropped into it, and what is kept out of it. */
export function WashLaid({ pass }: { pass: Schemas["PlanPass"] }) {
  return (
    <>
      <Say>{pass.laid_words}</Say>
      {pass.charge.length > 0 && (
        <Box
          component="ol"
          type="a"
          aria-label="Dropped in"
          sx={{ m: 0, mb: 1, pl: 2.6, fontSize: textSize.small }}
        >
          {pass.charge.map((c, i) => (
            <li key={i}>
              <Box
                component="span"
                role="img"
                aria-label={`Colour there ${c.predicted_hex}`}
                sx={{ display: "inline-block", width: 26, height: 14, mr: 1, bgcolor: c.predicted_hex }}
              />
              {c.words}; {c.place}, value <Value of={c.value} />
            </li>
          ))}
        </Box>
      )}
      {pass.reserve.length > 0 && (
        <Say>
          <strong>Kept out of it: </strong>
          {keptBy(pass.reserve).join("; ")}.
        </Say>
      )}
    </>
  );
}

/** The places of each way of keeping a light, said once a way. */
const keptBy = (kept: readonly Schemas["PlanReserve"][]) =>
  (Object.keys(means) as (keyof typeof means)[]).flatMap((way) => {
    const places = kept.filter((r) => r.means === way).map((r) => r.place);
    return places.length === 0 ? [] : [`${means[way]}: ${places.join(", ")}`];
  });

const means = {
  paper: "painted round",
  mask: "masked beforehand",
  lift: "lifted while it is damp",
  opaque: "touched in at the end",
} as const satisfies Record<Schemas["PlanReserve"]["means"], string>;
