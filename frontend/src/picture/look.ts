/** Ways of looking, the same in every stage. */
export interface Look {
  picture: "colour" | "grey" | "squint" | "groups" | "colour-groups" | "macro" | "canvas";
  grid: boolean;
  outlines: boolean;
  regions: boolean;
  mirror: boolean;
  upsideDown: boolean;
  /** Edges as lines, the harder the heavier. */
  edges: boolean;
  /** The photograph in colour beside the chosen view. */
  beside: boolean;
}

export const plainLook: Look = {
  picture: "colour",
  grid: false,
  outlines: false,
  regions: false,
  mirror: false,
  upsideDown: false,
  edges: false,
  beside: false,
};

export const pictureKinds: Record<Exclude<Look["picture"], "canvas">, string> = {
  colour: "frame",
  grey: "frame",
  squint: "squint",
  groups: "values",
  "colour-groups": "flesh",
  macro: "looking",
};

export interface Way {
  key: string;
  label: string;
  on: (look: Look) => boolean;
  press: (look: Look) => Look;
}

const show = (picture: Look["picture"], key: string, label: string): Way => ({
  key,
  label,
  on: (look) => look.picture === picture,
  press: (look) => ({ ...look, picture }),
});

const flip = (part: "grid" | "outlines" | "regions" | "mirror" | "upsideDown" | "edges" | "beside", key: string, label: string): Way => ({
  key,
  label,
  on: (look) => look[part],
  press: (look) => ({ ...look, [part]: !look[part] }),
});

export const ways: Way[] = [
  show("colour", "c", "colour"),
  show("grey", "g", "grey"),
  show("squint", "s", "squint"),
  show("groups", "v", "groups"),
  show("macro", "q", "masses"),
  show("colour-groups", "f", "flat colour"),
  flip("outlines", "o", "outlines"),
  flip("edges", "d", "edges"),
  flip("regions", "e", "regions"),
  flip("grid", "r", "grid"),
  flip("mirror", "m", "mirror"),
  flip("upsideDown", "u", "upside down"),
  flip("beside", "b", "beside"),
];
