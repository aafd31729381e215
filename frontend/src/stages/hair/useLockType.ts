import type { Schemas } from "../../api/client";
import { useChange } from "../../api/useChange";
import type { JobProps } from "../job";

type Lock = Schemas["LockOut"];
export type HairType = Schemas["LockTypeSettings"]["type"];

/** Says which type a lock is, and takes that back. */
export function useLockType(sitter: JobProps["sitter"], lock: Lock) {
  const { change } = useChange(sitter, "hair");
  const put = (words: string, add: { x: number; y: number; type: HairType }[]) =>
    change({}, words, {
      lock_types: lock.pressed === null ? { add } : { start: lock.pressed, remove: 1, add },
    });
  return {
    press: (type: HairType) => put(`Type of ${lock.place}`, [{ x: lock.x, y: lock.y, type }]),
    release: () => put(`${lock.place} as it looks`, []),
  };
}
