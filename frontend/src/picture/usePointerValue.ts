import { useCallback, useEffect, useRef, useState } from "react";
import { pictureUrl, type Sitter } from "../api/client";
import type { Spot } from "./spots";

/** Codes in the value picture count in steps of 1/25. */
const CODES_PER_STEP = 25;

/** Read the value under the pointer out of the value picture that the core made. */
export function usePointerValue(sitter: Sitter) {
  const data = useRef<ImageData | null>(null);
  const [value, setValue] = useState<number | null>(null);
  const url = pictureUrl(sitter, "value-codes");
  useEffect(() => {
    let wanted = true;
    const image = new Image();
    image.onload = () => {
      const canvas = document.createElement("canvas");
      canvas.width = image.width;
      canvas.height = image.height;
      const context = canvas.getContext("2d", { willReadFrequently: true });
      if (!wanted || !context) return;
      context.drawImage(image, 0, 0);
      data.current = context.getImageData(0, 0, image.width, image.height);
    };
    image.src = url;
    return () => {
      wanted = false;
    };
  }, [url]);
  const read = useCallback((spot: Spot | null) => {
    const codes = data.current;
    if (!codes || !spot || spot.some((v) => v < 0 || v >= 1)) {
      setValue(null);
      return;
    }
    const at = (Math.floor(spot[1] * codes.height) * codes.width + Math.floor(spot[0] * codes.width)) * 4;
    setValue((codes.data[at] ?? 0) / CODES_PER_STEP);
  }, []);
  return { value, read };
}
