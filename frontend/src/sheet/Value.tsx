import { counted, useLadderWay } from "../sitter/ladderWay";

/** A function that writes a value as the painter counts it. */
export function useCounted() {
  const [{ count }] = useLadderWay();
  return (value: number, digits = 1) => counted(value, count).toFixed(digits);
}

/** A value as the painter counts it; the only way a value is written on the screen. */
export function Value({ of, digits = 1 }: { of: number; digits?: number }) {
  return <>{useCounted()(of, digits)}</>;
}
