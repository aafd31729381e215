import { Box, Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { base, send, type Schemas } from "../../api/client";
import { useComputed } from "../../api/hooks";
import { useChange } from "../../api/useChange";
import { Downloads, useFileUrl } from "../../sheet/Download";
import { NumberField, Say, Section } from "../../sheet/parts";
import type { JobProps } from "../job";

/** The reference on paper at the canvas's size, and a wedge that puts the printer right. */
export function PrintJob({ sitter }: JobProps) {
  const printer = useComputed<Schemas["WedgeOut"]>(sitter, "easel/printer");
  const { change, isPending: saving } = useChange(sitter, "easel");
  const file = useFileUrl(sitter);
  const meter = useMutation({
    mutationFn: (corrected: boolean) =>
      send<[number, number][]>("POST", `${base(sitter.id)}/easel/printer/meter`, { corrected }),
  });
  const pairs = sitter.settings.easel.printer;
  const steps = printer.data?.steps ?? [];
  const read = new Map(pairs);
  const worst = meter.data && Math.max(...meter.data.map(([a, b]) => off(a, b, printer.data)));
  return (
    <>
      <Section title="Reference on paper">
        <Say quiet>At the canvas’s size, on sheets that overlap. Compare painting and print by one lamp.</Say>
        <Downloads
          files={[
            { label: "In colour", href: file("reference.pdf", { kind: "colour" }) },
            { label: "In grey", href: file("reference.pdf", { kind: "grey" }) },
          ]}
        />
      </Section>
      <Section title="The printer">
        <Say>
          {pairs.length === 0
            ? "Print the wedge, read its steps, and the reference is printed through the printer’s own curve."
            : `Prints values from ${printer.data?.darkest?.toFixed(1) ?? ""} to ${
                printer.data?.lightest?.toFixed(1) ?? ""
              }; a step was off by up to ${printer.data?.worst_before?.toFixed(1) ?? ""}, now by ${
                printer.data?.worst_after?.toFixed(2) ?? ""
              }.`}
        </Say>
        <Downloads
          files={[
            { label: "Wedge", href: file("wedge.pdf") },
            ...(pairs.length ? [{ label: "To check", href: file("wedge.pdf", { corrected: true }) }] : []),
          ]}
        />
        <Button
          color="inherit"
          variant="outlined"
          fullWidth
          disabled={meter.isPending}
          onClick={() =>
            meter.mutate(false, {
              onSuccess: (found) => change({ printer: found }, "Read the printed wedge"),
            })
          }
        >
          Print and read it (simulated)
        </Button>
        {pairs.length > 0 && (
          <Button
            color="inherit"
            fullWidth
            disabled={meter.isPending || saving || !printer.data?.pairs.length}
            onClick={() => meter.mutate(true)}
          >
            Check it through the curve (simulated)
          </Button>
        )}
        {meter.variables === true && worst !== undefined && (
          <Say>
            <span data-testid="checked">
              Through the curve no step is off by more than {worst.toFixed(2)}
              {worst <= (printer.data?.tolerance ?? 0.3) ? ": the print is true." : "."}
            </span>
          </Say>
        )}
        {meter.isError && <Say>{meter.error.message}</Say>}
        {printer.isError && <Say>{printer.error.message}</Say>}
      </Section>
      <Section title="Steps as read">
        <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1.5 }}>
          {steps.map((s) => (
            <NumberField
              key={s}
              label={`step ${s}`}
              value={read.get(s) ?? s}
              least={0}
              most={10}
              onChange={(v) =>
                change(
                  { printer: steps.map((t) => [t, t === s ? v : (read.get(t) ?? t)] as [number, number]) },
                  `Step ${s} reads ${v}`,
                )
              }
            />
          ))}
        </Box>
        {pairs.length > 0 && (
          <Button color="inherit" fullWidth onClick={() => change({ printer: [] }, "Forget the printer")}>
            Forget the printer
          </Button>
        )}
      </Section>
    </>
  );
}

/** How far a printed step is off; outside what the printer can reach nothing is asked of it. */
function off(asked: number, printed: number, printer: Schemas["WedgeOut"] | undefined) {
  const low = printer?.darkest ?? 0;
  const high = printer?.lightest ?? 10;
  return asked < low || asked > high ? 0 : Math.abs(asked - printed);
}
