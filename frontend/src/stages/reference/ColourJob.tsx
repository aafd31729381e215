import { Button } from "@mui/material";
import { useState } from "react";
import { base, call, pictureUrl, type Schemas } from "../../api/client";
import { useCondition } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import type { Spot } from "../../picture/spots";
import { Handle, Say, Section, Toggle } from "../../sheet/parts";
import { useNotice } from "../../sitter/notice";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";

/** The photograph's colour: grey balance, exposure, ends, and what it has lost. */
export function ColourJob({ sitter }: JobProps) {
  const settings = sitter.settings.reference;
  const condition = useCondition(sitter);
  const notice = useNotice();
  const { change, isPending } = useChange(sitter, "reference");
  const [grey, setGrey] = useState(false);
  const [shadows, setShadows] = useState(false);
  const [lost, setLost] = useState(false);
  const balance = settings.balance;
  const changed =
    balance.some((v) => v !== 1) ||
    settings.exposure !== 0 ||
    settings.black !== 0 ||
    settings.white !== 10 ||
    settings.untinted;
  const { data: found } = condition;
  const bySkin = found?.balance;
  const neutral = async (spot: Spot) => {
    try {
      const found = await call<Schemas["BalanceOut"]>(
        `${base(sitter.id)}/reference/neutral?x=${spot[0].toFixed(4)}&y=${spot[1].toFixed(4)}`,
      );
      change({ balance: found.balance }, "Grey balance");
      setGrey(false);
    } catch (error) {
      notice((error as Error).message);
    }
  };
  const tint = [
    ["red", balance[0]],
    ["green", balance[1]],
    ["blue", balance[2]],
  ] as const;
  const sheet = (
    <>
      <Section title="What the photograph is worth">
        {found?.sentences.map((sentence) => <Say key={sentence}>{sentence}</Say>) ?? (
          <Say>{condition.isError ? condition.error.message : "Looking …"}</Say>
        )}
        {(found?.tinted || settings.untinted) && (
          <Toggle
            label="Take the tint out"
            on={settings.untinted}
            onChange={(untinted) => change({ untinted }, "Tint")}
          />
        )}
        {bySkin && balance.every((v) => v === 1) && (
          <Button
            color="inherit"
            variant="outlined"
            fullWidth
            onClick={() => change({ balance: bySkin }, "Balance by the skin")}
          >
            Balance by the skin
          </Button>
        )}
        {found && found.exposure !== 0 && settings.exposure === 0 && (
          <Button
            color="inherit"
            variant="outlined"
            fullWidth
            onClick={() => change({ exposure: found.exposure }, "Exposure")}
          >
            {found.exposure > 0 ? "Raise" : "Lower"} the middle by {Math.abs(found.exposure).toFixed(1)} steps
          </Button>
        )}
        <Toggle label="Hatch what is lost" on={lost} onChange={setLost} />
        <Toggle label="Open the shadows, to look only" on={shadows} onChange={setShadows} />
      </Section>
      <Section title="Grey balance">
        <Say quiet>Press on something that is neutral grey in truth: a grey patch, a wall, a grey cloth.</Say>
        <Button
          color="inherit"
          variant={grey ? "contained" : "outlined"}
          aria-pressed={grey}
          fullWidth
          onClick={() => setGrey(!grey)}
        >
          {grey ? "Now press on a grey" : "Pick a grey"}
        </Button>
        <Say quiet>
          {balance.every((v) => v === 1)
            ? "Not balanced yet."
            : `Light changed by ${tint.map(([name, v]) => `${name} ${((v - 1) * 100).toFixed(0)} %`).join(", ")}.`}
        </Say>
      </Section>
      <Section title="Exposure and ends">
        <Handle
          label="Middle values moved by"
          value={settings.exposure}
          least={-2}
          most={2}
          step={0.1}
          shown={(v) => `${v > 0 ? "+" : v < 0 ? "−" : ""}${Math.abs(v).toFixed(1)} steps`}
          onChange={(v) => change({ exposure: v }, "Exposure")}
        />
        <Handle
          label="Black point"
          value={settings.black}
          least={0}
          most={3}
          step={0.1}
          shown={(v) => `value ${v.toFixed(1)} becomes 0`}
          onChange={(v) => change({ black: v }, "Black point")}
        />
        <Handle
          label="White point"
          value={settings.white}
          least={7}
          most={10}
          step={0.1}
          shown={(v) => `value ${v.toFixed(1)} becomes 10`}
          onChange={(v) => change({ white: v }, "White point")}
        />
        {changed && (
          <Button
            color="inherit"
            variant="outlined"
            fullWidth
            onClick={() =>
              change(
                { balance: [1, 1, 1], exposure: 0, black: 0, white: 10, untinted: false },
                "Photograph's own colour",
              )
            }
          >
            Back to the photograph&rsquo;s own colour
          </Button>
        )}
      </Section>
    </>
  );
  useWall({
    busy: isPending,
    tool: grey ? "pick" : "pan",
    onPick: (spot) => void neutral(spot),
    ...(shadows ? { picture: pictureUrl(sitter, "shadows") } : {}),
    veil: lost ? pictureUrl(sitter, "clipped") : null,
  });
  return sheet;
}
