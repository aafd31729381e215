import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { base, call, send, type Schemas, type Sitter } from "../api/client";
import { useComputed } from "../api/hooks";
import { useNotice } from "../sitter/notice";
import { keys, touchedByLog } from "../api/keys";

export type Entry = Schemas["EntryOut"];
export type Sitting = Schemas["SittingOut"];
export type Work = Schemas["Work"];
export type Clock = Schemas["ClockOut"];
export type Happening = Schemas["HappenedIn"]["what"];
export type SittingLog = Schemas["LogOut"];

export const zone = Intl.DateTimeFormat().resolvedOptions().timeZone || "UTC";

export const useLog = (sitter: Sitter) =>
  useQuery({
    queryKey: keys.log(sitter.id),
    queryFn: () => call<SittingLog>(`${base(sitter.id)}/log`),
    refetchInterval: 60_000,
  });

export const useWorks = (sitter: Sitter) => useComputed<Work[]>(sitter, "log/works");

/** What can be painted now; it follows from the plan, from what was painted, and from the time. */
export const usePossible = (sitterId: string, wanted = true) =>
  useQuery({
    enabled: wanted,
    queryKey: keys.possible(sitterId),
    queryFn: ({ signal }) => call<Schemas["PossibleOut"]>(`${base(sitterId)}/log/possible`, { signal }),
    refetchInterval: 60_000,
    retry: false,
  });

export const useTrials = () =>
  useQuery({ queryKey: keys.book("trials"), queryFn: () => call<Schemas["TrialsOut"]>("/api/log/trials") });

export const useShelfLog = () =>
  useQuery({
    queryKey: keys.book("shelf"),
    queryFn: () => call<Schemas["ShelfLogOut"]>("/api/log/shelf"),
    refetchInterval: 60_000,
  });

/** Writing down and striking out; without a sitter for what belongs to no picture. */
export function useWriting(sitterId?: string) {
  const client = useQueryClient();
  const notice = useNotice();
  const path = sitterId ? `${base(sitterId)}/log` : "/api/log";
  const refresh = () =>
    Promise.all(touchedByLog.map((name) => client.invalidateQueries({ queryKey: [name] }))).then(
      () => undefined,
    );
  const { mutateAsync, isPending } = useMutation({
    scope: { id: `log-${sitterId ?? ""}` },
    mutationFn: (ask: () => Promise<unknown>) => ask(),
    onError: (error) => notice(error.message),
    onSettled: refresh,
  });
  const run = (ask: () => Promise<unknown>) =>
    mutateAsync(ask).then(
      () => true,
      () => false,
    );
  return {
    isPending,
    /** Read again what may have changed. */
    refresh,
    /** Whether it was written down; if not, the painter was told why. */
    write: (what: Happening, at?: string) => run(() => send("POST", path, { what, ...(at ? { at } : {}) })),
    strike: (entry: string) => run(() => send("DELETE", `${path}/entries/${entry}`)),
  };
}
