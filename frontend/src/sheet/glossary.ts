/** What the words on the screen mean; one list for the whole application. */
export const glossary: [string, string][] = [
  [
    "Value",
    "How light or dark a colour is, whatever its hue: 0 is black, 10 white. You can also count from 9 (dark) to 1 (light).",
  ],
  [
    "Value group",
    "Everything between two cuts of the value ladder, painted as one flat value. Group 1 is the darkest.",
  ],
  ["Cut", "The value at which one group ends and the next begins: a rung of the ladder."],
  ["Shape", "One connected patch of a value group, large enough to paint."],
  ["Grey", "The photograph with its colour taken away: values only."],
  ["Squint", "The photograph as narrowed eyes see it: small things blur into big ones."],
  ["Groups", "The picture cut into your value groups, each in its own grey."],
  ["Squinted groups", "The same cuts on the squinted picture: only the big masses are left."],
  ["Flat colours", "Your value groups, each filled with its mean colour on skin, hair, cloth or background."],
  [
    "Edge",
    "How fast one shape passes into the next: hard, firm, soft, or lost where the difference is too small to see.",
  ],
  [
    "Overworked",
    "A place where small marks differ more than the big shapes under them; keep it quieter than it looks.",
  ],
  ["Target", "The colour of the photograph brought within what your paint can reach."],
  ["Mixture", "What the parts of paint are reckoned to look like when dry."],
  [
    "Colour difference",
    "How far two colours are apart (CIEDE2000): below 1 nobody sees it, 3 is seen side by side, above 6 it is plainly another colour.",
  ],
  ["Parts", "Shares by volume: equal little heaps of paint."],
  [
    "Weakened",
    "A strong tube is first mixed 1 part into 20 of the main tube; parts are then counted from that weaker heap.",
  ],
  ["Thinned", "Whole parts of paint to parts of water or medium: stiff, soft, runny, thin, or a trace."],
  [
    "Strength of thin layers",
    "How much paint a thinned layer leaves. A swatch of known dilution, read dry, tells it for your tubes.",
  ],
  ["Open time", "How long an edge laid in wet paint can still be moved."],
  ["String", "A row of mixtures from dark to light, each made from the one before."],
  [
    "Adjustment",
    "The smallest addition to a mixture that makes it warmer, cooler, lighter, darker, redder, greener or greyer.",
  ],
  ["Masstone", "A tube's colour at full strength, laid thick."],
  ["Tint", "One part of a tube in ten parts of titanium white."],
  ["Light peak", "One of the brightest places on the skin."],
  ["Zone", "How far the light of the peaks is carried over the skin, in four coats of one colour."],
  ["Growth line", "A line along the hair from its root (dot) to its tip (arrow)."],
  ["Whorl", "A place from which hair turns outward."],
  ["Pass", "One layer of the plan: where it goes, with what, and how long it dries."],
  ["Certainty", "How sure the program is of a region, in per cent; 90 is good, below 70 wants a stroke."],
];
