import { useCallback, useState } from "react";

/** A small preference kept in this browser; what cannot be kept still works until the page is closed. */
export function useStored<T>(name: string, start: T): [T, (value: T) => void] {
  const key = `true-sitter:${name}`;
  const [value, setValue] = useState<T>(() => {
    try {
      const kept = localStorage.getItem(key);
      return kept === null ? start : (JSON.parse(kept) as T);
    } catch {
      return start;
    }
  });
  const keep = useCallback(
    (next: T) => {
      setValue(next);
      try {
        localStorage.setItem(key, JSON.stringify(next));
      } catch {
        // Private windows may refuse; the preference then lives as long as the page.
      }
    },
    [key],
  );
  return [value, keep];
}
