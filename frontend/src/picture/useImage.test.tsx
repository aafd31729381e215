// @vitest-environment jsdom
import { act, renderHook } from "@testing-library/react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { useImage } from "./useImage";

const made: { src: string; onload: () => void; onerror: () => void }[] = [];

beforeEach(() => {
  made.length = 0;
  vi.stubGlobal(
    "Image",
    class {
      src = "";
      onload = () => undefined;
      onerror = () => undefined;
      constructor() {
        made.push(this);
      }
    },
  );
});
afterEach(() => vi.unstubAllGlobals());

const at = (n: number) => {
  const image = made[n];
  if (!image) throw new Error(`no picture ${n} was asked for`);
  return image;
};

it("leaves the picture before on the wall until the new one has come", () => {
  const { result, rerender } = renderHook(({ url }) => useImage(url), { initialProps: { url: "/one" } });
  expect(result.current.loading).toBe(true);
  act(() => at(0).onload());
  expect([result.current.loading, result.current.image]).toEqual([false, at(0)]);
  rerender({ url: "/two" });
  expect([result.current.loading, result.current.image]).toEqual([true, at(0)]);
  act(() => at(1).onload());
  expect(result.current.image).toBe(at(1));
});

it("never shows a picture that came too late", () => {
  const { result, rerender } = renderHook(({ url }) => useImage(url), { initialProps: { url: "/one" } });
  rerender({ url: "/two" });
  act(() => at(1).onload());
  act(() => at(0).onload());
  expect(result.current.image).toBe(at(1));
});

it("says in the server's words why there is no picture, and tries again when asked", async () => {
  const answer = { ok: false, json: () => Promise.resolve({ detail: "The original is missing." }) };
  vi.stubGlobal("fetch", () => Promise.resolve(answer));
  const { result } = renderHook(() => useImage("/one"));
  await act(async () => {
    at(0).onerror();
    await Promise.resolve();
  });
  expect([result.current.trouble, result.current.loading]).toEqual(["The original is missing.", false]);
  act(() => result.current.again());
  expect([result.current.trouble, result.current.loading]).toEqual([null, true]);
  act(() => at(1).onload());
  expect(result.current.image).toBe(at(1));
});

it("says so when nobody answers", async () => {
  vi.stubGlobal("fetch", () => Promise.reject(new Error("gone")));
  const { result } = renderHook(() => useImage("/one"));
  await act(async () => {
    at(0).onerror();
    await new Promise((done) => setTimeout(done));
  });
  expect(result.current.trouble).toContain("Is the application still running?");
});

it("asks for nothing where there is nothing to show", () => {
  const { result } = renderHook(() => useImage(null));
  expect(made).toHaveLength(0);
  expect(result.current).toMatchObject({ image: null, loading: false, trouble: null });
});
