import type { Entry } from "./useLog";

/** Minutes of work, as "3 h 20". */
export function worked(minutes: number): string {
  const whole = Math.round(minutes);
  const hours = Math.floor(whole / 60);
  const rest = whole % 60;
  if (hours === 0) return `${rest} min`;
  return rest === 0 ? `${hours} h` : `${hours} h ${String(rest).padStart(2, "0")}`;
}

const day: Intl.DateTimeFormatOptions = { weekday: "short", day: "numeric", month: "short" };
const hour: Intl.DateTimeFormatOptions = { hour: "2-digit", minute: "2-digit" };

export const clockOf = (at: string) => new Date(at).toLocaleTimeString("en-GB", hour);

/** Day and time; the year only where it is another one. */
export function momentOf(at: string): string {
  const date = new Date(at);
  const other = date.getFullYear() !== new Date().getFullYear();
  const said = date.toLocaleDateString("en-GB", other ? { ...day, year: "numeric" } : day);
  return `${said}, ${clockOf(at)}`;
}

/** How long until a moment, as "40 min" or "2 days"; empty once it has come. */
export function until(at: string, now: number): string {
  const minutes = (new Date(at).getTime() - now) / 60_000;
  if (minutes <= 0) return "";
  if (minutes >= 2880) return `${Math.round(minutes / 1440)} days`;
  return minutes >= 1 ? worked(minutes) : "a moment";
}

const part = (done: number | null | undefined) =>
  done === null || done === undefined ? "" : `, ${Math.round(done * 100)} % done`;

/** What an entry says, in a line. */
export function entryWords(entry: Entry): string {
  const what = entry.what;
  switch (what.kind) {
    case "began":
      return what.work ? `Sat down: ${what.work.name}` : "Sat down";
    case "turned":
      return `Turned to ${what.work.name}; the last${part(what.done) || " as far as it was"}`;
    case "paused":
      return "A break";
    case "resumed":
      return "On again";
    case "ended":
      return `Got up${part(what.done)}`;
    case "air":
      return `${what.temperature} °C, ${what.humidity} % of humidity`;
    case "used":
      return `${what.name || what.tube}: ${what.ml} ml taken${what.left_ml ? `, ${what.left_ml} ml scraped off` : ""}`;
    case "photograph":
      return `Photograph of the painting${what.words ? `: ${what.words}` : ""}`;
    case "note":
      return what.words;
    case "next time":
      return `Next time: ${what.words}`;
    case "settled":
      return "Done of what was left for next time";
    case "trial":
      return `Trial of ${what.subject}: ${what.name}${what.words ? `; ${what.words}` : ""}`;
    case "judged":
      return `Liked ${what.liked} of 5${what.by ? ` by ${what.by}` : ""}${what.why ? `: ${what.why}` : ""}`;
    case "pace reset":
      return "Own pace is learned anew from here";
    default:
      return "";
  }
}
