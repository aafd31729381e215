import { Button, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useState } from "react";
import { pictureUrl } from "../../api/client";
import { useLocks } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import { rounded, type Spot } from "../../picture/spots";
import { Handle, Say, Section, Toggle } from "../../sheet/parts";
import { PlaceList, usePlaces } from "../../sheet/places";
import { useLeft } from "../../sitter/stored";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { LockDetails } from "./LockDetails";

type Volume = "none" | "skull" | "lock-volume" | "hair-surface" | "relief" | "lock-tones";
type Tool = "pan" | "join" | "cut" | "draw";

const volumes: readonly { key: Volume; label: string; said: string }[] = [
  { key: "none", label: "photograph", said: "The picture as the tray shows it." },
  { key: "skull", label: "skull", said: "The round of the head alone: lighter on top under a top light." },
  { key: "lock-volume", label: "locks", said: "Each lock as a band that turns in the light." },
  { key: "hair-surface", label: "surface", said: "Shine and single strands: what comes last." },
  { key: "relief", label: "skull + locks", said: "Everything but the strands: what to mass in." },
  { key: "lock-tones", label: "three tones", said: "Dark, middle and light shape inside each lock." },
];

/** The hair's three volumes, and its locks in the order of painting. */
export function LocksJob({ sitter }: JobProps) {
  const settings = sitter.settings.hair;
  const found = useLocks(sitter);
  const { change, isPending } = useChange(sitter, "hair");
  const [volume, setVolume] = useLeft<Volume>(`volume-${sitter.id}`, "lock-volume");
  const [tool, setTool] = useState<Tool>("pan");
  const [borders, setBorders] = useState(true);
  const places = usePlaces(found.data?.locks ?? []);
  const draw = (points: Spot[]) => {
    const thinned = points.filter((_, i) => i % 3 === 0 || i === points.length - 1).map(rounded);
    if (thinned.length > 1 && tool !== "pan")
      change({}, `Locks: ${tool}`, { lock_strokes: { add: [{ does: tool, points: thinned }] } });
  };
  useWall({
    tool: tool === "pan" ? "pan" : "draw",
    strokeWidth: 1,
    onStroke: draw,
    busy: found.isFetching || isPending,
    picture: volume === "none" ? undefined : pictureUrl(sitter, volume),
    veil: borders ? pictureUrl(sitter, "locks") : null,
    overlay: places.mark,
    onTray: (look) => {
      setVolume("none");
      return look;
    },
  });
  const width = settings.lock_mm ?? found.data?.width_mm ?? 12;
  return (
    <>
      <Section title="Three volumes">
        <ToggleButtonGroup
          exclusive
          fullWidth
          value={volume}
          aria-label="Volume"
          onChange={(_, v: Volume | null) => v && setVolume(v)}
          sx={{ display: "grid", gridTemplateColumns: "repeat(3, 1fr)", gap: "4px", mb: 1 }}
        >
          {volumes.map(({ key, label }) => (
            <ToggleButton
              key={key}
              value={key}
              sx={{ border: "1px solid !important", m: "0 !important", px: 0.5 }}
            >
              {label}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        <Say quiet>{volumes.find((v) => v.key === volume)?.said}</Say>
      </Section>
      <Section title="Locks">
        {found.isPending && <Say quiet>Splitting the hair into locks …</Say>}
        {found.isError && <Say>{found.error.message}</Say>}
        {found.data?.masses.length === 0 && (
          <Say>No locks: there is no hair, or it is one smooth mass. Paint it along the growth lines.</Say>
        )}
        {found.data?.masses.map((m) => (
          <Say key={m.mass}>
            <strong>{m.mass.charAt(0).toUpperCase() + m.mass.slice(1)}</strong>: {m.locks} locks,{" "}
            {m.contrast.toFixed(1)} steps from valley to ridge. {m.words}
          </Say>
        ))}
        <Toggle label="Show their borders" on={borders} onChange={setBorders} />
        <Handle
          label="Width to look for"
          value={Math.round(width * 2) / 2}
          least={3}
          most={60}
          step={0.5}
          shown={(v) => `${v} mm`}
          onChange={(v) => change({ lock_mm: v }, "Width of a lock")}
        />
        <ToggleButtonGroup
          exclusive
          fullWidth
          value={tool}
          aria-label="Tool"
          onChange={(_, v: Tool | null) => v && setTool(v)}
          sx={{ my: 1 }}
        >
          <ToggleButton value="pan">move</ToggleButton>
          <ToggleButton value="join">join</ToggleButton>
          <ToggleButton value="cut">cut</ToggleButton>
          <ToggleButton value="draw">draw</ToggleButton>
        </ToggleButtonGroup>
        <Say quiet>
          {tool === "join"
            ? "Draw across locks: all that are touched become one."
            : tool === "cut"
              ? "Draw through a lock from border to border: it is parted there."
              : tool === "draw"
                ? "Draw the spine of a lock: it is made as wide as locks are."
                : "Join, cut or draw locks where the split is wrong."}
        </Say>
        {settings.lock_strokes.length > 0 && (
          <Button
            color="inherit"
            variant="outlined"
            fullWidth
            sx={{ mb: 1 }}
            onClick={() =>
              change({}, "Locks as found", {
                lock_strokes: { start: 0, remove: settings.lock_strokes.length },
              })
            }
          >
            As found in the photograph
          </Button>
        )}
      </Section>
      <Section title="In the order of painting">
        <ToggleButtonGroup
          exclusive
          fullWidth
          value={settings.hand}
          aria-label="Hand"
          onChange={(_, v: typeof settings.hand | null) => v && change({ hand: v }, "Hand")}
          sx={{ mb: 1 }}
        >
          <ToggleButton value="right">right-handed</ToggleButton>
          <ToggleButton value="left">left-handed</ToggleButton>
        </ToggleButtonGroup>
        <PlaceList
          of={found.data?.locks ?? []}
          places={places}
          right={(l) => `${l.type}, ${l.width_mm.toFixed(0)} × ${l.length_mm.toFixed(0)} mm`}
          more={(l) => <LockDetails sitter={sitter} lock={l} />}
        />
        <Say quiet>
          What lies beneath comes first; after that the order spares what is still wet. Locks of hardly
          different colour share a mixture.
        </Say>
      </Section>
    </>
  );
}
