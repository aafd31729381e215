import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle } from "@mui/material";
import { useState } from "react";
import { glossary } from "../sheet/glossary";
import { serif, textSize } from "../theme";

/** The words of the screen and what they mean. */
export function Glossary() {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button color="inherit" onClick={() => setOpen(true)} sx={{ fontWeight: 400, px: 1 }}>
        Words
      </Button>
      <Dialog open={open} onClose={() => setOpen(false)} maxWidth="md" aria-labelledby="glossary-title">
        <DialogTitle id="glossary-title" sx={{ fontFamily: serif }}>
          Words on the screen
        </DialogTitle>
        <DialogContent tabIndex={0}>
          <Box component="dl" sx={{ columns: 2, columnGap: 4, m: 0 }}>
            {glossary.map(([word, meaning]) => (
              <Box key={word} sx={{ breakInside: "avoid", mb: 1.2 }}>
                <Box component="dt" sx={{ fontWeight: 700 }}>
                  {word}
                </Box>
                <Box component="dd" sx={{ m: 0, fontSize: textSize.body }}>
                  {meaning}
                </Box>
              </Box>
            ))}
          </Box>
        </DialogContent>
        <DialogActions>
          <Button color="inherit" onClick={() => setOpen(false)}>
            Close
          </Button>
        </DialogActions>
      </Dialog>
    </>
  );
}
