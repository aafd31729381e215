import { useCallback, useEffect, useRef, useState } from "react";
import { base } from "../../api/client";
import { letGo, unpack } from "../../picture/useImage";

/**
 * The newest preview of cuts under the hand: one request at a time, the last position always follows.
 * `ask` is for the pointer's own handler: waiting for the next render would cost the eye a frame or two.
 */
export function usePreview(id: string) {
  const [url, setUrl] = useState<string | null>(null);
  const flying = useRef(false);
  const cleared = useRef(false);
  const waiting = useRef<number[] | null>(null);
  const alive = useRef(true);
  const shown = useRef<string | null>(null);
  /** Show another picture, or none, and let go of the one before: each is held unpacked. */
  const show = useCallback((next: string | null) => {
    if (shown.current) letGo(shown.current);
    shown.current = next;
    setUrl(next);
  }, []);
  useEffect(() => {
    alive.current = true;
    return () => {
      alive.current = false;
      if (shown.current) letGo(shown.current);
      shown.current = null;
    };
  }, []);
  const ask = useCallback(
    (cuts: number[]) => {
      const fetchNext = async () => {
        const next = waiting.current;
        if (!next || flying.current) return;
        waiting.current = null;
        flying.current = true;
        try {
          const answer = await fetch(`${base(id)}/values/preview?cuts=${next.join(",")}`);
          if (answer.ok && alive.current) {
            const made = URL.createObjectURL(await answer.blob());
            await unpack(made);
            // Let go of meanwhile, or the hand has left the cuts: it is shown to nobody.
            if (alive.current && !cleared.current) show(made);
            else letGo(made);
          }
        } finally {
          flying.current = false;
          if (alive.current) void fetchNext();
        }
      };
      cleared.current = false;
      waiting.current = cuts;
      void fetchNext();
    },
    [id, show],
  );
  /** Forget the picture: the next cut taken in hand must not begin with an old one. */
  const clear = useCallback(() => {
    waiting.current = null;
    cleared.current = true;
    show(null);
  }, [show]);
  return { url, ask, clear };
}
