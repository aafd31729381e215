import { Box, MenuItem, TextField, Typography } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { call, type Schemas } from "../api/client";
import { EntryLine } from "./EntryLine";
import { zone } from "./useLog";
import { keys } from "../api/keys";

const kinds = [
  "began",
  "ended",
  "note",
  "next time",
  "used",
  "air",
  "photograph",
  "trial",
  "judged",
  "pace reset",
];

/** Everything that was written down, to be searched. */
export function EntriesPart() {
  const [asked, setAsked] = useState({ words: "", kind: "", sitter: "", since: "", until: "" });
  const set = (change: Partial<typeof asked>) => setAsked({ ...asked, ...change });
  const later = useDeferredValue(asked);
  const query = new URLSearchParams(
    Object.entries({ ...later, zone }).filter(([, value]) => value !== ""),
  ).toString();
  const book = useQuery({
    queryKey: keys.book("search", query),
    queryFn: ({ signal }) => call<Schemas["BookOut"]>(`/api/log?${query}`, { signal }),
    placeholderData: keepPreviousData,
  });
  const names = book.data?.names ?? {};
  const day = { inputLabel: { shrink: true } };
  return (
    <Box sx={{ maxWidth: 900 }}>
      <Box component="search" sx={{ display: "flex", gap: 1.5, flexWrap: "wrap", mb: 2 }}>
        <TextField
          label="Words"
          size="small"
          value={asked.words}
          onChange={(e) => set({ words: e.target.value })}
          slotProps={{ htmlInput: { maxLength: 200, type: "search" } }}
          sx={{ flex: 2, minWidth: 180 }}
        />
        <TextField
          select
          label="Kind"
          size="small"
          value={asked.kind}
          onChange={(e) => set({ kind: e.target.value })}
          sx={{ flex: 1, minWidth: 130 }}
        >
          <MenuItem value="">all</MenuItem>
          {kinds.map((kind) => (
            <MenuItem key={kind} value={kind}>
              {kind}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          label="Sitter"
          size="small"
          value={asked.sitter in names ? asked.sitter : ""}
          onChange={(e) => set({ sitter: e.target.value })}
          sx={{ flex: 1, minWidth: 130 }}
        >
          <MenuItem value="">all</MenuItem>
          {Object.entries(names).map(([id, name]) => (
            <MenuItem key={id} value={id}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          label="From"
          type="date"
          size="small"
          value={asked.since}
          onChange={(e) => set({ since: e.target.value })}
          slotProps={day}
        />
        <TextField
          label="To"
          type="date"
          size="small"
          value={asked.until}
          onChange={(e) => set({ until: e.target.value })}
          slotProps={day}
        />
      </Box>
      {book.isError && <Typography role="alert">{book.error.message}</Typography>}
      {book.data && (
        <Typography role="status" color="text.secondary" sx={{ mb: 1 }}>
          {book.data.found === 0
            ? "Nothing like that was written down."
            : `${book.data.found} ${book.data.found === 1 ? "entry" : "entries"}` +
              (book.data.found > book.data.entries.length
                ? `, the newest ${book.data.entries.length} here`
                : "")}
        </Typography>
      )}
      <Box component="ol" aria-label="Entries" sx={{ listStyle: "none", p: 0, m: 0 }}>
        {book.data?.entries.map((e) => (
          <EntryLine key={e.id} entry={e} name={names[e.sitter]} />
        ))}
      </Box>
    </Box>
  );
}
