import { Box, Button } from "@mui/material";
import { entryWords, momentOf } from "./words";
import type { Entry } from "./useLog";
import { textSize } from "../theme";

interface Props {
  entry: Entry;
  name?: string | undefined;
  onStrike?: () => void;
  busy?: boolean;
}

/** One entry of the log: what and when; struck out it stays, with a line through it. */
export function EntryLine({ entry, name, onStrike, busy = false }: Props) {
  const words = entryWords(entry);
  return (
    <Box
      component="li"
      sx={{
        display: "flex",
        alignItems: "baseline",
        gap: 1,
        borderBottom: 1,
        borderColor: "divider",
        py: 0.5,
      }}
    >
      <Box sx={{ flex: 1, minWidth: 0, overflowWrap: "anywhere" }}>
        <Box
          component={entry.struck_at ? "del" : "span"}
          sx={{ fontSize: textSize.body, color: entry.struck_at ? "text.secondary" : "text.primary" }}
        >
          {words}
        </Box>
        <Box sx={{ fontSize: textSize.fine, color: "text.secondary" }}>
          {momentOf(entry.at)}
          {name && ` · ${name}`}
          {entry.painter && ` · ${entry.painter}`}
          {entry.struck_at && ` · struck out ${momentOf(entry.struck_at)}`}
        </Box>
      </Box>
      {onStrike && !entry.struck_at && (
        <Button
          color="inherit"
          size="small"
          disabled={busy}
          aria-label={`Strike out: ${words}`}
          onClick={onStrike}
        >
          strike out
        </Button>
      )}
    </Box>
  );
}
