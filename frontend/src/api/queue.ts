import type { Schemas, Settings, Sitter, StageName } from "./client";

type ChangeOut = Schemas["ChangeOut"];
type Row = Record<string, unknown>;

/** Entries of a list taken out and put in; without a start, at the end. */
export interface ListEdit {
  start?: number | null;
  remove?: number;
  add?: unknown[];
}

/** Something the painter changed, not yet answered. */
export interface Edit {
  stage: StageName;
  change: string;
  set?: Record<string, unknown>;
  lists?: Record<string, ListEdit>;
}

export type Step = Edit | { walk: "undo" | "redo" };

const isWalk = (step: Step): step is { walk: "undo" | "redo" } => "walk" in step;

function editedList(rows: readonly unknown[], { start = null, remove = 0, add = [] }: ListEdit): unknown[] {
  const at = start ?? rows.length;
  return [...rows.slice(0, at), ...add, ...rows.slice(at + remove)];
}

/** Settings with an edit applied. */
export function applied(settings: Settings, edit: Pick<Edit, "stage" | "set" | "lists">): Settings {
  const stage = settings[edit.stage] as unknown as Row;
  const lists = Object.entries(edit.lists ?? {}).map(([name, change]) => [
    name,
    editedList(stage[name] as unknown[], change),
  ]);
  return { ...settings, [edit.stage]: { ...stage, ...edit.set, ...(Object.fromEntries(lists) as Row) } };
}

/** The sitter as the painter sees it: what was answered, and on top of it what was not answered yet. */
export function overlaid(sitter: Sitter, steps: readonly Step[]): Sitter {
  const edits = steps.filter((step): step is Edit => !isWalk(step));
  return edits.length === 0 ? sitter : { ...sitter, settings: edits.reduce(applied, sitter.settings) };
}

/** A sitter after an answered edit, or null when it was made on another revision than is known here. */
export function answered(sitter: Sitter, edit: Edit, answer: ChangeOut): Sitter | null {
  if (answer.before !== sitter.revision) return null;
  const settings = applied(sitter.settings, {
    stage: edit.stage,
    set: answer.set,
    lists: answer.lists,
  });
  return {
    ...sitter,
    settings,
    revision: answer.revision,
    keys: answer.keys,
    undo: answer.undo,
    redo: answer.redo,
  };
}

export interface Port {
  /** The sitter as last answered. */
  read: () => Sitter | undefined;
  write: (sitter: Sitter) => void;
  edit: (edit: Edit, revision: number) => Promise<ChangeOut>;
  walk: (way: "undo" | "redo", revision: number) => Promise<Sitter>;
  /** Ask for the sitter anew and write it. */
  refresh: () => Promise<unknown>;
  refused: (error: Error) => void;
}

/** Changes of one sitter, sent one after the other; nothing waiting is lost when an answer comes. */
export class ChangeQueue {
  private steps: readonly Step[] = [];
  private running = false;
  private readonly watchers = new Set<() => void>();

  constructor(private port: Port) {}

  /** The same queue, speaking through another port. */
  through(port: Port) {
    this.port = port;
    return this;
  }

  waiting = () => this.steps;

  watch = (tell: () => void) => {
    this.watchers.add(tell);
    return () => this.watchers.delete(tell);
  };

  push(step: Step) {
    this.set([...this.steps, step]);
    void this.run();
  }

  private set(steps: readonly Step[]) {
    this.steps = steps;
    this.watchers.forEach((tell) => tell());
  }

  private async run() {
    if (this.running) return;
    this.running = true;
    for (let step = this.steps[0]; step; step = this.steps[0]) {
      await this.take(step);
      this.set(this.steps.slice(1));
    }
    this.running = false;
  }

  private async take(step: Step) {
    const known = this.port.read();
    try {
      if (!known) return;
      if (isWalk(step)) {
        this.port.write(await this.port.walk(step.walk, known.revision));
        return;
      }
      const after = answered(known, step, await this.port.edit(step, known.revision));
      if (after) this.port.write(after);
      else await this.port.refresh();
    } catch (error) {
      this.port.refused(error as Error);
      await this.port.refresh().catch(() => undefined);
    }
  }
}
