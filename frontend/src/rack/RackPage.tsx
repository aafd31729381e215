import { Box, Button, ButtonBase, Menu, MenuItem, Typography, useTheme } from "@mui/material";
import { useEffect, useRef, useState } from "react";
import { useLibrary } from "../api/hooks";
import { useNotice } from "../sitter/notice";
import { serif, studio, textSize } from "../theme";
import { NewTube } from "./NewTube";
import { SwatchWall } from "./SwatchWall";
import { TubeSheet, type Pending } from "./TubeSheet";
import { usePhotoReading } from "./usePhotoReading";
import { useRack, useRackChanges, type RackTube } from "./useRack";
import { TopBar } from "../sheet/TopBar";

const files = [
  ["/api/swatches/sheet.pdf?paper=A4", "Blank swatch sheet, A4"],
  ["/api/swatches/sheet.pdf?paper=Letter", "Blank swatch sheet, Letter"],
  ["/api/files/readings.csv", "Readings, CSV"],
  ["/api/files/readings.txt", "Readings, CGATS text"],
  ["/api/files/rack.csv", "Rack, CSV"],
  ["/api/files/rack.json", "Rack with swatches, JSON"],
] as const;

/** The studio's tube rack: the painter's own tubes and how they were read. */
export function RackPage() {
  const rack = useRack();
  const library = useLibrary();
  const changes = useRackChanges();
  const notice = useNotice();
  const dim = useTheme().palette.mode === "dark";
  const [chosen, setChosen] = useState<string | null>(null);
  const [pending, setPending] = useState<Pending | null>(null);
  const [adding, setAdding] = useState(false);
  const [menu, setMenu] = useState<{ at: HTMLElement; which: "in" | "out" } | null>(null);
  const readings = useRef<HTMLInputElement>(null);
  const whole = useRef<HTMLInputElement>(null);
  const tube = rack.data?.find((t) => t.key === chosen) ?? rack.data?.[0];
  const photo = usePhotoReading(tube, changes, (patches) => setPending({ source: "photograph", patches }));
  const pigment = (key: string) => {
    const p = library.data?.tubes.find((t) => t.key === key);
    return p ? `${p.name}, ${p.ci_name}, ${p.opacity}` : key;
  };
  useEffect(() => {
    document.title = "Tubes · True Sitter";
  }, []);
  const choose = (key: string) => {
    setChosen(key);
    setPending(null);
    photo.close();
  };
  const remove = (t: RackTube) =>
    void changes.remove(t).then(
      (gone) =>
        gone !== null &&
        notice(`${t.name} was removed from the rack.`, {
          label: "Put back",
          run: () => void changes.restore(t.key),
        }),
    );
  const take = (kind: "readings" | "rack", file: File | undefined) => {
    if (file)
      void changes
        .takeFile(kind, file)
        .then(
          (kept) =>
            kept &&
            notice(
              `${kept.length === 1 ? "One tube was" : `${kept.length} tubes were`} imported from ${file.name}.`,
            ),
        );
  };
  const upload = (kind: "readings" | "rack", ref: typeof readings, label: string, accept: string) => (
    <input
      ref={ref}
      type="file"
      hidden
      accept={accept}
      aria-label={label}
      onChange={(e) => {
        const file = e.target.files?.[0];
        e.target.value = "";
        take(kind, file);
      }}
    />
  );
  return (
    <Box sx={{ height: "100vh", display: "flex", flexDirection: "column" }}>
      <TopBar title="Tube rack">
        <Box sx={{ flex: 1 }} />
        <Button color="inherit" onClick={(e) => setMenu({ at: e.currentTarget, which: "in" })}>
          Import
        </Button>
        <Button color="inherit" onClick={(e) => setMenu({ at: e.currentTarget, which: "out" })}>
          Print or download
        </Button>
        <Button variant="contained" disableElevation onClick={() => setAdding(true)}>
          Add a tube
        </Button>
        <Menu open={menu !== null} anchorEl={menu?.at ?? null} onClose={() => setMenu(null)}>
          {menu?.which === "in" && (
            <MenuItem
              onClick={() => {
                readings.current?.click();
                setMenu(null);
              }}
            >
              Readings of swatches (CSV or CGATS text)
            </MenuItem>
          )}
          {menu?.which === "in" && (
            <MenuItem
              onClick={() => {
                whole.current?.click();
                setMenu(null);
              }}
            >
              A rack (CSV or JSON)
            </MenuItem>
          )}
          {menu?.which === "out" &&
            files.map(([href, words]) => (
              <MenuItem key={href} component="a" href={href} download onClick={() => setMenu(null)}>
                {words}
              </MenuItem>
            ))}
        </Menu>
        {upload("readings", readings, "File of readings", ".csv,.txt,.cgats,text/plain,text/csv")}
        {upload("rack", whole, "File of a rack", ".csv,.json,application/json,text/csv")}
      </TopBar>
      <Box
        sx={{
          flex: 1,
          minHeight: 0,
          display: "grid",
          gridTemplateColumns: { xs: "250px minmax(0,1fr) 296px", lg: "290px minmax(0,1fr) 348px" },
        }}
      >
        <Box
          component="nav"
          aria-label="Tubes"
          sx={{ borderRight: 1, borderColor: "divider", bgcolor: "background.default", overflowY: "auto" }}
        >
          {rack.isPending && (
            <Typography color="text.secondary" sx={{ p: 2 }}>
              Loading the rack …
            </Typography>
          )}
          {rack.isError && (
            <Typography role="alert" sx={{ p: 2 }}>
              {rack.error.message}
            </Typography>
          )}
          {rack.data?.map((t) => (
            <ButtonBase
              key={t.key}
              aria-current={t.key === tube?.key}
              onClick={() => choose(t.key)}
              sx={{
                width: "100%",
                justifyContent: "flex-start",
                textAlign: "left",
                gap: 1.5,
                px: 2,
                py: 1,
                minHeight: 64,
                borderBottom: 1,
                borderColor: "divider",
                bgcolor: t.key === tube?.key ? "background.paper" : "transparent",
                opacity: t.empty ? 0.55 : 1,
              }}
            >
              <Box
                sx={{
                  width: 40,
                  height: 40,
                  flex: "none",
                  bgcolor: t.hex,
                  border: 1,
                  borderColor: "divider",
                }}
              />
              <Box sx={{ minWidth: 0 }}>
                <Box
                  sx={{
                    fontSize: textSize.lead,
                    fontWeight: t.key === tube?.key ? 700 : 400,
                    lineHeight: 1.25,
                  }}
                >
                  {t.name}
                </Box>
                <Box sx={{ fontSize: textSize.fine, color: "text.secondary" }}>
                  {[
                    t.empty ? "empty" : t.amount_ml === null ? "" : `${t.amount_ml} ml left`,
                    t.swatches ? "read" : "not read",
                  ]
                    .filter(Boolean)
                    .join(", ")}
                </Box>
              </Box>
            </ButtonBase>
          ))}
        </Box>
        <Box
          component="main"
          sx={{
            minWidth: 0,
            minHeight: 0,
            display: "flex",
            flexDirection: "column",
            bgcolor: dim ? studio.dim.wall : studio.day.wall,
          }}
        >
          {photo.wall ??
            (tube && library.data && (
              <SwatchWall
                tube={tube}
                pending={pending?.patches ?? null}
                labels={library.data.patches}
                dim={dim}
              />
            ))}
          {rack.data?.length === 0 && (
            <Box sx={{ m: "auto", maxWidth: 420, textAlign: "center", p: 3 }}>
              <Typography sx={{ fontFamily: serif, fontSize: textSize.head, mb: 1 }}>
                The rack is empty.
              </Typography>
              <Typography>
                Add the tubes you own. Until their swatches are read they are taken to be like the
                library&rsquo;s; read them once, and every mixture is reckoned with your own paint.
              </Typography>
            </Box>
          )}
        </Box>
        <Box
          component="aside"
          aria-label="Sheet"
          sx={{
            borderLeft: 1,
            borderColor: "divider",
            bgcolor: "background.default",
            overflowY: "auto",
            px: 2.5,
            py: 2,
          }}
        >
          {photo.sheet ??
            (tube && (
              <TubeSheet
                tube={tube}
                pigment={pigment(tube.pigment)}
                pending={pending}
                onPending={setPending}
                onRemove={() => remove(tube)}
                changes={changes}
                photoButton={photo.button}
              />
            ))}
        </Box>
      </Box>
      {adding && (
        <NewTube
          onClose={() => setAdding(false)}
          onAdd={(t) =>
            void changes.add(t).then((kept) => {
              if (kept) {
                choose(kept.key);
                setAdding(false);
              }
            })
          }
        />
      )}
    </Box>
  );
}
