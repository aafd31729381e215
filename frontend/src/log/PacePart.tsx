import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { call, type Schemas } from "../api/client";
import { serif, textSize } from "../theme";
import { Table } from "./Table";
import { useWriting } from "./useLog";
import { keys } from "../api/keys";

type Rate = Schemas["RateOut"];

/** What the sittings say of one's own pace; plans, amounts and sittings are reckoned with it. */
export function PacePart() {
  const rates = useQuery({
    queryKey: keys.book("rates"),
    queryFn: () => call<Schemas["RatesOut"]>("/api/log/rates"),
  });
  const { write, isPending } = useWriting();
  const [asking, setAsking] = useState(false);
  const known = rates.data?.rates ?? [];
  const time = known.filter((r) => r.what === "time");
  const paint = known.filter((r) => r.what === "paint");
  const film = known.filter((r) => r.what === "film");
  const loss = rates.data?.loss;
  return (
    <Box sx={{ maxWidth: 900 }}>
      {rates.isError && <Typography role="alert">{rates.error.message}</Typography>}
      {rates.data && known.length === 0 && (
        <Typography sx={{ maxWidth: 620 }}>
          Nothing is known yet. It takes {rates.data.fewest} sittings of a kind in which you said how much got
          done; until then plans are reckoned with usual times.
        </Typography>
      )}
      {time.length > 0 && <Rates title="Time" rates={time} unit="min/cm²" />}
      {paint.length > 0 && <Rates title="Paint" rates={paint} unit="ml/cm²" />}
      {film.length > 0 && <Rates title="Film, as it stays" rates={film} unit="mm" />}
      {loss !== null && loss !== undefined && (
        <Typography sx={{ mt: 2 }}>
          {Math.round(loss * 100)} % of the paint is scraped off again, give or take{" "}
          {Math.round((rates.data?.loss_spread ?? 0) * 100)} %, from {rates.data?.loss_sittings} sittings.
        </Typography>
      )}
      {known.length > 0 && (
        <>
          <Typography color="text.secondary" sx={{ mt: 2, maxWidth: 620 }}>
            Plans, amounts and sittings take the nearest line that fits a pass. Two sittings of three lie
            within the spread.
          </Typography>
          <Button
            color="inherit"
            variant="outlined"
            sx={{ mt: 2 }}
            disabled={isPending}
            onClick={() => setAsking(true)}
          >
            Learn it anew
          </Button>
        </>
      )}
      <Dialog open={asking} onClose={() => setAsking(false)}>
        <DialogTitle sx={{ fontFamily: serif }}>Learn your pace anew?</DialogTitle>
        <DialogContent>
          Sittings so far stay in the log and count no longer. Strike this entry out and they count again.
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setAsking(false)}>Leave it</Button>
          <Button
            variant="contained"
            disableElevation
            onClick={() => {
              setAsking(false);
              void write({ kind: "pace reset" });
            }}
          >
            Learn anew
          </Button>
        </DialogActions>
      </Dialog>
    </Box>
  );
}

function Rates({ title, rates, unit }: { title: string; rates: Rate[]; unit: string }) {
  return (
    <Box component="section" sx={{ mb: 4 }}>
      <Typography component="h2" sx={{ fontFamily: serif, fontSize: textSize.head, mb: 1 }}>
        {title}
      </Typography>
      <Table
        label={title}
        heads={["Work", "Beside the usual", "Spread", unit, "Sittings"]}
        rows={[...rates]
          .sort((a, b) => b.sittings - a.sittings)
          .map((r) => ({
            key: r.words,
            cells: [
              r.words,
              `× ${r.factor.toPrecision(2)}`,
              `${(r.factor / r.spread).toPrecision(2)} to ${(r.factor * r.spread).toPrecision(2)}`,
              r.per_cm2 > 0 ? r.per_cm2.toPrecision(2) : "",
              r.sittings,
            ],
          }))}
      />
    </Box>
  );
}
