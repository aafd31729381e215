import { lazy, type ComponentType, type LazyExoticComponent } from "react";
import type { JobProps } from "../stages/job";

type Load = LazyExoticComponent<ComponentType<JobProps>>;

export interface JobEntry {
  label: string;
  Job: Load;
}

/** A job is loaded when it is opened. */
const job = <N extends string>(
  label: string,
  name: N,
  load: () => Promise<Record<N, ComponentType<JobProps>>>,
): JobEntry => ({
  label,
  Job: lazy(() => load().then((module) => ({ default: module[name] }))),
});

/** Stages and their jobs, in order; the names are those of their addresses. */
export const stages = {
  reference: {
    label: "Reference",
    jobs: {
      frame: job("frame", "FrameJob", () => import("../stages/reference/FrameJob")),
      colour: job("colour", "ColourJob", () => import("../stages/reference/ColourJob")),
      grid: job("grid", "GridJob", () => import("../stages/reference/GridJob")),
      measure: job("measure", "MeasureJob", () => import("../stages/reference/MeasureJob")),
      regions: job("regions", "RegionsJob", () => import("../stages/reference/RegionsJob")),
    },
  },
  values: {
    label: "Values",
    jobs: {
      groups: job("groups", "GroupsJob", () => import("../stages/values/GroupsJob")),
      shapes: job("shapes", "ShapesJob", () => import("../stages/values/ShapesJob")),
      edges: job("edges", "EdgesJob", () => import("../stages/values/EdgesJob")),
      compare: job("compare", "CompareJob", () => import("../stages/values/CompareJob")),
      sketches: job("sketches", "SketchesJob", () => import("../stages/values/SketchesJob")),
    },
  },
  flesh: {
    label: "Flesh",
    jobs: {
      skin: job("skin", "SkinJob", () => import("../stages/flesh/SkinJob")),
      spot: job("spot", "SpotJob", () => import("../stages/flesh/SpotJob")),
      glaze: job("glaze", "GlazeJob", () => import("../stages/flesh/GlazeJob")),
      board: job("board", "BoardJob", () => import("../stages/flesh/BoardJob")),
      amounts: job("amounts", "AmountsJob", () => import("../stages/flesh/AmountsJob")),
      tubes: job("tubes", "TubesJob", () => import("../stages/flesh/TubesJob")),
    },
  },
  light: {
    label: "Light",
    jobs: {
      light: job("light", "LightJob", () => import("../stages/light/LightJob")),
      form: job("form", "FormJob", () => import("../stages/light/FormJob")),
      peaks: job("peaks", "PeaksJob", () => import("../stages/light/PeaksJob")),
      highlights: job("highlights", "HighlightsJob", () => import("../stages/light/HighlightsJob")),
      recesses: job("recesses", "RecessesJob", () => import("../stages/light/RecessesJob")),
      colour: job("colour", "ColourJob", () => import("../stages/light/ColourJob")),
      eyes: job("eyes", "EyesJob", () => import("../stages/light/EyesJob")),
    },
  },
  hair: {
    label: "Hair",
    jobs: {
      growth: job("growth", "GrowthJob", () => import("../stages/hair/GrowthJob")),
      locks: job("locks", "LocksJob", () => import("../stages/hair/LocksJob")),
      layers: job("layers", "LayersJob", () => import("../stages/hair/LayersJob")),
      edges: job("edges", "EdgesJob", () => import("../stages/hair/EdgesJob")),
      practice: job("practice", "PracticeJob", () => import("../stages/hair/PracticeJob")),
    },
  },
  passes: {
    label: "Passes",
    jobs: {
      plan: job("plan", "PlanJob", () => import("../stages/passes/PlanJob")),
      school: job("school", "SchoolJob", () => import("../stages/passes/SchoolJob")),
      ground: job("ground", "GroundJob", () => import("../stages/passes/GroundJob")),
      backdrop: job("backdrop", "BackgroundJob", () => import("../stages/passes/BackgroundJob")),
      focus: job("focus", "FocusJob", () => import("../stages/passes/FocusJob")),
      sittings: job("sittings", "SittingsJob", () => import("../stages/passes/SittingsJob")),
      kit: job("kit", "KitJob", () => import("../stages/passes/KitJob")),
      book: job("book", "BookJob", () => import("../stages/passes/BookJob")),
      takeoff: job("take off", "TakeOffJob", () => import("../stages/passes/TakeOffJob")),
    },
  },
  easel: {
    label: "Easel",
    jobs: {
      takein: job("take in", "TakeInJob", () => import("../stages/easel/TakeInJob")),
      compare: job("compare", "CompareJob", () => import("../stages/easel/CompareJob")),
      stand: job("stand", "StandJob", () => import("../stages/easel/StandJob")),
      again: job("again", "AgainJob", () => import("../stages/easel/AgainJob")),
      sections: job("sections", "SectionsJob", () => import("../stages/easel/SectionsJob")),
      dab: job("dab", "DabJob", () => import("../stages/easel/DabJob")),
      print: job("print", "PrintJob", () => import("../stages/easel/PrintJob")),
      notes: job("notes", "NotesJob", () => import("../stages/easel/NotesJob")),
    },
  },
  log: {
    label: "Log",
    jobs: {
      sitting: job("sitting", "SittingJob", () => import("../stages/log/SittingJob")),
      record: job("record", "RecordJob", () => import("../stages/log/RecordJob")),
    },
  },
} as const satisfies Record<string, { label: string; jobs: Record<string, JobEntry> }>;

export type StageKey = keyof typeof stages;
export const stageKeys = Object.keys(stages) as StageKey[];
