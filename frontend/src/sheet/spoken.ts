/** Minutes as a painter says them. */
export function spoken(minutes: number): string {
  if (minutes >= 2880) return `${Math.round(minutes / 1440)} days`;
  if (minutes >= 90) return `${Math.round(minutes / 60)} hours`;
  if (minutes >= 1)
    return minutes < 10 ? `${Math.round(minutes * 10) / 10} minutes` : `${Math.round(minutes)} minutes`;
  return minutes > 0 ? `${Math.round(minutes * 60)} seconds` : "no time";
}
