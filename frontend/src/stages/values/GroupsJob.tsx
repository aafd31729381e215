import {
  Box,
  Button,
  Checkbox,
  FormControlLabel,
  MenuItem,
  TextField,
  ToggleButton,
  ToggleButtonGroup,
} from "@mui/material";
import { useEffect, useRef, useState } from "react";
import { base, call } from "../../api/client";
import { useValues } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import { Downloads, useFileUrl } from "../../sheet/Download";
import { Handle, Say, Section } from "../../sheet/parts";
import { Value } from "../../sheet/Value";
import { useLadderWay } from "../../sitter/ladderWay";
import { useNotice } from "../../sitter/notice";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { usePreview } from "./usePreview";
import { textSize } from "../../theme";

/** How many groups, where they are cut, what they are called, and what they come to on the canvas. */
export function GroupsJob({ sitter, look, onLook }: JobProps) {
  const settings = sitter.settings.values;
  const values = useValues(sitter);
  const notice = useNotice();
  const { change, isPending } = useChange(sitter, "values");
  const [way, setWay] = useLadderWay();
  const [hand, setHand] = useState<number[] | null>(null);
  const preview = usePreview(sitter.id);
  const file = useFileUrl(sitter);
  const mode = settings.mode;
  const exactness = sitter.settings.passes.exactness;
  const count = settings.groups;
  const locked = settings.locked;
  const fresh = values.data && !values.isPlaceholderData;
  const cuts = hand ?? (mode === "own" ? settings.cuts : undefined) ?? values.data?.plan.cuts ?? [];

  // A cut let go stays under the hand until the finished groups have come, or until it is taken back.
  const kept = useRef(false);
  const inForce = hand !== null && mode === "own" && String(settings.cuts) === String(hand);
  useEffect(() => {
    const finished = inForce && fresh && !isPending && String(values.data.plan.cuts) === String(hand);
    const takenBack = kept.current && !inForce;
    kept.current = inForce;
    if (finished || takenBack) setHand(null);
  }, [hand, inForce, fresh, isPending, values.data]);

  const { clear } = preview;
  useEffect(() => {
    if (hand === null) clear();
  }, [hand, clear]);

  const own = (next: number[], words: string) =>
    change({ mode: "own", groups: next.length + 1, cuts: next, joins: [] }, words);
  const drop = (next: number[]) => {
    preview.ask(next);
    setHand(next);
    onLook({ ...look, picture: "groups" });
    own(next, "Move a cut");
  };
  const choose = (next: "even" | "fit" | "own") => {
    setHand(null);
    if (next === "own") own(cuts, "Own cuts");
    else change({ mode: next, cuts: [], groups: count }, next === "even" ? "Even cuts" : "Best-fit cuts");
  };
  const groups = (v: number) => {
    setHand(null);
    change(
      { groups: v, mode: mode === "own" ? "fit" : mode, cuts: [], locked: locked.slice(0, v - 1), joins: [] },
      v === 2 ? "Notan" : `${v} groups`,
    );
  };
  const split = async (group: number) => {
    try {
      const next = await call<number[]>(`${base(sitter.id)}/values/split?group=${group}`);
      // The lighter half is new: names above it move up with their groups.
      const names =
        settings.names.length > group + 1 ? settings.names.toSpliced(group + 1, 0, "") : settings.names;
      change(
        { mode: "own", groups: next.length + 1, cuts: next, joins: [], names: names.slice(0, 9) },
        `Split group ${group + 1}`,
      );
    } catch (error) {
      notice((error as Error).message);
    }
  };
  const merge = async (group: number) => {
    try {
      const gone = cuts[group];
      const next = await call<number[]>(`${base(sitter.id)}/values/merge?group=${group}`);
      const names = settings.names.filter((_, i) => i !== group + 1);
      const locks = locked.filter((v) => gone === undefined || Math.abs(v - gone) >= 0.006);
      setHand(null);
      change(
        { mode: "own", groups: next.length + 1, cuts: next, joins: [], names, locked: locks },
        `Merge groups ${group + 1} and ${group + 2}`,
      );
    } catch (error) {
      notice((error as Error).message);
    }
  };
  const lock = (cut: number) => {
    const held = locked.some((v) => Math.abs(v - cut) < 0.006);
    const next = held
      ? locked.filter((v) => Math.abs(v - cut) >= 0.006)
      : [...locked, cut].sort((a, b) => a - b);
    change(
      { locked: next, mode: "fit", cuts: [] },
      held ? "Free a cut" : `Lock the cut at ${cut.toFixed(2)}`,
    );
  };
  const rename = (group: number, name: string) => {
    const names = Array.from({ length: count }, (_, i) => settings.names?.[i] ?? "");
    names[group] = name;
    change({ names }, `Call group ${group + 1} ${name || "as usual"}`);
  };

  const sheet = (
    <>
      <Section title="Cuts">
        <ToggleButtonGroup
          exclusive
          fullWidth
          value={mode}
          aria-label="How cuts are found"
          onChange={(_, v: typeof mode | null) => v && choose(v)}
          sx={{ mb: 1.5 }}
        >
          <ToggleButton value="fit">Best fit</ToggleButton>
          <ToggleButton value="even">Even</ToggleButton>
          <ToggleButton value="own">Own</ToggleButton>
        </ToggleButtonGroup>
        <Handle
          label={count === 2 ? "Groups (notan)" : "Groups"}
          value={count}
          least={2}
          most={9}
          step={1}
          onChange={groups}
        />
        <Handle
          label="Smallest shape to paint"
          value={settings.smallest_mm}
          least={0}
          most={20}
          step={0.5}
          shown={(v) => `${v} mm`}
          onChange={(v) => change({ smallest_mm: v }, `Smallest shape ${v} mm`)}
        />
        {exactness !== "portrait" && fresh && (
          <Say>
            As a {exactness}: {values.data.smallest_mm.toFixed(1)} mm.
          </Say>
        )}
        <Handle
          label="… in eyes, nostrils and mouth"
          value={settings.features_mm}
          least={0}
          most={10}
          step={0.1}
          shown={(v) => `${v.toFixed(1)} mm`}
          onChange={(v) => change({ features_mm: v }, `Smallest feature ${v} mm`)}
        />
        <FormControlLabel
          control={
            <Checkbox
              color="default"
              checked={settings.weigh_sitter}
              onChange={(_, on) =>
                change({ weigh_sitter: on }, on ? "Fit to the sitter" : "Fit to the whole picture")
              }
            />
          }
          label="Best fit follows the sitter more than the background"
          slotProps={{ typography: { sx: { fontSize: textSize.small, lineHeight: 1.3 } } }}
        />
        <Say quiet>Drag a rung of the ladder, or choose it and press the arrow keys.</Say>
      </Section>
      <Section title="Groups, light to dark">
        {values.isError && <Say>{values.error.message}</Say>}
        {[...(values.data?.plan.groups ?? [])].reverse().map((g) => {
          const above = cuts[g.index];
          const isLocked = above !== undefined && locked.some((v) => Math.abs(v - above) < 0.006);
          return (
            <Box key={g.index} data-testid="group">
              {above !== undefined && (
                <Box
                  sx={{
                    display: "flex",
                    alignItems: "center",
                    justifyContent: "space-between",
                    fontSize: textSize.fine,
                    color: "text.secondary",
                  }}
                >
                  <Box sx={{ flex: 1, height: "1px", bgcolor: "divider", mr: 1 }} />
                  <Button
                    color="inherit"
                    size="small"
                    aria-pressed={isLocked}
                    onClick={() => lock(above)}
                    sx={{
                      minHeight: 32,
                      "@media (pointer: coarse)": { minHeight: 44 },
                      fontSize: textSize.fine,
                      fontWeight: isLocked ? 700 : 400,
                    }}
                  >
                    {isLocked ? "locked" : "lock"} <Value of={above} />
                  </Button>
                  <Button
                    color="inherit"
                    size="small"
                    disabled={count <= 2}
                    aria-label={`Merge groups ${g.index + 1} and ${g.index + 2}`}
                    onClick={() => void merge(g.index)}
                    sx={{
                      minHeight: 32,
                      "@media (pointer: coarse)": { minHeight: 44 },
                      fontSize: textSize.fine,
                      fontWeight: 400,
                    }}
                  >
                    merge
                  </Button>
                </Box>
              )}
              <Box sx={{ display: "flex", gap: 1, alignItems: "center", fontSize: textSize.body }}>
                <Box
                  sx={{ width: 34, height: 34, flex: "none", bgcolor: `lab(${g.lab[0].toFixed(1)}% 0 0)` }}
                />
                <strong>{g.index + 1}</strong>
                <GroupName name={g.name} onName={(name) => rename(g.index, name)} />
                <Box sx={{ textAlign: "right", whiteSpace: "nowrap", fontSize: textSize.small }}>
                  <strong>
                    <Value of={g.value} />
                  </strong>
                  , {(g.share * 100).toFixed(0)} %<br />
                  {g.area_cm2.toFixed(0)} cm²
                </Box>
                <Button
                  color="inherit"
                  size="small"
                  disabled={count >= 9}
                  aria-label={`Split group ${g.index + 1}`}
                  onClick={() => void split(g.index)}
                  sx={{ minWidth: 44, fontWeight: 400, fontSize: textSize.fine }}
                >
                  split
                </Button>
              </Box>
            </Box>
          );
        })}
      </Section>
      <Section title="Ladder">
        <TextField
          select
          fullWidth
          size="small"
          label="Numbering"
          value={way.count}
          sx={{ mb: 1.5 }}
          onChange={(e) => setWay({ ...way, count: e.target.value as typeof way.count })}
        >
          <MenuItem value="up">0 black to 10 white</MenuItem>
          <MenuItem value="down">1 light to 9 dark</MenuItem>
        </TextField>
        <TextField
          select
          fullWidth
          size="small"
          label="Histogram"
          value={way.of}
          onChange={(e) => setWay({ ...way, of: e.target.value as typeof way.of })}
        >
          <MenuItem value="picture">of the whole picture</MenuItem>
          <MenuItem value="sitter">of the sitter</MenuItem>
        </TextField>
      </Section>
      <Section title="Download">
        <Downloads
          files={[
            { label: "Outlines, SVG", href: file("outlines.svg") },
            { label: "Groups, PNG", href: file("view.png", { view: "groups" }) },
          ]}
        />
        <Downloads
          files={[
            {
              label: "Outlines, grid and edges, SVG",
              href: file("outlines.svg", { grid: true, edges: true }),
            },
          ]}
        />
      </Section>
    </>
  );
  useWall({
    cuts,
    locked,
    ...(hand && preview.url ? { picture: preview.url } : {}),
    busy: values.isFetching || isPending,
    onDragCut: (next) => {
      preview.ask(next);
      kept.current = false;
      setHand(next);
    },
    onDropCut: drop,
  });
  return sheet;
}

function GroupName({ name, onName }: { name: string; onName: (name: string) => void }) {
  const [text, setText] = useState(name);
  useEffect(() => setText(name), [name]);
  const take = () => {
    if (text.trim() !== name) onName(text.trim());
  };
  return (
    <TextField
      variant="standard"
      value={text}
      onChange={(e) => setText(e.target.value)}
      onBlur={take}
      onKeyDown={(e) => e.key === "Enter" && take()}
      slotProps={{
        htmlInput: { "aria-label": `Name of the group ${name}`, maxLength: 30 },
        input: { disableUnderline: true },
      }}
      sx={{ flex: 1, minWidth: 0, "& input": { fontSize: textSize.body, py: 1.2 } }}
    />
  );
}
