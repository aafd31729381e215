import { afterEach, expect, it, vi } from "vitest";
import { send } from "./client";

afterEach(() => vi.unstubAllGlobals());

/** What the browser was asked for. */
async function asked(method: string, body?: unknown): Promise<RequestInit> {
  const told: RequestInit[] = [];
  vi.stubGlobal("fetch", (_: string, how: RequestInit) => {
    told.push(how);
    return Promise.resolve(new Response("{}"));
  });
  await send(method, "/api/x", body, { "If-Match": '"3"' });
  return told[0] ?? {};
}

it("lets a change that was sent arrive though the page is left", async () => {
  const sent = await asked("PATCH", { set: { zoom: 2 } });
  expect(sent.keepalive).toBe(true);
  expect(sent.body).toBe('{"set":{"zoom":2}}');
  expect(sent.headers).toEqual({ "Content-Type": "application/json", "If-Match": '"3"' });
});

it("asks for nothing to outlive the page that is too large for it, or no change", async () => {
  expect((await asked("PATCH", { note: "x".repeat(40_000) })).keepalive).toBe(false);
  expect((await asked("POST", {})).keepalive).toBe(false);
  expect(await asked("DELETE")).toEqual({ method: "DELETE", headers: { "If-Match": '"3"' } });
});
