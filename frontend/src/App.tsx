import { Box, Button, CircularProgress, CssBaseline, Snackbar, ThemeProvider } from "@mui/material";
import { lazy, Suspense, useCallback, useMemo, useState } from "react";
import { Route, Routes } from "react-router";
import { useDoor } from "./door/useDoor";
import { Shelf } from "./shelf/Shelf";
import { NoticeContext, type NoticeAction } from "./sitter/notice";
import { useStored } from "./sitter/stored";
import { makeTheme } from "./theme";

// The first page needs neither the wall nor the rack: they are loaded when they are opened.
const SitterPage = lazy(() => import("./sitter/SitterPage").then((m) => ({ default: m.SitterPage })));
const KeepingPage = lazy(() => import("./keeping/KeepingPage").then((m) => ({ default: m.KeepingPage })));
const DoorPage = lazy(() => import("./door/DoorPage").then((m) => ({ default: m.DoorPage })));
const PhonePage = lazy(() => import("./door/PhonePage").then((m) => ({ default: m.PhonePage })));
const LogPage = lazy(() => import("./log/LogPage").then((m) => ({ default: m.LogPage })));
const DrillsPage = lazy(() => import("./drills/DrillsPage").then((m) => ({ default: m.DrillsPage })));
const GoPage = lazy(() => import("./drills/GoPage").then((m) => ({ default: m.GoPage })));
const RackPage = lazy(() => import("./rack/RackPage").then((m) => ({ default: m.RackPage })));

export function App() {
  const [dim, setDim] = useStored("dim-studio", false);
  const theme = useMemo(() => makeTheme(dim), [dim]);
  const [said, setSaid] = useState<{ sentence: string; action?: NoticeAction; open: boolean }>({
    sentence: "",
    open: false,
  });
  const notice = useCallback(
    (sentence: string, action?: NoticeAction) =>
      setSaid(action ? { sentence, action, open: true } : { sentence, open: true }),
    [],
  );
  const door = useDoor();
  // What cannot be asked yet is answered by the pages themselves.
  const shut = door.data?.painter === null;
  const close = () => setSaid((s) => ({ ...s, open: false }));
  const { action } = said;
  return (
    <ThemeProvider theme={theme}>
      <CssBaseline />
      <NoticeContext.Provider value={notice}>
        <Suspense fallback={<Opening />}>
          {shut ? (
            <DoorPage secret={door.data?.secret ?? false} />
          ) : (
            <Routes>
              <Route path="/" element={<Shelf />} />
              <Route path="/sitters/:id/:stage?/:job?" element={<SitterPage dim={dim} onDim={setDim} />} />
              <Route path="/keeping" element={<KeepingPage />} />
              <Route path="/easel/:id" element={<PhonePage />} />
              <Route path="/log/:part?" element={<LogPage />} />
              <Route path="/drills" element={<DrillsPage />} />
              <Route path="/drills/:drill/:sitter" element={<GoPage />} />
              <Route path="/tubes" element={<RackPage />} />
              <Route path="*" element={<Shelf />} />
            </Routes>
          )}
        </Suspense>
        <Snackbar
          open={said.open}
          autoHideDuration={action ? null : 8000}
          onClose={(_, reason) => reason !== "clickaway" && close()}
          message={said.sentence}
          action={
            <>
              {action && (
                <Button
                  color="inherit"
                  onClick={() => {
                    action.run();
                    close();
                  }}
                >
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

function Opening() {
  return (
    <Box
      component="main"
      sx={{ height: "100vh", display: "grid", placeItems: "center", bgcolor: "background.default" }}
    >
      <CircularProgress color="inherit" aria-label="Opening" />
    </Box>
  );
}
