// @vitest-environment jsdom
import { render } from "@testing-library/react";
import { expect, it, vi } from "vitest";
import { keyName, useShortcuts, type Shortcuts } from "./shortcuts";

function Layer({ keys }: { keys: Shortcuts }) {
  useShortcuts(keys);
  return null;
}

const press = (target: EventTarget, key: string, more: KeyboardEventInit = {}) =>
  target.dispatchEvent(new KeyboardEvent("keydown", { key, bubbles: true, cancelable: true, ...more }));

it("names keys with what is held", () => {
  const plain = { key: "Z", ctrlKey: false, metaKey: false, shiftKey: true, altKey: false };
  expect(keyName(plain)).toBe("z");
  expect(keyName({ ...plain, ctrlKey: true })).toBe("ctrl+shift+z");
  expect(keyName({ ...plain, metaKey: true, shiftKey: false })).toBe("ctrl+z");
});

it("gives a key to the newest layer that knows it, and back when that is gone", () => {
  const [first, second, other] = [vi.fn(), vi.fn(), vi.fn()];
  const below = render(<Layer keys={{ g: first, "1": other }} />);
  const above = render(<Layer keys={{ g: second }} />);
  press(document.body, "g");
  press(document.body, "1");
  above.unmount();
  press(document.body, "g");
  below.unmount();
  press(document.body, "g");
  expect([first, second, other].map((f) => f.mock.calls.length)).toEqual([1, 1, 1]);
});

it.each([
  ["<input>", "input", false],
  ["<textarea></textarea>", "textarea", false],
  ["<ul role=listbox><li tabindex=0>1</li></ul>", "li", false],
  ["<div role=combobox tabindex=0></div>", "div", false],
  ["<div role=dialog><button>x</button></div>", "button", false],
  ["<input type=range>", "input", true],
  ["<button>x</button>", "button", true],
])("letters belong to what is being written or chosen: %s", (html, selector, works) => {
  document.body.innerHTML = html;
  const run = vi.fn();
  const layer = render(<Layer keys={{ "2": run }} />);
  const target = document.querySelector(selector);
  if (target) press(target, "2");
  expect(run).toHaveBeenCalledTimes(works ? 1 : 0);
  layer.unmount();
});
