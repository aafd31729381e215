import { useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useCallback, useMemo, useSyncExternalStore } from "react";
import { useNotice, type Notice } from "../sitter/notice";
import { base, call, send, type Schemas, type Settings, type Sitter, type StageName } from "./client";
import { ChangeQueue, type ListEdit, type Port } from "./queue";
import { keys } from "./keys";

const queues = new Map<string, ChangeQueue>();

function portOf(id: string, client: QueryClient, notice: Notice): Port {
  const key = keys.sitter(id);
  const match = (revision: number) => ({ "If-Match": `"${revision}"` });
  return {
    read: () => client.getQueryData<Sitter>(key),
    write: (sitter) => client.setQueryData(key, sitter),
    edit: ({ stage, ...edit }, revision) =>
      send<Schemas["ChangeOut"]>("PATCH", `${base(id)}/settings/${stage}`, edit, match(revision)),
    walk: (way, revision) => send<Sitter>("POST", `${base(id)}/${way}`, undefined, match(revision)),
    refresh: async () => client.setQueryData(key, await call<Sitter>(base(id))),
    refused: (error) => notice(error.message),
  };
}

/** Before the page is left while changes wait for an answer, the browser asks. */
export function askBeforeLeaving() {
  window.addEventListener("beforeunload", (e) => {
    if ([...queues.values()].some((queue) => queue.waiting().length > 0)) e.preventDefault();
  });
}

function useQueue(id: string): ChangeQueue {
  const client = useQueryClient();
  const notice = useNotice();
  return useMemo(() => {
    const port = portOf(id, client, notice);
    const queue = queues.get(id)?.through(port) ?? new ChangeQueue(port);
    queues.set(id, queue);
    return queue;
  }, [id, client, notice]);
}

/** Changes of a sitter that are not answered yet. */
export function useWaiting(id: string) {
  const queue = useQueue(id);
  return useSyncExternalStore(queue.watch, queue.waiting);
}

/** Change one stage; the screen shows the new settings at once and falls back when they are refused. */
export function useChange<S extends StageName>(sitter: Sitter, stage: S) {
  const queue = useQueue(sitter.id);
  const isPending = useWaiting(sitter.id).length > 0;
  const change = useCallback(
    (
      set: Partial<Settings[S]>,
      words: string,
      lists: Partial<Record<keyof Settings[S] & string, ListEdit>> = {},
    ) => queue.push({ stage, change: words, set, lists: lists as Record<string, ListEdit> }),
    [queue, stage],
  );
  return { change, isPending };
}

/** Undo and redo, after whatever is still waiting. */
export function useHistory(sitter: Sitter) {
  const queue = useQueue(sitter.id);
  return useCallback((way: "undo" | "redo") => queue.push({ walk: way }), [queue]);
}
