import { Box, Button, Checkbox, FormControlLabel, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useEffect, useRef, useState } from "react";
import { base } from "../../api/client";
import { useChange, useValues } from "../../api/hooks";
import { Handle, Say, Section } from "../../sheet/parts";
import { Workspace, type StageProps } from "../../sitter/Workspace";

/** Value groups: how many, where they are cut, and what they come to on the canvas. */
export function ValuesStage({ sitter, look, onLook }: StageProps) {
  const settings = sitter.settings.values;
  const values = useValues(sitter);
  const { change, isPending } = useChange(sitter, "values");
  const [hand, setHand] = useState<number[] | null>(null);
  const preview = usePreview(sitter.id, hand);
  const mode = settings.mode ?? "fit";
  const count = settings.groups ?? 5;
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
  const drop = (next: number[]) => {
    setHand(next);
    onLook({ ...look, picture: "groups" });
    change({ mode: "own", groups: next.length + 1, cuts: next }, "Move a cut");
  };
  const choose = (next: "even" | "fit" | "own") => {
    setHand(null);
    change({ mode: next, cuts: next === "own" ? cuts : [], groups: next === "own" ? cuts.length + 1 : count }, `Cuts: ${next}`);
  };

  const sheet = (
    <>
      <Section title="Cuts">
        <ToggleButtonGroup exclusive fullWidth value={mode} aria-label="How cuts are found" onChange={(_, v: typeof mode | null) => v && choose(v)} sx={{ mb: 1.5 }}>
          <ToggleButton value="fit">Best fit</ToggleButton>
          <ToggleButton value="even">Even</ToggleButton>
          <ToggleButton value="own">Own</ToggleButton>
        </ToggleButtonGroup>
        <Handle label="Groups" value={count} least={2} most={9} step={1} onChange={(v) => { setHand(null); change({ groups: v, mode: mode === "own" ? "fit" : mode, cuts: [] }, `${v} groups`); }} />
        <Handle label="Smallest shape to paint" value={settings.smallest_mm ?? 4} least={0} most={20} step={0.5} shown={(v) => `${v} mm`} onChange={(v) => change({ smallest_mm: v }, `Smallest shape ${v} mm`)} />
        <FormControlLabel control={<Checkbox color="default" checked={settings.weigh_sitter ?? true} onChange={(_, on) => change({ weigh_sitter: on }, on ? "Fit to the sitter" : "Fit to the whole picture")} />} label="Best fit follows the sitter more than the background" slotProps={{ typography: { sx: { fontSize: 14.5, lineHeight: 1.3 } } }} />
        <Say quiet>Drag a rung of the ladder, or choose it and press the arrow keys. Eyes, nostrils and mouth may hold smaller shapes.</Say>
      </Section>
      <Section title="Groups">
        {values.isError && <Say>{values.error.message}</Say>}
        <Box component="table" aria-label="Value groups" sx={{ width: "100%", borderCollapse: "collapse", fontSize: 15, "& td, & th": { py: 0.7, textAlign: "right", fontWeight: "inherit" }, "& td:nth-of-type(1), & td:nth-of-type(2), & th:nth-of-type(2)": { textAlign: "left" } }}>
          <thead>
            <Box component="tr" sx={{ color: "text.secondary", fontSize: 13 }}><th aria-label="Grey" /><th>group</th><th>value</th><th>share</th><th>cm²</th></Box>
          </thead>
          <tbody>
            {[...(values.data?.plan.groups ?? [])].reverse().map((g) => (
              <Box component="tr" key={g.index} sx={{ borderTop: 1, borderColor: "divider" }}>
                <td style={{ width: 44 }}><Box sx={{ width: 34, height: 26, bgcolor: grey(g.lab[0]) }} /></td>
                <td>{g.index + 1} {g.name}</td>
                <td><strong>{g.value.toFixed(1)}</strong></td>
                <td>{(g.share * 100).toFixed(0)} %</td>
                <td>{g.area_cm2.toFixed(0)}</td>
              </Box>
            ))}
          </tbody>
        </Box>
      </Section>
      <Section title="Take away">
        <Box sx={{ display: "flex", gap: 1 }}>
          <Button color="inherit" variant="outlined" fullWidth href={`${base(sitter.id)}/files/outlines.svg`}>Outlines, SVG</Button>
          <Button color="inherit" variant="outlined" fullWidth href={`${base(sitter.id)}/files/groups.png`}>Groups, PNG</Button>
        </Box>
      </Section>
    </>
  );
  return (
    <Workspace sitter={sitter} look={look} onLook={onLook} sheet={sheet} cuts={cuts}
      picture={hand ? preview : undefined} busy={values.isFetching || isPending}
      onDragCut={(next) => { kept.current = false; setHand(next); }} onDropCut={drop} />
  );
}

/** L* as the nearest screen grey: CSS knows the colour space itself. */
const grey = (lightness: number) => `lab(${lightness.toFixed(1)}% 0 0)`;

/** The newest preview of cuts under the hand: one request at a time, the last position always follows. */
function usePreview(id: string, cuts: number[] | null) {
  const [url, setUrl] = useState<string | null>(null);
  const flying = useRef(false);
  const waiting = useRef<number[] | null>(null);
  useEffect(() => {
    let alive = true;
    const fetchNext = async () => {
      const next = waiting.current;
      if (!next || flying.current) return;
      waiting.current = null;
      flying.current = true;
      try {
        const answer = await fetch(`${base(id)}/values/preview?cuts=${next.join(",")}`);
        if (answer.ok && alive) {
          const made = URL.createObjectURL(await answer.blob());
          setUrl((old) => {
            if (old) URL.revokeObjectURL(old);
            return made;
          });
        }
      } finally {
        flying.current = false;
        if (alive) void fetchNext();
      }
    };
    if (cuts) {
      waiting.current = cuts;
      void fetchNext();
    }
    return () => {
      alive = false;
    };
  }, [id, cuts]);
  return url;
}
