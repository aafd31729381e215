import { useEffect, useState } from "react";

interface Shown {
  image: HTMLImageElement | null;
  loading: boolean;
  /** In words, when the picture could not be had. */
  trouble: string | null;
  again: () => void;
}

const unpacked = new Map<string, HTMLImageElement>();

/** Unpack a picture before anything is drawn with it: whoever shows it then need not wait for another frame. */
export async function unpack(url: string): Promise<void> {
  const image = new Image();
  image.src = url;
  await image.decode();
  unpacked.set(url, image);
}

/** Let an unpacked picture go. */
export function letGo(url: string): void {
  unpacked.delete(url);
  URL.revokeObjectURL(url);
}

const TROUBLE = "The picture could not be loaded.";

/** What the server says about a picture it did not give. */
async function sentenceOf(url: string): Promise<string> {
  try {
    const answer = await fetch(url);
    if (answer.ok) return TROUBLE;
    const body = (await answer.json()) as { detail?: string };
    return body.detail ?? TROUBLE;
  } catch {
    return `${TROUBLE} Is the application still running?`;
  }
}

/** The newest picture that has arrived; the one before stays on the wall until then. */
export function useImage(url: string | null): Shown {
  const [shown, setShown] = useState<{ url: string; image: HTMLImageElement } | null>(null);
  const [failed, setFailed] = useState<{ url: string; words: string } | null>(null);
  const [attempt, setAttempt] = useState(0);
  useEffect(() => {
    if (url === null || unpacked.has(url)) return;
    let wanted = true;
    const image = new Image();
    image.onload = () => {
      if (!wanted) return;
      setShown({ url, image });
      setFailed(null);
    };
    image.onerror = () => {
      void sentenceOf(url).then((words) => wanted && setFailed({ url, words }));
    };
    image.src = url;
    return () => {
      wanted = false;
      if (!image.complete) {
        // Taken back: nobody need make it.
        image.onerror = null;
        image.src = "";
      }
    };
  }, [url, attempt]);
  const trouble = url !== null && failed?.url === url ? failed.words : null;
  const ready = url === null ? undefined : unpacked.get(url);
  return {
    image: url === null ? null : (ready ?? shown?.image ?? null),
    loading: url !== null && !ready && shown?.url !== url && trouble === null,
    trouble,
    again: () => {
      setFailed(null);
      setAttempt((n) => n + 1);
    },
  };
}
