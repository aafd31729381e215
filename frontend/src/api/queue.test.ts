import { describe, expect, it } from "vitest";
import type { Sitter } from "./client";
import { answered, applied, ChangeQueue, overlaid, type Edit, type Port } from "./queue";

const sitter = (over: Partial<Sitter> = {}) =>
  ({
    id: "a",
    revision: 3,
    keys: { values: "k3" },
    undo: null,
    redo: null,
    settings: {
      flesh: { black: true, monochrome: false, clip: false, pins: [] },
      hair: { guides: [1, 2, 3], spacing_mm: 6 },
    },
    ...over,
  }) as unknown as Sitter;

const flag = (name: string, value: unknown): Edit => ({
  stage: "flesh",
  change: name,
  set: { [name]: value },
});

/** A server that answers late, in order, and remembers what it was asked. */
function slowServer(start = sitter()) {
  let here = start;
  const asked: number[] = [];
  const said: string[] = [];
  let refuse: string | null = null;
  const queue: ChangeQueue = new ChangeQueue({
    read: () => here,
    write: (next) => (here = next),
    edit: async (edit, revision) => {
      asked.push(revision);
      await new Promise((done) => setTimeout(done, 5));
      if (refuse === edit.change) throw new Error(`not ${edit.change}`);
      return {
        before: revision,
        revision: revision + 1,
        keys: { values: `k${revision + 1}` },
        undo: edit.change,
        redo: null,
        set: edit.set ?? {},
        lists: {},
      };
    },
    walk: (way, revision) => Promise.resolve(sitter({ revision: revision + 1, undo: way })),
    refresh: () => Promise.resolve((here = { ...here, revision: 99 })),
    refused: (error) => said.push(error.message),
  } satisfies Port);
  const idle = async () => {
    while (queue.waiting().length) await new Promise((done) => setTimeout(done, 2));
  };
  return {
    queue,
    idle,
    asked,
    said,
    seen: () => overlaid(here, queue.waiting()),
    refuseOnly: (name: string) => (refuse = name),
  };
}

describe("edits", () => {
  it("set fields and leave the others", () => {
    const after = applied(sitter().settings, flag("black", false)) as unknown as Record<
      string,
      Record<string, unknown>
    >;
    expect(after["flesh"]).toEqual({ black: false, monochrome: false, clip: false, pins: [] });
    expect(after["hair"]).toEqual(sitter().settings.hair);
  });

  it.each([
    [{ add: [9] }, [1, 2, 3, 9]],
    [{ start: 1, remove: 1 }, [1, 3]],
    [{ start: 1, remove: 2, add: [7] }, [1, 7]],
    [{ start: 0, add: [8] }, [8, 1, 2, 3]],
  ])("change a list: %j", (guides, expected) => {
    const after = applied(sitter().settings, { stage: "hair", lists: { guides } });
    expect(after.hair.guides).toEqual(expected);
  });

  it("an answer made on another revision is not patched in", () => {
    const answer = { before: 4, revision: 5, keys: {}, undo: null, redo: null, set: {}, lists: {} };
    expect(answered(sitter(), flag("black", false), answer)).toBeNull();
    expect(answered(sitter({ revision: 4 }), flag("black", false), answer)?.revision).toBe(5);
  });
});

describe("the queue", () => {
  it("keeps what was clicked in quick succession while answers are late", async () => {
    const { queue, idle, asked, seen } = slowServer();
    queue.push(flag("black", false));
    queue.push(flag("monochrome", true));
    queue.push(flag("clip", true));
    const shown = [];
    while (queue.waiting().length) {
      shown.push(JSON.stringify(seen().settings.flesh));
      await new Promise((done) => setTimeout(done, 1));
    }
    await idle();
    const wanted = { black: false, monochrome: true, clip: true, pins: [] };
    expect(new Set(shown)).toEqual(new Set([JSON.stringify(wanted)]));
    expect(seen().settings.flesh).toEqual(wanted);
    expect(asked).toEqual([3, 4, 5]);
    expect(seen().keys).toEqual({ values: "k6" });
  });

  it("says what was refused and keeps the rest", async () => {
    const { queue, idle, said, seen, refuseOnly } = slowServer();
    refuseOnly("monochrome");
    queue.push(flag("monochrome", true));
    queue.push(flag("clip", true));
    await idle();
    expect(said).toEqual(["not monochrome"]);
    expect(seen().settings.flesh.monochrome).toBe(false);
    expect(seen().settings.flesh.clip).toBe(true);
  });

  it("undoes after what was still waiting", async () => {
    const { queue, idle, asked, seen } = slowServer();
    queue.push(flag("clip", true));
    queue.push({ walk: "undo" });
    await idle();
    expect(asked).toEqual([3]);
    expect(seen().undo).toBe("undo");
    expect(seen().revision).toBe(5);
  });

  it("tells its watchers until they leave", async () => {
    const { queue, idle } = slowServer();
    let told = 0;
    const leave = queue.watch(() => (told += 1));
    queue.push(flag("clip", true));
    await idle();
    expect(told).toBe(2);
    leave();
    queue.push(flag("clip", false));
    await idle();
    expect(told).toBe(2);
  });
});
