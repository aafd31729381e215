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
  const waiting = useRef<number[] | null>(null);
  const alive = useRef(true);
  useEffect(() => {
    alive.current = true;
    return () => {
      alive.current = false;
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
            setUrl((old) => {
              if (old) letGo(old);
              return made;
            });
          }
        } finally {
          flying.current = false;
          if (alive.current) void fetchNext();
        }
      };
      waiting.current = cuts;
      void fetchNext();
    },
    [id],
  );
  /** Forget the picture: the next cut taken in hand must not begin with an old one. */
  const clear = useCallback(() => {
    waiting.current = null;
    setUrl(null);
  }, []);
  return { url, ask, clear };
}
