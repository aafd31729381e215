import type { Schemas } from "../../api/client";
import { useChange } from "../../api/useChange";
import type { JobProps } from "../job";

type Lock = Schemas["LockOut"];

/** Says which type a lock is, and takes that back. */
export function useLockType(sitter: JobProps["sitter"], lock: Lock) {
  const { change } = useChange(sitter, "hair");
  const said = sitter.settings.hair.lock_types.findIndex((t) => t.x === lock.x && t.y === lock.y);
  const put = (words: string, add: { x: number; y: number; type: Lock["type"] }[]) =>
    change({}, words, { lock_types: said < 0 ? { add } : { start: said, remove: 1, add } });
  return {
    press: (type: Lock["type"]) => put(`Type of ${lock.place}`, [{ x: lock.x, y: lock.y, type }]),
    release: () => put(`${lock.place} as it looks`, []),
  };
}
