import { useEffect, useRef } from "react";

/** What a key does; keys are named as "z", "ctrl+z", "ctrl+shift+z" or "1". */
export type Shortcuts = Record<string, () => void>;

const layers: { current: Shortcuts }[] = [];

/** Where letters and digits belong to what is being written or chosen. */
const WRITING = [
  "input:not([type=range]):not([type=checkbox]):not([type=radio])",
  "textarea",
  "select",
  "[contenteditable]",
  "[role=listbox]",
  "[role=menu]",
  "[role=dialog]",
  "[role=combobox]",
].join(", ");

/** The name of a pressed key. */
export function keyName(
  e: Pick<KeyboardEvent, "key" | "ctrlKey" | "metaKey" | "shiftKey" | "altKey">,
): string {
  const command = e.ctrlKey || e.metaKey;
  return `${command ? "ctrl+" : ""}${command && e.shiftKey ? "shift+" : ""}${e.altKey ? "alt+" : ""}${e.key.toLowerCase()}`;
}

/** The one handler of all shortcuts: the newest layer that knows the key has it. */
export function press(e: KeyboardEvent) {
  if (e.defaultPrevented || (e.target instanceof Element && e.target.closest(WRITING))) return;
  const name = keyName(e);
  const run = [...layers].reverse().find((layer) => name in layer.current)?.current[name];
  if (!run) return;
  e.preventDefault();
  run();
}

if (typeof window !== "undefined") window.addEventListener("keydown", press);

/** Keys that work while a component is on screen. */
export function useShortcuts(shortcuts: Shortcuts) {
  const layer = useRef(shortcuts);
  useEffect(() => {
    layer.current = shortcuts;
  });
  useEffect(() => {
    layers.push(layer);
    return () => {
      layers.splice(layers.indexOf(layer), 1);
    };
  }, []);
}
