import { didYouMean, worded } from "./condition";
import { leftOutWords } from "./left-out";

interface OnLine {
  line: number;
}

/** What may be wrong with sentences that are read well but cannot stand together. */
export const THEORY_PROBLEMS = {
  unreadable: worded("notation", ({ complaints }: { complaints: Unreadable[] }) =>
    lines(complaints),
  ),
  unknown_names: worded("unknown_variable", ({ complaints }: { complaints: Unreadable[] }) =>
    lines(complaints),
  ),
  nothing_stated: worded(
    "nothing_to_estimate",
    ({ leftOut }: { leftOut: readonly Parameters<typeof leftOutWords>[0][] }) =>
      leftOut.length === 0
        ? "No sentence states an effect yet. Write one such as “H1: hours raises belonging through confidence”."
        : `No sentence that can be read states an effect. ${leftOut.map(leftOutWords).join(" ")}`,
  ),
  circle: worded(
    "cyclic_model",
    ({ nodes }: { nodes: string[] }) =>
      `The sentences go round in a circle: ${nodes.join(" → ")}. A model needs an order of cause and effect; take one of these steps out.`,
  ),
  effect_on_itself: worded(
    "notation",
    ({ line, name }: OnLine & { name: string }) =>
      `Line ${line}: “${name}” cannot have an effect on itself.`,
  ),
  twice_on_a_route: worded(
    "notation",
    ({ line, nodes }: OnLine & { nodes: string[] }) =>
      `Line ${line}: a variable occurs twice in ${nodes.join(" → ")}.`,
  ),
  adjusted_unexplained: worded(
    "notation",
    ({ line, name }: OnLine & { name: string }) =>
      `Line ${line}: nothing explains “${name}” yet, so it cannot be adjusted. Adjust a mediator or an outcome.`,
  ),
  adjusted_for_itself: worded(
    "notation",
    ({ line, name }: OnLine & { name: string }) =>
      `Line ${line}: “${name}” cannot be adjusted for itself.`,
  ),
  no_such_step: worded(
    "notation",
    ({ line, from, to, nodes }: OnLine & { from: string; to: string; nodes: string[] }) =>
      `Line ${line}: “${from} to ${to}” is no step of ${nodes.join(" → ")}.`,
  ),
  which_step: worded("notation", ({ line, moderators, steps }: WhichStep) => {
    const offers = steps.map(({ from, to }) => `“on ${from} to ${to}”`).join(" or ");
    return `Line ${line}: which step does ${moderators.join(" with ")} act on? Add ${offers} at the end, or join two steps by “and”.`;
  }),
  moderator_with_itself: worded(
    "notation",
    ({ name }: { name: string }) => `“${name}” cannot act together with itself.`,
  ),
  moderator_of_own_step: worded(
    "notation",
    ({ name, from, to }: { name: string; from: string; to: string }) =>
      `“${name}” cannot moderate the step from “${from}” to “${to}”, of which it is a part.`,
  ),
  no_such_sentence: worded("notation", ({ line, name, near, known }: NoSentence) => {
    const listed = known.length > 0 ? ` Known: ${known.join(", ")}.` : "";
    return `Line ${line}: no earlier sentence is called “${name}”.${near ? didYouMean(near) : listed}`;
  }),
  no_such_effect: worded("notation", ({ line, from, to, which, chain }: NoEffect) => {
    const what = chain.length > 0 ? `${which} (through ${chain.join(", then ")})` : which;
    return `Line ${line}: ${from} has no ${what} effect on ${to} in this theory.`;
  }),
  no_effect_there: worded(
    "notation",
    ({ line, name }: OnLine & { name: string }) =>
      `Line ${line}: “${name}” has no effect there in this theory; add the path or choose another effect.`,
  ),
  no_single_effect: worded(
    "notation",
    ({ line, name, columns }: OnLine & { name: string; columns: number }) =>
      `Line ${line}: “${name}” has ${columns} code columns, so it has no single effect to calculate with. Let the sentence compare two levels, as in “${name} ("one" against "another")”.`,
  ),
  no_levels: worded(
    "notation",
    ({ line, name }: OnLine & { name: string }) =>
      `Line ${line}: “${name}” is not categorical here, so it has no levels to compare. Leave the comparison out.`,
  ),
  no_such_level: worded(
    "notation",
    ({ line, name, level, near, levels }: NoLevel) =>
      `Line ${line}: “${name}” has no level “${level}” among the rows used.${didYouMean(near)} Levels: ${levels.join(", ")}.`,
  ),
  categorical_outcome: worded(
    "wrong_level",
    ({ name }: { name: string }) =>
      `“${name}” is categorical, so an equation cannot explain it. Make it binary or numeric, or let it stand only on the left of a sentence.`,
  ),
  categorical_curve: worded(
    "wrong_level",
    ({ name }: { name: string }) =>
      `“${name}” is categorical, so its effect cannot change with itself. Only a numeric variable has a curve.`,
  ),
  more_coefficients_than_rows: worded(
    "too_few_cases",
    ({ outcome, coefficients, rows }: TooManyCoefficients) =>
      `The equation of “${outcome}” has ${coefficients} coefficients but only ${rows} complete rows. Take predictors out or find more rows.`,
  ),
  constant_in_equation: worded(
    "constant_variable",
    ({ name, value, outcome }: { name: string; value: number; outcome: string }) =>
      `“${name}” has the same value (${value}) in every row used, so the equation of “${outcome}” cannot be estimated. Take it out or check which rows are complete.`,
  ),
  determined_predictor: worded("collinear", ({ outcome, column, partners }: Determined) => {
    const rest =
      partners.length > 0 ? partners.map((one) => `“${one}”`).join(", ") : "the columns before it";
    return `In the equation of “${outcome}”, “${column}” is completely determined by ${rest}. Take one of them out.`;
  }),
};

const lines = (complaints: Unreadable[]): string =>
  complaints.map((c) => `Line ${c.line}, column ${c.column}: ${c.message}`).join("\n");

interface Unreadable {
  line: number;
  column: number;
  message: string;
}
interface WhichStep extends OnLine {
  moderators: string[];
  steps: { from: string; to: string }[];
}
interface NoSentence extends OnLine {
  name: string;
  near: string | null;
  known: string[];
}
interface NoEffect extends OnLine {
  from: string;
  to: string;
  which: string;
  chain: string[];
}
interface NoLevel extends OnLine {
  name: string;
  level: string;
  near: string | null;
  levels: string[];
}
interface TooManyCoefficients {
  outcome: string;
  coefficients: number;
  rows: number;
}
interface Determined {
  outcome: string;
  column: string;
  partners: string[];
}
