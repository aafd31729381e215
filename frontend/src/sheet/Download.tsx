import { Box, Button } from "@mui/material";
import { base, type Sitter } from "../api/client";
import { useLadderWay } from "../sitter/ladderWay";

/** Addresses of a sitter's files; values in them are counted as on the screen. */
export function useFileUrl(sitter: Sitter) {
  const [{ count }] = useLadderWay();
  return (name: string, query: Record<string, string | boolean> = {}) => {
    const all = { ...query, ...(count === "down" ? { count } : {}) };
    const said = new URLSearchParams(Object.entries(all).map(([k, v]) => [k, String(v)])).toString();
    return `${base(sitter.id)}/files/${name}${said && `?${said}`}`;
  };
}

/** Links to files, side by side. */
export function Downloads({ files }: { files: { label: string; href: string }[] }) {
  return (
    <Box sx={{ display: "flex", gap: 1, mb: 1 }}>
      {files.map(({ label, href }) => (
        <Button key={label} color="inherit" variant="outlined" fullWidth href={href}>
          {label}
        </Button>
      ))}
    </Box>
  );
}
