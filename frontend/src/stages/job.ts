import type { Sitter } from "../api/client";
import type { Look } from "../picture/look";

/** What every job is given: the sitter as the painter sees it now, and the ways of looking. */
export interface JobProps {
  sitter: Sitter;
  look: Look;
  onLook: (look: Look) => void;
}
