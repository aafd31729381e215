/** Ways of looking, the same in every stage. */
export interface Look {
  /** The picture on the wall: one of these at a time. */
  picture: "colour" | "grey" | "squint" | "groups" | "masses" | "colour-groups";
  /** What lies over it: any of these together. */
  grid: boolean;
  outlines: boolean;
  regions: boolean;
  /** Edges as lines, the harder the heavier. */
  edges: boolean;
  /** How it hangs. */
  mirror: boolean;
  upsideDown: boolean;
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

export interface Way {
  key: string;
  label: string;
  /** What it is, in full. */
  title: string;
  on: (look: Look) => boolean;
  press: (look: Look) => Look;
}

const show = (picture: Look["picture"], key: string, label: string, title = label): Way => ({
  key,
  label,
  title,
  on: (look) => look.picture === picture,
  press: (look) => ({ ...look, picture }),
});

type Flag = Exclude<keyof Look, "picture">;

const flip = (part: Flag, key: string, label: string, title = label): Way => ({
  key,
  label,
  title,
  on: (look) => look[part],
  press: (look) => ({ ...look, [part]: !look[part] }),
});

/** One picture at a time; then what lies over it and how it hangs, in any number. */
export const pictures: Way[] = [
  show("colour", "c", "colour", "the photograph in colour"),
  show("grey", "g", "grey", "values without colour"),
  show("squint", "s", "squint", "as narrowed eyes see it"),
  show("groups", "v", "groups", "value groups in their greys"),
  show("masses", "q", "masses", "value groups of the squinted picture"),
  show("colour-groups", "f", "flat", "value groups in their mean colours"),
];
export const layers: Way[] = [
  flip("outlines", "o", "outlines", "outlines of the value shapes"),
  flip("edges", "d", "edges", "edges, the harder the heavier"),
  flip("regions", "e", "regions", "skin, hair, cloth as found"),
  flip("grid", "r", "grid", "the canvas's grid"),
  flip("mirror", "m", "mirror", "left to right"),
  flip("upsideDown", "u", "turn", "upside down"),
  flip("beside", "b", "beside", "the photograph beside it"),
];
export const ways = [...pictures, ...layers];
