import type { components } from "./schema";

export type Schemas = components["schemas"];
export type Sitter = Schemas["SitterOut"];
export type Settings = Sitter["settings"];
export type StageName = keyof Settings;
export type Mixture = Schemas["MixtureOut"];
export type Tube = Schemas["Tube"];

/** An answer that says in a sentence what is wrong. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    detail: string,
  ) {
    super(detail);
  }
}

export async function call<T>(path: string, options: RequestInit = {}): Promise<T> {
  let answer: Response;
  try {
    answer = await fetch(path, options);
  } catch {
    throw new Problem(0, "The application does not answer. Is it still running?");
  }
  if (answer.status === 204) return undefined as T;
  const body: unknown = await answer.json().catch(() => null);
  if (!answer.ok) {
    const detail = (body as { detail?: string } | null)?.detail;
    throw new Problem(answer.status, detail ?? `The application answered with error ${answer.status}.`);
  }
  return body as T;
}

/** Bytes of what may still be on its way when the page is left: browsers allow 64 KiB in all. */
const OUTLIVES = 30_000;

export function send<T>(
  method: string,
  path: string,
  body?: unknown,
  headers: Record<string, string> = {},
): Promise<T> {
  if (body === undefined) return call<T>(path, { method, headers });
  const written = JSON.stringify(body);
  return call<T>(path, {
    method,
    headers: { "Content-Type": "application/json", ...headers },
    body: written,
    // A change that was sent arrives though the page is left or loaded anew.
    keepalive: method === "PATCH" && written.length < OUTLIVES,
  });
}

export const base = (id: string) => `/api/sitters/${id}`;

/** Address of a picture; the key makes it change exactly when the picture does. */
export const pictureUrl = (sitter: Sitter, view: string) =>
  `${base(sitter.id)}/pictures/${view}?v=${sitter.keys[`pictures/${view}`] ?? ""}`;
