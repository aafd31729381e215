import { useQuery } from "@tanstack/react-query";
import { base, call, type Schemas, type Sitter } from "../api/client";
import { keys } from "../api/keys";

export type Drill = Schemas["DrillOut"];
export type Question = Schemas["QuestionOut"];
export type Score = Schemas["ScoreOut"];
export type Given = Partial<
  Pick<Schemas["AnsweredIn"], "number" | "choice" | "parts" | "points" | "widths" | "shapes">
>;
export type Spot = [number, number];

export const useDrills = () =>
  useQuery({ queryKey: keys.drills, queryFn: () => call<Schemas["DrillsOut"]>("/api/drills") });

/** Drills that habits at the easel ask for: it compares every painting, so it may take a while. */
export const useWanted = (sitterId: string | undefined, ask = true) =>
  useQuery({
    enabled: ask && sitterId !== undefined,
    queryKey: keys.drillsWanted(sitterId),
    queryFn: ({ signal }) =>
      call<Schemas["WantedOut"][]>(`${base(sitterId ?? "")}/drills/wanted`, { signal }),
    staleTime: 600_000,
    retry: false,
  });

/** What a picture has nothing for, drill by drill; once this is answered its rounds are made at once. */
export const useReady = (sitter: Sitter | undefined) =>
  useQuery({
    enabled: sitter !== undefined,
    queryKey: keys.computed(sitter?.id, "drills/ready", "", sitter?.keys["drills/ready"]),
    queryFn: ({ signal }) =>
      call<Record<string, string>>(`${base(sitter?.id ?? "")}/drills/ready`, { signal }),
    staleTime: Infinity,
  });

export const shown = (number: number) => (number >= 10 ? number.toFixed(0) : number.toFixed(1));
