/**
 * Under which names answers are remembered. A name alone stands for all that begin with it,
 * so that what a change may touch can be asked for anew in one go.
 */
export const keys = {
  door: ["door"],
  keeping: ["keeping"],
  library: ["library"],
  rack: ["rack"],
  brushes: ["brushes"],
  canvas: ["canvas"],
  sitters: ["sitters"],
  sitter: (id: string) => ["sitter", id],
  computed: (id: string | undefined, path: string, query: string, settings: string | undefined) => [
    "computed",
    id,
    path,
    query,
    settings,
  ],
  done: (id: string) => ["done", id],
  log: (id: string) => ["log", id],
  possible: (id: string) => ["possible", id],
  book: (part: string, ...more: (string | number)[]) => ["book", part, ...more],
  habits: (id: string, compared: string | undefined) => ["habits", id, compared],
  drills: ["drills"],
  drillRound: (id: string | undefined, query: string) => ["drill-round", id, query],
  drillsWanted: (id: string | undefined) => ["drills-wanted", id],
};

/** Whatever an entry in the log may change: own pace changes plans, paint used the rack, a pass its tick. */
export const touchedByLog = ["possible", "book", "sitters", "rack", "library", "done", "log", "sitter"];
