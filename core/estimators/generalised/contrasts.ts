import type { Column, Design, UsedCoding } from "../../design";
import { mean, standardDeviation, twoValues } from "../../numerics/moments";
import { StudyProblem } from "../../problems";
import type { CompiledTheory } from "../../theory";
import { minus } from "../../wording/numbers";
import type { ModelData } from "../engine";
import type { Setting } from "./terms";

/** Two values of a treatment that are compared, everything else as it is. */
export interface Contrast {
  /** Column of the treatment: itself, or that of the level which is looked at. */
  key: string;
  variable: string;
  /** `1 against 0`, `weekly cafe against waiting list`, `6 against 2` */
  label: string;
  upper: string;
  lower: string;
  x1: Setting;
  x0: Setting;
  /** Difference of the two, where it is a number; one for levels. */
  distance: number;
}

/**
 * What is compared of each predictor: every level with the reference, or two values of a number.
 *
 * @param columns columns of the design by key, in the rows that are analysed
 * @throws StudyProblem (`contrast_equal`, `treatment_level_absent`, `compared_not_with_reference`,
 *   `coding_not_indicator`) that names the predictor
 */
export function contrastsOf(
  theory: CompiledTheory,
  data: ModelData,
  design: Design,
  columns: ReadonlyMap<string, Column>,
): Contrast[] {
  return theory.roles.predictors.flatMap((variable): Contrast[] => {
    const own = [...columns.values()].filter((c) => c.variable === variable);
    const coding = design.codings.find((c) => c.variable === variable);
    if (coding) {
      checkComparedLevels(theory, coding, data);
      return levelContrasts(variable, coding, own, data);
    }
    const [column] = own;
    return column ? [numberContrast(theory, column, data)] : [];
  });
}

/**
 * Levels are compared with the reference, all of them: a line that compares two says nothing new
 * where it names the reference second, and is not passed over in silence where it names another or
 * none that there is.
 */
function checkComparedLevels(
  theory: CompiledTheory,
  { variable, levels, columns }: UsedCoding,
  data: ModelData,
): void {
  const said = theory.compared.find((c) => c.of.name === variable);
  if (!said) return;
  const place = { variables: [variable] };
  const [upper, lower] = said.values;
  if (upper === lower)
    throw new StudyProblem("contrast_equal", { name: variable, value: upper }, place);
  const absent = said.values.find((value) => !levels.includes(String(value)));
  if (absent !== undefined)
    throw new StudyProblem(
      "treatment_level_absent",
      { name: variable, value: absent, known: [...levels] },
      place,
    );
  const reference = levels.find((_, i) => columns.every((c) => c.codes[i] === 0))!;
  if (String(lower) !== reference) {
    const labels = data.variables.get(variable)?.labels ?? {};
    const word = (level: string): string => labels[level] ?? level;
    throw new StudyProblem(
      "compared_not_with_reference",
      { name: variable, reference: word(reference), lower: word(String(lower)) },
      place,
    );
  }
}

function levelContrasts(
  variable: string,
  coding: UsedCoding,
  own: readonly Column[],
  data: ModelData,
): Contrast[] {
  if (coding.coding !== "indicator")
    throw new StudyProblem("coding_not_indicator", { name: variable }, { variables: [variable] });
  const labels = data.variables.get(variable)?.labels ?? {};
  const word = (level: string): string => labels[level] ?? level;
  const reference = coding.levels.find((_, i) => coding.columns.every((c) => c.codes[i] === 0))!;
  return coding.columns.map(({ key, codes }): Contrast => {
    const level = coding.levels[codes.indexOf(1)]!;
    const zero = new Map(own.map((c) => [c.key, 0]));
    return {
      key,
      variable,
      label: `${word(level)} against ${word(reference)}`,
      upper: word(level),
      lower: word(reference),
      x1: new Map(own.map((c) => [c.key, c.key === key ? 1 : 0])),
      x0: zero,
      distance: 1,
    };
  });
}

/**
 * Two values of a number: as the theory says, the two that there are, or its mean and one SD more.
 */
function numberContrast(theory: CompiledTheory, column: Column, data: ModelData): Contrast {
  const { key, variable, values } = column;
  const said = theory.compared.find((c) => c.of.name === variable);
  const two = twoValues(values);
  const centre = mean(values);
  const described = data.variables.get(variable);
  const levels = data.typed.get(variable)?.levels;
  // Of numbers a direction goes from the lower to the higher value, whichever was typed first.
  const worded = levels?.some((level) => !Number.isFinite(Number(level))) ?? false;
  const stated =
    said && !worded ? ([...said.values].sort((a, b) => b - a) as [number, number]) : said?.values;
  const [x1, x0] =
    stated ?? (two ? [two[1], two[0]] : [centre + standardDeviation(values), centre]);
  if (x1 === x0)
    throw new StudyProblem(
      "contrast_equal",
      { name: variable, value: x1 },
      { variables: [variable] },
    );
  if (said && two)
    for (const value of said.values)
      if (!two.includes(value))
        throw new StudyProblem(
          "treatment_level_absent",
          { name: variable, value, known: [...two] },
          { variables: [variable] },
        );
  const word = (value: number): string => {
    const level = levels ? levels[value]! : String(value);
    return described?.labels?.[level] ?? (levels ? level : shortNumber(value));
  };
  return {
    key,
    variable,
    label: `${word(x1)} against ${word(x0)}`,
    upper: word(x1),
    lower: word(x0),
    x1: new Map([[key, x1]]),
    x0: new Map([[key, x0]]),
    distance: x1 - x0,
  };
}

const shortNumber = (value: number): string => minus(String(Number(value.toPrecision(4))));
