import { Button, CssBaseline, Snackbar, ThemeProvider } from "@mui/material";
import { useCallback, useMemo, useState } from "react";
import { Route, Routes } from "react-router";
import { RackPage } from "./rack/RackPage";
import { Shelf } from "./shelf/Shelf";
import { NoticeContext, type NoticeAction } from "./sitter/notice";
import { SitterPage } from "./sitter/SitterPage";
import { useStored } from "./sitter/stored";
import { makeTheme } from "./theme";

export function App() {
  const [dim, setDim] = useStored("dim-studio", false);
  const theme = useMemo(() => makeTheme(dim), [dim]);
  const [said, setSaid] = useState<{ sentence: string; action?: NoticeAction; open: boolean }>({ sentence: "", open: false });
  const notice = useCallback(
    (sentence: string, action?: NoticeAction) => setSaid(action ? { sentence, action, open: true } : { sentence, open: true }),
    [],
  );
  const close = () => setSaid((s) => ({ ...s, open: false }));
  const { action } = said;
  return (
    <ThemeProvider theme={theme}>
      <CssBaseline />
      <NoticeContext.Provider value={notice}>
        <Routes>
          <Route path="/" element={<Shelf />} />
          <Route path="/sitters/:id/:stage?" element={<SitterPage dim={dim} onDim={setDim} />} />
          <Route path="/tubes" element={<RackPage />} />
          <Route path="*" element={<Shelf />} />
        </Routes>
        <Snackbar
          open={said.open}
          autoHideDuration={action ? null : 8000}
          onClose={(_, reason) => reason !== "clickaway" && close()}
          message={said.sentence}
          action={
            <>
              {action && (
                <Button color="inherit" onClick={() => { action.run(); close(); }}>
                  {action.label}
                </Button>
              )}
              <Button color="inherit" onClick={close}>
                Close
              </Button>
            </>
          }
        />
      </NoticeContext.Provider>
    </ThemeProvider>
  );
}
