import { Box, MenuItem, Slider, TextField, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useEffect, useState } from "react";
import { Group, Image as KonvaImage, Line } from "react-konva";
import { useImage } from "../../picture/useImage";
import type { Size } from "../../picture/useView";
import { Say, Section, Toggle } from "../../sheet/parts";
import { usePlaces } from "../../sheet/places";
import { Row } from "../../sheet/Row";
import { useWall } from "../../sitter/wall";
import { useStored } from "../../sitter/stored";
import type { JobProps } from "../job";
import { RemedyList } from "./RemedyList";
import { easelUrl, PaintingSelect, stateOf, useBetween, useComparison, usePainting } from "./usePainting";

type Way = "painting" | "plan" | "difference" | "split" | "blink" | "beside";
const ways: readonly { key: Way; label: string }[] = [
  { key: "painting", label: "painting" },
  { key: "plan", label: "plan" },
  { key: "difference", label: "steps" },
  { key: "split", label: "split" },
  { key: "blink", label: "blink" },
  { key: "beside", label: "beside" },
];
/** What the ways are called while there is no paint. */
const drawn: Partial<Record<Way, string>> = { painting: "drawing", plan: "outlines" };
/** Slow enough for anybody's eyes. */
const BLINK_MS = 900;

/** What is off, the heaviest first, each on the picture and with what to do about it. */
export function CompareJob({ sitter }: JobProps) {
  const { paintings, painting, choose } = usePainting(sitter);
  const found = useComparison(sitter, painting);
  const [way, setWay] = useStored<Way>("easel-way", "painting");
  const [squint, setSquint] = useStored("easel-squint", false);
  const [border, setBorder] = useState(0.5);
  const [other, setOther] = useState(false);
  const [secondKey, setSecond] = useState("");
  const second = paintings.find((p) => p.key === secondKey && p.key !== painting?.key);
  const two = useBetween(sitter, painting, second?.key ?? "");
  const drawing = painting?.against === "drawing";
  useEffect(() => {
    if (way !== "blink") return;
    const timer = setInterval(() => setOther((o) => !o), BLINK_MS);
    return () => clearInterval(timer);
  }, [way]);
  const findings = (found.data?.findings ?? []).map((f) => ({
    ...f,
    name: f.place,
    place: String(f.number),
  }));
  const rows = (two.data ?? [])
    .filter((r) => !r.alike)
    .map((r, n) => ({ ...r, number: n + 1, place: String(n + 1) }));
  const places = usePlaces<{ place: string; x: number; y: number }>(second ? rows : findings);
  const more: Record<string, string> = squint ? { squint: "true" } : {};
  const own = easelUrl(sitter, painting, "painting", more);
  const plan = second ? easelUrl(sitter, second, "painting", more) : easelUrl(sitter, painting, "plan", more);
  const shown =
    way === "plan" || (way === "blink" && other)
      ? plan
      : way === "difference"
        ? easelUrl(sitter, painting, "difference")
        : own;
  useWall({
    picture: shown,
    busy: found.isFetching,
    ...(way === "beside" ? { beside: plan } : {}),
    overlay: (px, size) => (
      <>
        {way === "split" && <Split url={plan} at={border} size={size} px={px} />}
        {places.mark(px, size)}
      </>
    ),
    below:
      way === "split" ? (
        <Box sx={{ px: 3, bgcolor: "background.default" }}>
          <Slider
            aria-label="Border between painting and plan"
            min={0}
            max={1}
            step={0.01}
            value={border}
            onChange={(_, v) => setBorder(v)}
          />
        </Box>
      ) : null,
  });
  return (
    <>
      <PaintingSelect paintings={paintings} painting={painting} choose={choose} />
      {painting && (
        <>
          {paintings.length > 1 && (
            <TextField
              select
              fullWidth
              size="small"
              label="Held against"
              value={second?.key ?? ""}
              onChange={(e) => setSecond(e.target.value)}
              slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
              sx={{ mb: 2 }}
            >
              <MenuItem value="">what it should be</MenuItem>
              {paintings
                .filter((p) => p.key !== painting.key)
                .map((p) => (
                  <MenuItem key={p.key} value={p.key}>
                    {stateOf(p)}
                  </MenuItem>
                ))}
            </TextField>
          )}
          <ToggleButtonGroup
            exclusive
            fullWidth
            value={way}
            aria-label="Way of comparing"
            onChange={(_, v: Way | null) => v && setWay(v)}
            sx={{ flexWrap: "wrap", "& > *": { flex: "1 0 30%" } }}
          >
            {ways.map((w) => (
              <ToggleButton
                key={w.key}
                value={w.key}
                disabled={(!!second || drawing) && w.key === "difference"}
              >
                {second && w.key === "plan" ? "the other" : ((drawing ? drawn[w.key] : undefined) ?? w.label)}
              </ToggleButton>
            ))}
          </ToggleButtonGroup>
          <Toggle label="Squint" on={squint} onChange={setSquint} />
          {way === "difference" && (
            <Say quiet>
              Rising white lines: too light. Falling black ones: too dark. The closer, the more. Dotted: under
              gloss.
            </Say>
          )}
          {second && (
            <Section title="How they differ">
              {two.isPending && <Say quiet>Holding one against the other …</Say>}
              {two.isError && <Say>{two.error.message}</Say>}
              <Box component="ol" aria-label="Differences" sx={{ listStyle: "none", p: 0, m: 0 }}>
                {rows.map((r) => (
                  <li key={r.place}>
                    <Row pressed={places.chosen?.place === r.place} onClick={() => places.choose(r.place)}>
                      <Box component="span" sx={{ width: 22, flex: "none" }}>
                        {r.number}
                      </Box>
                      <span>{r.words}</span>
                    </Row>
                  </li>
                ))}
              </Box>
              {two.data && (
                <Say quiet>
                  {rows.length === two.data.length
                    ? "No place is alike in both."
                    : `Alike in both: ${two.data
                        .filter((r) => r.alike)
                        .map((r) => r.place)
                        .join(", ")}.`}
                </Say>
              )}
            </Section>
          )}
          {!second && (
            <>
              <Section title="What is off">
                {found.isPending && <Say quiet>Holding it to the plan …</Say>}
                {found.isError && <Say>{found.error.message}</Say>}
                {found.data && findings.length === 0 && (
                  <Say>
                    {drawing
                      ? "Nothing: every feature lies where it was carried over to, and no outline is missing."
                      : "Nothing that a photograph can tell: every place is within a third of a step."}
                  </Say>
                )}
                <Box component="ol" aria-label="Findings" sx={{ listStyle: "none", p: 0, m: 0 }}>
                  {findings.map((f) => {
                    const on = places.chosen?.place === f.place;
                    return (
                      <li key={f.place}>
                        <Row pressed={on} onClick={() => places.choose(f.place)}>
                          <Box component="span" sx={{ width: 22, flex: "none" }}>
                            {f.number}
                          </Box>
                          <span>{f.words}</span>
                        </Row>
                        {on && <RemedyList sitter={sitter} painting={painting} finding={f} />}
                      </li>
                    );
                  })}
                </Box>
              </Section>
              {found.data && (
                <Section title="What holds">
                  {found.data.holds.map((h) => (
                    <Say quiet key={h}>
                      {h}
                    </Say>
                  ))}
                </Section>
              )}
            </>
          )}
        </>
      )}
    </>
  );
}

/** The plan to the right of a border, over the painting. */
function Split({ url, at, size, px }: { url: string | null; at: number; size: Size; px: number }) {
  const { image } = useImage(url);
  if (!image) return null;
  const x = at * size.width;
  return (
    <>
      <Group clipX={x} clipY={0} clipWidth={size.width - x} clipHeight={size.height} listening={false}>
        <KonvaImage image={image} width={size.width} height={size.height} />
      </Group>
      {(["#ffffff", "#000000"] as const).map((ink, i) => (
        <Line
          key={ink}
          listening={false}
          points={[x, 0, x, size.height]}
          stroke={ink}
          strokeWidth={(i ? 1 : 3) * px}
        />
      ))}
    </>
  );
}
