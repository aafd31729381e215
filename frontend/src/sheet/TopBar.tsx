import { Box, Button, Typography } from "@mui/material";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { serif, textSize } from "../theme";

/** The bar over a page: back to the shelf, what is open, and what can be done with it. */
export function TopBar({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box
      component="header"
      sx={{
        display: "flex",
        alignItems: "center",
        gap: 0.5,
        px: 2,
        borderBottom: 1,
        borderColor: "divider",
        bgcolor: "background.default",
        minHeight: 52,
      }}
    >
      <Button
        color="inherit"
        component={Link}
        to="/"
        aria-label="Back to the shelf"
        sx={{ fontWeight: 400, px: 1 }}
      >
        Shelf
      </Button>
      <Typography
        component="h1"
        noWrap
        sx={{ fontFamily: serif, fontSize: textSize.head, flex: "0 1 auto", mr: 2 }}
      >
        {title}
      </Typography>
      {children}
    </Box>
  );
}
