import type { ReactNode } from "react";
import type { WorkspaceProps } from "../sitter/Workspace";

/** One job of a stage: what its sheet says and what the wall does meanwhile. */
export interface Job {
  sheet: ReactNode;
  wall: Partial<WorkspaceProps>;
}
