import { Box, Button, MenuItem, TextField } from "@mui/material";
import { useOutlines, useShapes, useValues } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import { ShapeOverlay } from "../../picture/Overlays";
import type { Spot } from "../../picture/spots";
import { Downloads, useFileUrl } from "../../sheet/Download";
import { Say, Section } from "../../sheet/parts";
import { Row } from "../../sheet/Row";
import { Value } from "../../sheet/Value";
import { useLeft } from "../../sitter/stored";
import { useWall } from "../../sitter/wall";
import type { JobProps } from "../job";
import { textSize } from "../../theme";

/** Every shape can be picked, read and given to a neighbour's group. */
export function ShapesJob({ sitter }: JobProps) {
  const shapes = useShapes(sitter);
  const outlines = useOutlines(sitter);
  const values = useValues(sitter);
  const file = useFileUrl(sitter);
  const { change, isPending } = useChange(sitter, "values");
  const [at, setAt] = useLeft<Spot | null>(`shape-${sitter.id}`, null);
  const joins = sitter.settings.values.joins;
  const names = new Map(values.data?.plan.groups.map((g) => [g.index, `${g.index + 1} ${g.name}`]));
  const number = at && outlines.data ? shapeAt(at, outlines.data) : null;
  const shape = shapes.data?.find((s) => s.number === number);
  const largest = [...(shapes.data ?? [])].sort((a, b) => b.area_mm2 - a.area_mm2).slice(0, 8);
  const around = shape
    ? [...new Set(shape.neighbours.map((n) => shapes.data?.find((s) => s.number === n)?.group))].filter(
        (g): g is number => g !== undefined && g !== shape.group,
      )
    : [];
  const sheet = (
    <>
      <Section title="A shape">
        {!shape && (
          <Say quiet>{shapes.isPending ? "Listing the shapes …" : "Press on a shape of the picture."}</Say>
        )}
        {shape && (
          <>
            <Box sx={{ display: "flex", gap: 1.5, alignItems: "center", mb: 1 }}>
              <Box
                role="img"
                aria-label={`Mean colour ${shape.hex}`}
                sx={{ width: 92, height: 56, bgcolor: shape.hex, flex: "none" }}
              />
              <Box sx={{ fontSize: textSize.body }}>
                <strong>{shape.place}</strong>
                <br />
                group {names.get(shape.group)}, {shape.region}
              </Box>
            </Box>
            <Say>
              Value{" "}
              <strong>
                <Value of={shape.value} />
              </strong>
              ; <strong>{area(shape.area_mm2)}</strong> on the canvas; the largest brush that fits is{" "}
              <strong>{shape.brush_mm} mm</strong>. It touches {shape.neighbours.length}{" "}
              {shape.neighbours.length === 1 ? "shape" : "shapes"}.
            </Say>
            {around.length > 0 && (
              <TextField
                select
                fullWidth
                size="small"
                label="Give it to the group of a neighbour"
                value=""
                onChange={(e) =>
                  change({}, `Join a shape to group ${Number(e.target.value) + 1}`, {
                    joins: { add: [{ x: shape.x, y: shape.y, group: Number(e.target.value) }] },
                  })
                }
              >
                {around.sort().map((g) => (
                  <MenuItem key={g} value={g}>
                    {names.get(g)}
                  </MenuItem>
                ))}
              </TextField>
            )}
          </>
        )}
        {joins.length > 0 && (
          <Button
            color="inherit"
            variant="outlined"
            fullWidth
            sx={{ mt: 1 }}
            onClick={() => change({}, "Undo all joins", { joins: { start: 0, remove: joins.length } })}
          >
            Undo {joins.length === 1 ? "the join" : `all ${joins.length} joins`}
          </Button>
        )}
      </Section>
      <Section title="Largest shapes">
        {shapes.isError && <Say>{shapes.error.message}</Say>}
        {shapes.data && <Say quiet>{shapes.data.length} shapes in all.</Say>}
        {largest.map((s) => (
          <Row key={s.number} pressed={s.number === number} onClick={() => setAt([s.x, s.y])}>
            <Box aria-hidden sx={{ width: 30, height: 26, bgcolor: s.hex }} />
            <Box sx={{ flex: 1 }}>{s.place}</Box>
            <span>{area(s.area_mm2)}</span>
          </Row>
        ))}
      </Section>
      <Section title="Download">
        <Downloads files={[{ label: "All shapes, CSV", href: file("shapes.csv") }]} />
      </Section>
    </>
  );
  useWall({
    force: { outlines: true },
    tool: "pick",
    onPick: setAt,
    busy: isPending || shapes.isFetching,
    overlay: (px, size) =>
      outlines.data &&
      number !== null && <ShapeOverlay outlines={outlines.data} shape={number} size={size} px={px} />,
  });
  return sheet;
}

const area = (mm2: number) => (mm2 >= 100 ? `${(mm2 / 100).toFixed(1)} cm²` : `${mm2.toFixed(0)} mm²`);

/** Number of the shape under a spot: the browser's own test of points in paths. */
function shapeAt(
  spot: Spot,
  outlines: { width: number; height: number; outlines: { shape: number; path: string }[] },
): number | null {
  const context = document.createElement("canvas").getContext("2d");
  if (!context) return null;
  const [x, y] = [spot[0] * outlines.width, spot[1] * outlines.height];
  return (
    outlines.outlines.find((o) => context.isPointInPath(new Path2D(o.path), x, y, "evenodd"))?.shape ?? null
  );
}
