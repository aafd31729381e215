import { Box, Button, MenuItem, TextField } from "@mui/material";
import { useState } from "react";
import { base, call, type Schemas, type Sitter } from "../../api/client";
import { useLibrary } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import { NumberField, Say, Section } from "../../sheet/parts";
import { spoken } from "../../sheet/spoken";
import { useTubes } from "../../sheet/useTubes";
import { counted, useLadderWay } from "../../sitter/ladderWay";
import { useNotice } from "../../sitter/notice";

type MediumName = Sitter["settings"]["flesh"]["medium"];

function Facts({ medium }: { medium: Schemas["MediumOut"] }) {
  const [shortest, longest] = medium.open_minutes;
  return (
    <>
      <Say quiet>
        Thinned with {medium.thinner}. Over a thin film after about {spoken(medium.wait_minutes)}; an edge can
        be moved for {shortest >= 0.5 ? `${spoken(shortest)} to ` : "up to "}
        {spoken(longest)} (from memory).{" "}
        {medium.dryer > 1
          ? `A hair dryer makes it ${medium.dryer} times faster.`
          : "A hair dryer does not help."}
        {medium.oily ? " Fat over lean." : ""}
      </Say>
      {medium.caution && <Say>{medium.caution}</Say>}
    </>
  );
}

/** What the whole plan is painted in, with the painter's own times and strength. */
export function MediumSection({ sitter }: { sitter: Sitter }) {
  const settings = sitter.settings.flesh;
  const library = useLibrary();
  const { change } = useChange(sitter, "flesh");
  const medium = library.data?.media.find((m) => m.name === settings.medium);
  const own = settings.wait_minutes !== null || settings.open_minutes !== null;
  return (
    <Section title="Medium">
      <TextField
        select
        fullWidth
        size="small"
        label="Medium"
        value={settings.medium}
        onChange={(e) =>
          // Another medium's times and strength are not this one's.
          change(
            {
              medium: e.target.value as MediumName,
              wait_minutes: null,
              open_minutes: null,
              strength: null,
            },
            `Medium: ${e.target.value}`,
          )
        }
        sx={{ mb: 1 }}
      >
        {(library.data?.media ?? []).map((m) => (
          <MenuItem key={m.name} value={m.name}>
            {m.name}
          </MenuItem>
        ))}
      </TextField>
      {medium && (
        <>
          <Facts medium={medium} />
          <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
            <NumberField
              label="Wait"
              unit="min"
              value={settings.wait_minutes ?? medium.wait_minutes}
              least={0}
              most={90 * 24 * 60}
              onChange={(v) => change({ wait_minutes: v }, `Wait ${spoken(v)}`)}
            />
            <NumberField
              label="Open time"
              unit="min"
              value={settings.open_minutes ?? medium.open_minutes[1]}
              least={0}
              most={14 * 24 * 60}
              onChange={(v) => change({ open_minutes: v }, `Open time ${spoken(v)}`)}
            />
          </Box>
          {own && (
            <Button
              color="inherit"
              size="small"
              onClick={() => change({ wait_minutes: null, open_minutes: null }, "Times as usual")}
            >
              Times as usual
            </Button>
          )}
          <Strength sitter={sitter} medium={medium} />
        </>
      )}
    </Section>
  );
}

/** How strong thin layers are: as usual, or by a swatch that the painter thinned and read dry. */
function Strength({ sitter, medium }: { sitter: Sitter; medium: Schemas["MediumOut"] }) {
  const settings = sitter.settings.flesh;
  const tubes = useTubes(sitter);
  const notice = useNotice();
  const { change } = useChange(sitter, "flesh");
  const [{ count }] = useLadderWay();
  const [tube, setTube] = useState("");
  const [parts, setParts] = useState(20);
  const [read, setRead] = useState("");
  const value = counted(Number(read.replace(",", ".")), count);
  const good = tube !== "" && read.trim() !== "" && value >= 0 && value <= 10;
  const take = async () => {
    try {
      const found = await call<Schemas["StrengthOut"]>(
        `${base(sitter.id)}/flesh/strength?tube=${tube}&thinner=${parts}&value=${value.toFixed(3)}`,
      );
      change({ strength: found.strength }, "Strength of thin layers by a swatch");
      setRead("");
    } catch (error) {
      notice((error as Error).message);
    }
  };
  return (
    <Box sx={{ mt: 1.5 }}>
      <Say quiet>
        {settings.strength === null
          ? `Thin layers are reckoned as strong as usual. Lay one tube thinned on white paper, let it dry, read it:`
          : `Thin layers are ${(settings.strength / medium.strength).toFixed(2)} times as strong as usual, by your swatch.`}
      </Say>
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1, mt: 1 }}>
        <TextField
          select
          size="small"
          label="Tube"
          value={tube}
          onChange={(e) => setTube(e.target.value)}
          sx={{ gridColumn: "1 / -1" }}
        >
          {settings.tubes.map((key) => (
            <MenuItem key={key} value={key}>
              {tubes.get(key)?.name ?? key}
            </MenuItem>
          ))}
        </TextField>
        <NumberField
          label={`1 to … of ${medium.thinner}`}
          value={parts}
          least={0}
          most={medium.most_thinner}
          whole
          onChange={setParts}
        />
        <TextField
          size="small"
          label="Dry value"
          value={read}
          onChange={(e) => setRead(e.target.value)}
          slotProps={{ htmlInput: { inputMode: "decimal" } }}
        />
      </Box>
      <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
        <Button color="inherit" variant="outlined" disabled={!good} onClick={() => void take()}>
          Take the swatch
        </Button>
        {settings.strength !== null && (
          <Button color="inherit" onClick={() => change({ strength: null }, "Strength as usual")}>
            As usual
          </Button>
        )}
      </Box>
    </Box>
  );
}
