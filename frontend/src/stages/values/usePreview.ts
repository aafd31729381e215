import { useEffect, useRef, useState } from "react";
import { base } from "../../api/client";

/** The newest preview of cuts under the hand: one request at a time, the last position always follows. */
export function usePreview(id: string, cuts: number[] | null) {
  const [url, setUrl] = useState<string | null>(null);
  const flying = useRef(false);
  const waiting = useRef<number[] | null>(null);
  useEffect(() => {
    let alive = true;
    const fetchNext = async () => {
      const next = waiting.current;
      if (!next || flying.current) return;
      waiting.current = null;
      flying.current = true;
      try {
        const answer = await fetch(`${base(id)}/values/preview?cuts=${next.join(",")}`);
        if (answer.ok && alive) {
          const made = URL.createObjectURL(await answer.blob());
          setUrl((old) => {
            if (old) URL.revokeObjectURL(old);
            return made;
          });
        }
      } finally {
        flying.current = false;
        if (alive) void fetchNext();
      }
    };
    if (cuts) {
      waiting.current = cuts;
      void fetchNext();
    }
    return () => {
      alive = false;
    };
  }, [id, cuts]);
  return url;
}
