import { Box, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { call, type Schemas, type Sitter } from "../api/client";
import { useComputed, useSitters } from "../api/hooks";
import { Table } from "./Table";
import { entryWords, worked } from "./words";
import { textSize } from "../theme";
import { keys } from "../api/keys";

/** Figures of all paintings side by side. */
export function PaintingsPart() {
  const paintings = useQuery({
    queryKey: keys.book("paintings"),
    queryFn: () => call<Schemas["PaintedOut"][]>("/api/log/paintings"),
  });
  const sitters = useSitters();
  const all = paintings.data ?? [];
  const places = [...new Set(all.flatMap((p) => Object.keys(p.by_place)))];
  if (paintings.isError) return <Typography role="alert">{paintings.error.message}</Typography>;
  if (paintings.data && all.length === 0)
    return <Typography color="text.secondary">There is nobody on the shelf yet.</Typography>;
  return (
    <Box sx={{ maxWidth: 1150 }}>
      <Table
        label="Paintings"
        heads={[
          "Painting",
          "Worked",
          "Sittings",
          "Passes done",
          ...places,
          "Newest photograph",
          "Liked",
          "What was said",
        ]}
        rows={all.map((p) => ({
          key: p.sitter,
          cells: [
            <Link key="name" to={`/sitters/${p.sitter}/log/record`} style={{ color: "inherit" }}>
              {p.name}
            </Link>,
            worked(p.minutes),
            p.sittings,
            p.passes,
            ...places.map((place) => (p.by_place[place] ? worked(p.by_place[place]) : "")),
            <Figures key="figures" sitter={sitters.data?.find((s) => s.id === p.sitter)} />,
            p.liked === null ? "" : `${p.liked.toFixed(1)} of 5`,
            <Box key="said" sx={{ fontSize: textSize.small, maxWidth: 280 }}>
              {p.judgements.map((j) => (
                <div key={j.id}>{entryWords(j)}</div>
              ))}
            </Box>,
          ],
        }))}
      />
    </Box>
  );
}

/** What the newest photograph says of a painting; it is compared when it is asked for. */
function Figures({ sitter }: { sitter: Sitter | undefined }) {
  const photographed = (sitter?.settings.easel.paintings ?? []).length > 0;
  return sitter && photographed ? <Compared sitter={sitter} /> : null;
}

function Compared({ sitter }: { sitter: Sitter }) {
  const figures = useComputed<Schemas["FiguresOut"]>(sitter, "log/figures");
  const found = figures.data;
  if (figures.isPending) return <>comparing …</>;
  if (figures.isError) return <>{figures.error.message}</>;
  if (found?.darkest === null || found?.darkest === undefined || found.lightest === null) return null;
  return (
    <Box sx={{ fontSize: textSize.small, maxWidth: 260 }}>
      values {found.darkest.toFixed(1)} to {found.lightest.toFixed(1)};{" "}
      {found.findings === 0
        ? "nothing off"
        : `${found.findings} ${found.findings === 1 ? "thing" : "things"} off`}
      {found.worst && `: ${found.worst}`}
    </Box>
  );
}
