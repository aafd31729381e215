import { useCallback, useState } from "react";

/** Something small kept in this browser; what cannot be kept still works until the page is closed. */
function useKept<T>(shelf: () => Storage, name: string, start: T): [T, (value: T) => void] {
  const key = `true-sitter:${name}`;
  const [value, setValue] = useState<T>(() => {
    try {
      const kept = shelf().getItem(key);
      return kept === null ? start : (JSON.parse(kept) as T);
    } catch {
      return start;
    }
  });
  const keep = useCallback(
    (next: T) => {
      setValue(next);
      try {
        shelf().setItem(key, JSON.stringify(next));
      } catch {
        // Private windows may refuse; the preference then lives as long as the page.
      }
    },
    [key, shelf],
  );
  return [value, keep];
}

const forGood = () => localStorage;
const forNow = () => sessionStorage;

/** A preference of the painter's. */
export const useStored = <T>(name: string, start: T) => useKept(forGood, name, start);

/** Where a job was left: found again when it is opened again in this window, also after a reload. */
export const useLeft = <T>(name: string, start: T) => useKept(forNow, name, start);
