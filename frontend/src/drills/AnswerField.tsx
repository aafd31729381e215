import type { Sitter } from "../api/client";
import { Choice } from "./Choice";
import { Drawing } from "./Drawing";
import { Naming } from "./Naming";
import { Parts } from "./Parts";
import type { Drill, Given, Question, Score } from "./useDrills";

export interface FieldProps {
  drill: Drill;
  question: Question;
  sitter: Sitter;
  score: Score | null;
  busy: boolean;
  onAnswer: (given: Given) => void;
}

/** The field in which a drill is answered. */
export function AnswerField(props: FieldProps) {
  switch (props.drill.answered) {
    case "number":
      return <Naming {...props} />;
    case "choice":
      return <Choice {...props} />;
    case "parts":
      return <Parts {...props} />;
    default:
      return <Drawing {...props} />;
  }
}
