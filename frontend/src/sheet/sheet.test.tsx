// @vitest-environment jsdom
import { render, screen } from "@testing-library/react";
import { expect, it } from "vitest";
import { counted, LadderWayContext, type LadderWay } from "../sitter/ladderWay";
import { glossary } from "./glossary";
import { Recipe, type Tubes } from "./Recipe";
import { Value } from "./Value";

const tube = (name: string, hex: string) => ({ name, hex, ci_name: null, family: "earth", left_ml: null });
const tubes = new Map([
  ["ochre", tube("Yellow ochre", "#b5803a")],
  ["blue", tube("A strong blue", "#102060")],
]) as unknown as Tubes;

function withCount(count: LadderWay["count"], of: number) {
  const { container } = render(
    <LadderWayContext value={[{ count, of: "picture" }, () => undefined]}>
      <Value of={of} />
    </LadderWayContext>,
  );
  return container.textContent;
}

it("writes values as the painter counts them", () => {
  expect(withCount("up", 7.26)).toBe("7.3");
  expect(withCount("down", 7.26)).toBe("2.7");
  expect(counted(9, "down")).toBe(1);
  expect(counted(9, "up")).toBe(9);
});

it("writes a recipe in parts, tubes by their names", () => {
  const { container } = render(<Recipe parts={{ ochre: 3, blue: 1, unknown: 2 }} tubes={tubes} />);
  expect(container.textContent).toBe("3 Yellow ochre : 1 A strong blue : 2 unknown");
});

it("tells a wash with its water", () => {
  const { container } = render(
    <Recipe parts={{ ochre: 1 }} tubes={tubes} thinned="1 of paint to 27 of water, a trace" />,
  );
  expect(container.textContent).toBe("1 Yellow ochre; 1 of paint to 27 of water, a trace");
});

it("tells a strong tube by the heap it is weakened in", () => {
  const heap = {
    into: "ochre",
    tubes: ["blue"],
    times: { blue: 1 },
    parts: { ochre: 5, blue: 2 },
    hexes: { blue: "#8080a0" },
    sentence: "1 A strong blue in 20 Yellow ochre",
  };
  render(<Recipe parts={{ ochre: 145, blue: 2 }} tubes={tubes} heap={heap as never} />);
  expect(screen.getByText("weakened", { exact: false }).closest("span")?.textContent).toContain(
    "2 A strong blue",
  );
  expect(screen.getByText(/First weaken/).textContent).toBe(
    "First weaken: 1 A strong blue in 20 Yellow ochre.",
  );
  expect(screen.queryByText("145")).toBeNull();
});

it("explains every word once, in whole sentences", () => {
  const words = glossary.map(([word]) => word.toLowerCase());
  expect(new Set(words).size).toBe(words.length);
  for (const [, meaning] of glossary) expect(meaning).toMatch(/[.]$/);
});
