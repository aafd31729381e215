import { Typography } from "@mui/material";
import { Link } from "react-router";
import { useNow } from "./useNow";
import { useShelfLog } from "./useLog";
import { until, worked } from "./words";
import { textSize } from "../theme";

/** What goes on at a picture, in a line for the shelf: hours, a sitting, what dries. */
export function OnTheEasel({ sitter }: { sitter: string }) {
  const log = useShelfLog().data;
  const now = useNow(30_000);
  const minutes = log?.minutes[sitter] ?? 0;
  const going = log?.sittings.some((s) => s.sitter === sitter) ?? false;
  const wet = log?.clocks.filter((c) => c.sitter === sitter && until(c.dry_at, now)) ?? [];
  const last = wet.at(-1);
  if (!going && minutes === 0 && !last) return null;
  const said = [
    going ? "sitting now" : "",
    minutes > 0 ? `${worked(minutes)} painted` : "",
    last ? `dry in ${until(last.dry_at, now)}` : "",
  ].filter(Boolean);
  return (
    <Typography sx={{ fontSize: textSize.small, mt: 0.3, fontWeight: going ? 700 : 400 }}>
      <Link to={`/sitters/${sitter}/log`} style={{ color: "inherit", textUnderlineOffset: 3 }}>
        {said.join(" · ")}
      </Link>
    </Typography>
  );
}
