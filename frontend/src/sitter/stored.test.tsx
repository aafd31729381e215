// @vitest-environment jsdom
import { act, renderHook } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";
import { layers, pictures, plainLook, ways } from "../picture/look";
import { useLeft, useStored } from "./stored";

afterEach(() => {
  vi.restoreAllMocks();
  localStorage.clear();
  sessionStorage.clear();
});

it("finds a preference again, each under its own name", () => {
  const first = renderHook(() => useStored("a", 1));
  act(() => first.result.current[1](5));
  expect(first.result.current[0]).toBe(5);
  expect(renderHook(() => useStored("a", 1)).result.current[0]).toBe(5);
  expect(renderHook(() => useStored("b", 1)).result.current[0]).toBe(1);
  expect(localStorage.getItem("true-sitter:a")).toBe("5");
});

it("forgets where a job was left when the window is closed", () => {
  const left = renderHook(() => useLeft("job", "top"));
  act(() => left.result.current[1]("bottom"));
  expect(sessionStorage.getItem("true-sitter:job")).toBe('"bottom"');
  expect(localStorage.length).toBe(0);
});

it("starts anew from what cannot be read, and works where nothing can be kept", () => {
  localStorage.setItem("true-sitter:a", "{broken");
  expect(renderHook(() => useStored("a", 7)).result.current[0]).toBe(7);
  vi.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
    throw new Error("refused");
  });
  const held = renderHook(() => useStored("a", 7));
  act(() => held.result.current[1](8));
  expect(held.result.current[0]).toBe(8);
});

it("shows one picture at a time and any number of layers over it", () => {
  let look = plainLook;
  for (const way of layers) look = way.press(look);
  for (const way of pictures) {
    look = way.press(look);
    expect(pictures.filter((p) => p.on(look))).toEqual([way]);
    expect(layers.every((l) => l.on(look))).toBe(true);
  }
  for (const way of layers) look = way.press(look);
  expect(layers.some((l) => l.on(look))).toBe(false);
});

it("gives every way a key of its own that is no stage's", () => {
  const keys = ways.map((way) => way.key);
  expect(new Set(keys).size).toBe(keys.length);
  expect(keys.some((key) => /[0-9]/.test(key))).toBe(false);
});
