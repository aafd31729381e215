import { useEffect, useState } from "react";

/** The newest picture that has arrived; the one before stays on the wall until then. */
export function useImage(url: string | null): { image: HTMLImageElement | null; loading: boolean } {
  const [shown, setShown] = useState<{ url: string; image: HTMLImageElement } | null>(null);
  useEffect(() => {
    if (url === null) return;
    let wanted = true;
    const image = new Image();
    image.onload = () => {
      if (wanted) setShown({ url, image });
    };
    image.src = url;
    return () => {
      wanted = false;
    };
  }, [url]);
  return { image: url === null ? null : (shown?.image ?? null), loading: url !== null && shown?.url !== url };
}
