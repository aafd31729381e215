import { Box, Button, FormControlLabel, Switch, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, type ReactNode } from "react";
import { send, type Schemas } from "../api/client";
import { useDoor, useEntering } from "../door/useDoor";
import { TopBar } from "../sheet/TopBar";
import { useNotice } from "../sitter/notice";
import { serif, textSize } from "../theme";
import { keys } from "../api/keys";

type Keeping = Schemas["KeepingOut"];

const size = (bytes: number) =>
  bytes < 1e6 ? `${Math.max(1, Math.round(bytes / 1e3))} KB` : `${(bytes / 1e6).toFixed(1)} MB`;

/** How the sitters are kept: backups, daily copies, a look through everything, and the studio's door. */
export function KeepingPage() {
  const keeping = useQuery({ queryKey: keys.keeping, queryFn: () => send<Keeping>("GET", "/api/keeping") });
  useEffect(() => {
    document.title = "Safekeeping · True Sitter";
  }, []);
  return (
    <Box sx={{ height: "100vh", display: "flex", flexDirection: "column", bgcolor: "background.default" }}>
      <TopBar title="Safekeeping">{null}</TopBar>
      <Box component="main" sx={{ overflow: "auto", px: { xs: 3, md: 6 }, py: 3 }}>
        {keeping.isError && <Typography role="alert">{keeping.error.message}</Typography>}
        {keeping.data && (
          <Box
            sx={{
              display: "grid",
              gridTemplateColumns: { xs: "1fr", md: "1fr 1fr" },
              gap: 5,
              maxWidth: 1100,
            }}
          >
            <Backup keeping={keeping.data} />
            <Copies keeping={keeping.data} />
            <Check />
            <Studio />
          </Box>
        )}
      </Box>
    </Box>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box component="section" aria-label={title} sx={{ display: "grid", gap: 1.5, alignContent: "start" }}>
      <Typography
        component="h2"
        sx={{ fontFamily: serif, fontSize: textSize.head, borderBottom: 1, borderColor: "divider", pb: 0.5 }}
      >
        {title}
      </Typography>
      {children}
    </Box>
  );
}

const Path = ({ children }: { children: ReactNode }) => (
  <Box component="code" sx={{ fontSize: textSize.small, overflowWrap: "anywhere" }}>
    {children}
  </Box>
);

function Backup({ keeping }: { keeping: Keeping }) {
  return (
    <Part title="Backup">
      <Typography>
        All sitters, paintings and tubes as one file. It is read back before you get it; put it on another
        disk.
      </Typography>
      {keeping.folder ? (
        <Button color="inherit" variant="outlined" href="/api/keeping/backup" sx={{ justifySelf: "start" }}>
          Save a backup
        </Button>
      ) : (
        <Typography>Only whoever sits at the machine that keeps the sitters can take one.</Typography>
      )}
      <Typography color="text.secondary" sx={{ fontSize: textSize.small }}>
        {keeping.folder && (
          <>
            The sitters lie in <Path>{keeping.folder}</Path>.{" "}
          </>
        )}
        {keeping.set_aside > 0 &&
          `${keeping.set_aside} photographs that belong to no sitter are set aside beside them for ninety days. `}
        A backup is brought back into a new folder, with the application stopped:{" "}
        <Path>truesitter restore FILE.zip --data NEW</Path>. One sitter is saved from the shelf, and put back
        there.
      </Typography>
    </Part>
  );
}

function Copies({ keeping }: { keeping: Keeping }) {
  const client = useQueryClient();
  const notice = useNotice();
  const daily = useMutation({
    mutationFn: (wanted: boolean) => send<Keeping>("PUT", "/api/keeping/daily", { daily: wanted }),
    onSuccess: (fresh) => client.setQueryData(keys.keeping, fresh),
    onError: (error) => notice(error.message),
  });
  return (
    <Part title="Daily copies">
      <FormControlLabel
        control={
          <Switch
            checked={keeping.daily}
            disabled={daily.isPending}
            onChange={(e) => daily.mutate(e.target.checked)}
          />
        }
        label="Make a copy every day; the last seven are kept"
      />
      {keeping.copies.length === 0 ? (
        <Typography color="text.secondary">None yet: the first is made within minutes of a start.</Typography>
      ) : (
        <Box component="ul" aria-label="Copies" sx={{ listStyle: "none", p: 0, m: 0 }}>
          {keeping.copies.map((copy) => (
            <Box
              component="li"
              key={copy.day}
              sx={{ display: "flex", justifyContent: "space-between", maxWidth: 260 }}
            >
              <span>{copy.day}</span>
              <span>{size(copy.size)}</span>
            </Box>
          ))}
        </Box>
      )}
      <Typography color="text.secondary" sx={{ fontSize: textSize.small }}>
        They guard against a slip, not against a broken disk: they lie beside the sitters
        {keeping.copies_in && (
          <>
            , in <Path>{keeping.copies_in}</Path>
          </>
        )}
        .
      </Typography>
    </Part>
  );
}

function Check() {
  const check = useMutation({ mutationFn: () => send<Schemas["FoundOut"]>("POST", "/api/keeping/check") });
  const found = check.data;
  return (
    <Part title="Is everything there?">
      <Typography>
        Looks through every photograph and every change, and mends what the copies can mend.
      </Typography>
      <Button
        color="inherit"
        variant="outlined"
        sx={{ justifySelf: "start" }}
        disabled={check.isPending}
        onClick={() => check.mutate()}
      >
        {check.isPending ? "Looking …" : "Look now"}
      </Button>
      <Box role="status">
        {check.isError && <Typography>{check.error.message}</Typography>}
        {found && (
          <>
            {[...found.mended, ...found.troubles].map((sentence) => (
              <Typography key={sentence}>{sentence}</Typography>
            ))}
            <Typography>
              {found.sitters} sitters and {found.photographs} photographs:{" "}
              {found.troubles.length === 0 ? "all is sound." : "there is trouble."}
            </Typography>
          </>
        )}
      </Box>
    </Part>
  );
}

function Studio() {
  const door = useDoor().data;
  const { leave } = useEntering();
  if (!door?.studio)
    return (
      <Part title="Other machines">
        <Typography>
          Nobody but this machine is let in. For a class, or a phone at the easel, set a passphrase and open
          the door: <Path>truesitter passphrase</Path>, then <Path>truesitter serve --studio</Path>.
        </Typography>
      </Part>
    );
  return (
    <Part title="Other machines">
      <Typography>
        A tablet or phone in the same network comes in at <Path>{door.address}</Path> with the passphrase. You
        are here as {door.painter}.
      </Typography>
      <Box
        component="img"
        src="/api/door/code.svg"
        alt="Code of this address for a camera"
        sx={{ width: 180 }}
      />
      {!door.secret && (
        <Typography>
          Nothing that goes over the network is encrypted: whoever shares it can see the pictures and the
          passphrase.
        </Typography>
      )}
      <Button color="inherit" variant="outlined" sx={{ justifySelf: "start" }} onClick={() => leave.mutate()}>
        Go out
      </Button>
    </Part>
  );
}
