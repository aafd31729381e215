import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { call, send, type Schemas } from "../api/client";
import { useNotice } from "../sitter/notice";
import { keys } from "../api/keys";

export type RackTube = Schemas["TubeOut"];
export type Patches = Record<string, Schemas["PatchOut"]>;
export type PatchName = "masstone" | "tint" | "over_black" | "over_white" | "wash";

/** The painter's own tubes. */
export const useRack = () => useQuery({ queryKey: keys.rack, queryFn: () => call<RackTube[]>("/api/tubes") });

/** Everything that changes the rack; each answer brings rack and library up to date. */
export function useRackChanges() {
  const client = useQueryClient();
  const notice = useNotice();
  const { mutateAsync, isPending } = useMutation({
    mutationFn: (ask: () => Promise<unknown>) => ask(),
    onSuccess: () =>
      Promise.all([
        client.invalidateQueries({ queryKey: keys.rack }),
        client.invalidateQueries({ queryKey: keys.library }),
      ]),
    onError: (error) => notice(error.message),
  });
  /** What came back, or null when it was refused and the painter was told why. */
  const run = async <T>(ask: () => Promise<T>): Promise<T | null> => {
    try {
      return (await mutateAsync(ask)) as T;
    } catch {
      return null;
    }
  };
  const at = (key: string, rest = "") => `/api/tubes/${key}${rest}`;
  const upload = (address: string, field: string, file: File) => {
    const form = new FormData();
    form.append(field, file);
    return call(address, { method: "POST", body: form });
  };
  return {
    isPending,
    add: (tube: Schemas["NewTube"]) => run(() => send<RackTube>("POST", "/api/tubes", tube)),
    change: (tube: RackTube, part: Partial<Schemas["TubeChange"]>) =>
      run(() =>
        send<RackTube>("PATCH", at(tube.key), {
          name: tube.name,
          amount_ml: tube.amount_ml,
          empty: tube.empty,
          ...part,
        }),
      ),
    restore: (key: string) => run(() => send<RackTube>("POST", at(key, "/restore"))),
    remove: (tube: RackTube) => run(() => send("DELETE", at(tube.key))),
    takeReading: (key: string, reading: Schemas["NewReading"]) =>
      run(() => send<RackTube>("POST", at(key, "/readings"), reading)),
    useReading: (key: string, reading: number | null) =>
      run(() => send<RackTube>("PUT", at(key, `/reading${reading === null ? "" : `?reading=${reading}`}`))),
    meter: (key: string) => run(() => send<Patches>("POST", at(key, "/meter"))),
    addPhoto: (file: File) =>
      run(() => upload("/api/swatches/photo", "photo", file) as Promise<Schemas["PhotoOut"]>),
    readPhoto: (sha256: string, marks: Schemas["PhotoMarks"]) =>
      run(() => send<Patches>("POST", `/api/swatches/photo/${sha256}/read`, marks)),
    keepPalette: (palette: Schemas["PaletteIn"]) =>
      run(() => send<Schemas["PaletteOut"]>("POST", "/api/palettes", palette)),
    dropPalette: (key: string) => run(() => send("DELETE", `/api/palettes/${key}`)),
    takeFile: (kind: "readings" | "rack", file: File) =>
      run(() => upload(`/api/${kind}`, "file", file) as Promise<RackTube[]>),
  };
}

export type RackChanges = ReturnType<typeof useRackChanges>;
