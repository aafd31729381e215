import { useCallback, useEffect, useState } from "react";

export interface View {
  /** Screen pixels to a picture pixel. */
  scale: number;
  /** Screen position of the picture's centre. */
  x: number;
  y: number;
}

export interface Size {
  width: number;
  height: number;
}

const ROOM = 20;

function fitted(wall: Size, picture: Size): View {
  const scale = Math.min((wall.width - 2 * ROOM) / picture.width, (wall.height - 2 * ROOM) / picture.height);
  return { scale: Math.max(scale, 0.01), x: wall.width / 2, y: wall.height / 2 };
}

/** Pan and zoom of a picture on a wall; `null` until the painter moves it means "fit". */
export function useView(wall: Size, picture: Size) {
  const [moved, setMoved] = useState<View | null>(null);
  const view = moved ?? fitted(wall, picture);
  const { width, height } = picture;
  const aspect = Math.round((height / width) * 100);
  useEffect(() => setMoved(null), [aspect]);

  const fit = useCallback(() => setMoved(null), []);
  const zoomAt = useCallback(
    (factor: number, at: { x: number; y: number }) =>
      setMoved((old) => {
        const from = old ?? fitted(wall, picture);
        const least = fitted(wall, picture).scale * 0.5;
        const scale = Math.min(16, Math.max(least, from.scale * factor));
        const by = scale / from.scale;
        return { scale, x: at.x + (from.x - at.x) * by, y: at.y + (from.y - at.y) * by };
      }),
    [wall, picture],
  );
  const panBy = useCallback(
    (dx: number, dy: number) =>
      setMoved((old) => {
        const from = old ?? fitted(wall, picture);
        return { ...from, x: from.x + dx, y: from.y + dy };
      }),
    [wall, picture],
  );
  return { view, fit, zoomAt, panBy };
}
