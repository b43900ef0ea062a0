import type { ProblemCode } from "../wording/problem-types";
import { PROBLEMS, type Condition, type ConditionData } from "../wording";
import type { Words } from "../wording/condition";

export type { ProblemCode, Warning } from "../wording/problem-types";

/** What a message is about, so that a screen can lead the reader to it. */
export interface ProblemPlace {
  equation?: string;
  variables?: string[];
  /** 1-based data row of the imported file, header not counted. */
  row?: number;
  line?: number;
  column?: number;
}

/**
 * An error of the study (not of the program), as data; its text, said in `wording`, names what is
 * concerned and what to do.
 * @example new StudyProblem("no_column", { name: "hourz", near: "hours" }, { variables: ["hourz"]
 *   })
 */
export class StudyProblem<C extends Condition = Condition> extends Error {
  readonly code: ProblemCode;

  constructor(
    readonly condition: C,
    readonly data: ConditionData<C>,
    readonly place: ProblemPlace = {},
  ) {
    const { code, say } = PROBLEMS[condition] as Words<ConditionData<C>>;
    super(say(data));
    this.code = code;
    this.name = "StudyProblem";
  }
}
