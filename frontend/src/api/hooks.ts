import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { useNotice } from "../sitter/notice";
import { base, call, send, type Schemas, type Sitter } from "./client";
import { overlaid } from "./queue";
import { useWaiting } from "./useChange";
import { keys } from "./keys";

export const useSitters = () =>
  useQuery({ queryKey: keys.sitters, queryFn: () => call<Sitter[]>("/api/sitters") });

/** The canvas that new sitters begin on, where there is one. */
export const usualCanvas = {
  queryKey: keys.canvas,
  queryFn: () => call<Schemas["CanvasChoice"]>("/api/canvas"),
};
export const useUsualCanvas = () => useQuery(usualCanvas);

/** A sitter with everything the painter changed, answered or not. */
export function useSitter(id: string) {
  const kept = useQuery({ queryKey: keys.sitter(id), queryFn: () => call<Sitter>(base(id)) });
  const waiting = useWaiting(id);
  const data = useMemo(() => kept.data && overlaid(kept.data, waiting), [kept.data, waiting]);
  return { ...kept, data };
}

/**
 * Something computed for a sitter, asked again only when its key changes. What it depends on is
 * declared beside its route; the key follows from that.
 */
export function useComputed<T>(sitter: Sitter, path: string, query = "", enabled = true) {
  return useQuery({
    enabled,
    queryKey: keys.computed(sitter.id, path, query, sitter.keys[path]),
    // Whoever moves on takes the question back: nobody computes what nobody waits for.
    queryFn: ({ signal }) => call<T>(`${base(sitter.id)}/${path}${query && `?${query}`}`, { signal }),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  });
}

export const useFramings = (s: Sitter) => useComputed<Schemas["FramingsOut"]>(s, "reference/framings");
export const useFrame = (s: Sitter) => useComputed<Schemas["FrameOut"]>(s, "reference");
export const useLadder = (s: Sitter) => useComputed<number[]>(s, "ladder");
export const useSitterLadder = (s: Sitter, on: boolean) => useComputed<number[]>(s, "ladder/sitter", "", on);
export const useCondition = (s: Sitter) => useComputed<Schemas["ConditionOut"]>(s, "reference/condition");
export const useRegionMap = (s: Sitter) => useComputed<Schemas["RegionMapOut"]>(s, "regions/map");
export const useShapes = (s: Sitter) => useComputed<Schemas["ShapeOut"][]>(s, "shapes");
export const useEdges = (s: Sitter) => useComputed<Schemas["EdgesOut"]>(s, "edges");
export const useRisks = (s: Sitter) => useComputed<Schemas["RiskOut"][]>(s, "risks");
export const useMeasures = (s: Sitter) => useComputed<Schemas["MeasuresOut"]>(s, "measures");
export const useValues = (s: Sitter) => useComputed<Schemas["ValuesOut"]>(s, "values");
export const useOutlines = (s: Sitter) => useComputed<Schemas["OutlinesOut"]>(s, "outlines");
export const useRegions = (s: Sitter) => useComputed<Schemas["RegionsOut"]>(s, "regions");
export const useFlesh = (s: Sitter) => useComputed<Schemas["FleshOut"]>(s, "flesh");
export const useBoard = (s: Sitter) => useComputed<Schemas["BoardOut"]>(s, "flesh/board");
export const useBatch = (s: Sitter) => useComputed<Schemas["BatchOut"]>(s, "flesh/batch");
export const useForm = (s: Sitter) => useComputed<Schemas["FormReportOut"]>(s, "light/form");
export const usePeaks = (s: Sitter) => useComputed<Schemas["PeaksOut"]>(s, "light/peaks");
export const useHighlights = (s: Sitter) => useComputed<Schemas["PlanHighlight"][]>(s, "light/highlights");
export const useRecesses = (s: Sitter) => useComputed<Schemas["RecessesOut"]>(s, "light/recesses");
export const useSkinColour = (s: Sitter) => useComputed<Schemas["ColourOut"]>(s, "light/colour");
export const useEyes = (s: Sitter) => useComputed<Schemas["EyeOut"][]>(s, "light/eyes");
export const useHair = (s: Sitter) => useComputed<Schemas["HairOut"]>(s, "hair");
export const useLocks = (s: Sitter) => useComputed<Schemas["LocksOut"]>(s, "hair/locks");
export const useHairLayers = (s: Sitter) => useComputed<Schemas["HairLayersOut"]>(s, "hair/layers");
export const useHairEdges = (s: Sitter) => useComputed<Schemas["HairEdgesOut"]>(s, "hair/edges");
export const useArrows = (s: Sitter, on: boolean) =>
  useComputed<Schemas["ArrowsOut"]>(s, "hair/arrows", "", on);
export const usePasses = (s: Sitter, wanted = true) =>
  useComputed<Schemas["PassesOut"]>(s, "passes", "", wanted);
export const useGrounds = (s: Sitter) => useComputed<Schemas["GroundsOut"]>(s, "grounds");
export const useBackground = (s: Sitter) => useComputed<Schemas["BackgroundOut"]>(s, "background");
export const useFocus = (s: Sitter) => useComputed<Schemas["FocusOut"]>(s, "focus");
export const useKit = (s: Sitter) => useComputed<Schemas["KitOut"]>(s, "kit");
export const useSizes = (s: Sitter) => useComputed<Schemas["SizeOut"][]>(s, "passes/sizes");
export const useLibrary = () =>
  useQuery({
    queryKey: keys.library,
    queryFn: () => call<Schemas["Library"]>("/api/library"),
    staleTime: Infinity,
  });

/** Passes ticked: facts, which undo does not touch. */
export function useDone(sitter: Sitter) {
  const client = useQueryClient();
  const notice = useNotice();
  const path = `${base(sitter.id)}/done`;
  const done = useQuery({ queryKey: keys.done(sitter.id), queryFn: () => call<Schemas["DoneOut"][]>(path) });
  const { mutate } = useMutation({
    scope: { id: `done-${sitter.id}` },
    mutationFn: ({ school, key, tick }: { school: string; key: string; tick?: number | undefined }) =>
      tick === undefined ? send("POST", path, { school, key }) : send("DELETE", `${path}/${tick}`),
    onError: (error) => notice(error.message),
    onSettled: () => client.invalidateQueries({ queryKey: keys.done(sitter.id) }),
  });
  return { done: done.data ?? [], toggle: mutate };
}
