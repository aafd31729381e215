import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { useNotice } from "../sitter/notice";
import { base, call, send, type Schemas, type Settings, type Sitter, type StageName } from "./client";

export const useSitters = () => useQuery({ queryKey: ["sitters"], queryFn: () => call<Sitter[]>("/api/sitters") });

export const useSitter = (id: string) =>
  useQuery({ queryKey: ["sitter", id], queryFn: () => call<Sitter>(base(id)) });

/** Something computed for a sitter, asked again only when its key changes. */
function useComputed<T>(sitter: Sitter, kind: string, path: string, enabled = true) {
  return useQuery({
    enabled,
    queryKey: ["computed", path, sitter.keys[kind]],
    queryFn: () => call<T>(`${base(sitter.id)}/${path}`),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  });
}

export const useFrame = (s: Sitter) => useComputed<Schemas["FrameOut"]>(s, "reference", "reference");
export const useLadder = (s: Sitter) => useComputed<number[]>(s, "frame", "ladder");
export const useSitterLadder = (s: Sitter, enabled: boolean) => useComputed<number[]>(s, "regions", "ladder/sitter", enabled);
export const useClipping = (s: Sitter) => useComputed<Schemas["ClippingOut"]>(s, "uncorrected", "reference/clipping");
export const useRegionMap = (s: Sitter) => useComputed<Schemas["RegionMapOut"]>(s, "regions", "regions/map");
export const useShapes = (s: Sitter, enabled: boolean) => useComputed<Schemas["ShapeOut"][]>(s, "values", "shapes", enabled);
export const useEdges = (s: Sitter, enabled = true) => useComputed<Schemas["EdgesOut"]>(s, "values", "edges", enabled);
export const useRisks = (s: Sitter, enabled: boolean) => useComputed<Schemas["RiskOut"][]>(s, "looking", "risks", enabled);
export const useMeasures = (s: Sitter, enabled: boolean) => useComputed<Schemas["MeasuresOut"]>(s, "reference", "measures", enabled);
export const useValues = (s: Sitter) => useComputed<Schemas["ValuesOut"]>(s, "values", "values");
export const useOutlines = (s: Sitter) => useComputed<Schemas["OutlinesOut"]>(s, "values", "outlines");
export const useRegions = (s: Sitter) => useComputed<Schemas["RegionsOut"]>(s, "regions", "regions");
export const useFlesh = (s: Sitter) => useComputed<Schemas["FleshOut"]>(s, "flesh", "flesh");
export const useBoard = (s: Sitter, enabled: boolean) => useComputed<Schemas["BoardOut"]>(s, "board", "flesh/board", enabled);
export const useBatch = (s: Sitter, enabled: boolean) => useComputed<Schemas["BatchOut"]>(s, "batch", "flesh/batch", enabled);
export const useLight = (s: Sitter) => useComputed<Schemas["PlanLight"]>(s, "light", "light");
export const useHair = (s: Sitter) => useComputed<Schemas["HairOut"]>(s, "hair", "hair");
export const usePasses = (s: Sitter) => useComputed<Schemas["PassesOut"]>(s, "passes", "passes");
export const useLibrary = () =>
  useQuery({ queryKey: ["library"], queryFn: () => call<Schemas["Library"]>("/api/library"), staleTime: Infinity });

/** Change one stage; the screen shows the new settings at once and falls back when they are refused. */
export function useChange<S extends StageName>(sitter: Sitter, stage: S) {
  const client = useQueryClient();
  const notice = useNotice();
  const key = ["sitter", sitter.id];
  const { mutate, isPending } = useMutation({
    scope: { id: `change-${sitter.id}` },
    mutationFn: ({ settings, change }: { settings: Settings[S]; change: string }) =>
      send<Sitter>("PUT", `${base(sitter.id)}/${stage}?change=${encodeURIComponent(change)}`, settings),
    onSuccess: (fresh) => client.setQueryData(key, fresh),
    onError: (error) => {
      notice(error.message);
      void client.invalidateQueries({ queryKey: key });
    },
  });
  const change = useCallback(
    (part: Partial<Settings[S]>, words: string) => {
      const now = client.getQueryData<Sitter>(["sitter", sitter.id]) ?? sitter;
      const settings = { ...now.settings[stage], ...part };
      client.setQueryData(["sitter", sitter.id], { ...now, settings: { ...now.settings, [stage]: settings } });
      mutate({ settings, change: words });
    },
    [client, mutate, sitter, stage],
  );
  return { change, isPending };
}

export function useHistory(sitter: Sitter) {
  const client = useQueryClient();
  const notice = useNotice();
  const { mutate } = useMutation({
    scope: { id: `change-${sitter.id}` },
    mutationFn: (direction: "undo" | "redo") => send<Sitter>("POST", `${base(sitter.id)}/${direction}`),
    onSuccess: (fresh) => client.setQueryData(["sitter", sitter.id], fresh),
    onError: (error) => notice(error.message),
  });
  return mutate;
}
