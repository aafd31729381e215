import { Box } from "@mui/material";
import { useState, type ReactNode } from "react";
import { SpotMark } from "../picture/Overlays";
import type { Size } from "../picture/useView";
import { Row } from "./Row";
import { textSize } from "../theme";

export interface Place {
  place: string;
  x: number;
  y: number;
}

/** A list of places: the one that is touched is shown on the picture, touched again it is let go. */
export function usePlaces<T extends Place>(places: readonly T[]) {
  const [name, setName] = useState<string | null>(null);
  const chosen = places.find((p) => p.place === name) ?? null;
  const mark = (px: number, size: Size): ReactNode =>
    chosen && <SpotMark spot={[chosen.x, chosen.y]} name={chosen.place} size={size} px={px} />;
  return {
    chosen,
    choose: (place: string | null) => setName(place === name ? null : place),
    mark,
  };
}

interface Props<T extends Place> {
  of: readonly T[];
  places: ReturnType<typeof usePlaces<T>>;
  /** What stands at the right of a line. */
  right: (place: T) => ReactNode;
  /** What is said under the line that is chosen. */
  more?: (place: T) => ReactNode;
  numbered?: boolean;
}

export function PlaceList<T extends Place>({ of, places, right, more, numbered = false }: Props<T>) {
  return (
    <Box component={numbered ? "ol" : "ul"} sx={{ listStyle: "none", p: 0, m: 0 }}>
      {of.map((p, i) => {
        const on = places.chosen?.place === p.place;
        return (
          <Box component="li" key={p.place}>
            <Row pressed={on} onClick={() => places.choose(p.place)} sx={{ justifyContent: "space-between" }}>
              <span>
                {numbered && `${i + 1}  `}
                {p.place}
              </span>
              <Box component="span" sx={{ textAlign: "right", fontSize: textSize.small }}>
                {right(p)}
              </Box>
            </Row>
            {on && more && <Box sx={{ fontSize: textSize.small, py: 0.8 }}>{more(p)}</Box>}
          </Box>
        );
      })}
    </Box>
  );
}
