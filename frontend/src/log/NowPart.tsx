import { Box, Typography } from "@mui/material";
import { Link } from "react-router";
import { pictureUrl, type Sitter } from "../api/client";
import { useSitters } from "../api/hooks";
import { serif, studio, textSize } from "../theme";
import { useNow } from "./useNow";
import { usePossible, useShelfLog } from "./useLog";
import { momentOf, until, worked } from "./words";

/** What can be painted now, picture by picture, and what dries. */
export function NowPart() {
  const sitters = useSitters();
  if (sitters.isError) return <Typography role="alert">{sitters.error.message}</Typography>;
  if (sitters.data?.length === 0)
    return <Typography color="text.secondary">There is nobody on the shelf yet.</Typography>;
  return (
    <Box
      component="ul"
      aria-label="Pictures"
      sx={{ listStyle: "none", p: 0, m: 0, display: "grid", gap: 0, maxWidth: 900 }}
    >
      {sitters.data?.map((s) => (
        <OnePicture key={s.id} sitter={s} />
      ))}
    </Box>
  );
}

function OnePicture({ sitter }: { sitter: Sitter }) {
  const possible = usePossible(sitter.id);
  const log = useShelfLog().data;
  const now = useNow(30_000);
  const going = log?.sittings.find((s) => s.sitter === sitter.id);
  const wet = log?.clocks.filter((c) => c.sitter === sitter.id && until(c.dry_at, now)) ?? [];
  const found = possible.data;
  return (
    <Box
      component="li"
      sx={{
        display: "flex",
        gap: 3,
        py: 2,
        borderBottom: 1,
        borderColor: "divider",
        alignItems: "flex-start",
      }}
    >
      <Box sx={{ bgcolor: studio.day.wall, width: 108, height: 120, display: "grid", placeItems: "center" }}>
        <Box
          component="img"
          src={pictureUrl(sitter, "colour")}
          alt=""
          loading="lazy"
          sx={{ maxWidth: 92, maxHeight: 104 }}
        />
      </Box>
      <Box sx={{ flex: 1 }}>
        <Typography component="h2" sx={{ fontFamily: serif, fontSize: textSize.head }}>
          <Link to={`/sitters/${sitter.id}/log`} style={{ color: "inherit", textDecoration: "none" }}>
            {sitter.name}
          </Link>
        </Typography>
        {going && (
          <Typography sx={{ fontWeight: 700 }}>
            A sitting goes on since {momentOf(going.began)}
            {going.paused && ", paused"}.
          </Typography>
        )}
        {possible.isPending && <Typography color="text.secondary">Planning …</Typography>}
        {possible.isError && <Typography>{possible.error.message}</Typography>}
        {found && (
          <Typography>
            {found.number === null ? (
              "Every pass is done."
            ) : (
              <>
                {found.now ? "Now: " : `In ${until(found.since, now) || "a moment"}: `}
                <strong>{found.name}</strong>, {worked(found.minutes)}; {found.left}{" "}
                {found.left === 1 ? "pass" : "passes"} to do.
              </>
            )}
          </Typography>
        )}
        {wet.map((c) => (
          <Typography key={`${c.key}${c.name}`} color="text.secondary" sx={{ fontSize: textSize.small }}>
            {c.name} is dry in {until(c.dry_at, now)}
          </Typography>
        ))}
      </Box>
      <Typography color="text.secondary">{worked(log?.minutes[sitter.id] ?? 0)}</Typography>
    </Box>
  );
}
