import type { Column, Design } from "../design";
import { pathsBetween, type CompiledTheory } from "../theory";
import { twoValues } from "../numerics/moments";
import type { BootstrapSummary } from "../inference";
import { linearSensitivity, type Guess, type LinearTriad } from "./linear";
import type { SensitivitySection } from "./types";

/** What is compared of a treatment's column, in its units and in words. */
export interface Comparison {
  distance: number;
  label: string;
}

/**
 * Effects through exactly one mediator where both equations are straight lines without products,
 * explained by the same covariates: what the sensitivity of an indirect effect can be told of.
 * @param straight is an equation a straight line?
 * @param comparison what is compared of a column of a predictor
 */
export function linearTriads(
  theory: CompiledTheory,
  design: Design,
  straight: (outcome: string) => boolean,
  comparison: (column: Column) => Comparison,
): LinearTriad[] {
  return theory.roles.predictors.flatMap((treatment) =>
    theory.roles.outcomes.flatMap((outcome): LinearTriad[] => {
      const between = [
        ...new Set(
          pathsBetween(theory.paths, treatment, outcome).flatMap((nodes) => nodes.slice(1, -1)),
        ),
      ];
      const [mediator] = between;
      if (mediator === undefined || between.length > 1) return [];
      const find = (name: string) => design.equations.find((e) => e.outcome === name)!;
      const [ofM, ofY] = [find(mediator), find(outcome)];
      if (!straight(mediator) || !straight(outcome)) return [];
      if ([...ofM.columns, ...ofY.columns].some((c) => c.components)) return [];
      const keys = (columns: readonly Column[]): string[] => columns.map((c) => c.key).sort();
      const same = [...keys(ofM.columns), mediator].sort().join() === keys(ofY.columns).join();
      if (!same) return [];
      return ofM.columns
        .filter((c) => c.variable === treatment)
        .map((own): LinearTriad => {
          const { distance, label } = comparison(own);
          return {
            treatment,
            contrast: label,
            mediator,
            outcome,
            distance,
            x: own.values,
            m: ofM.y,
            y: ofY.y,
            others: ofM.columns
              .filter((c) => c !== own)
              .map((c) => ({
                label: c.label,
                values: c.values,
                benchmark: c.variable !== treatment,
              })),
          };
        });
    }),
  );
}

/**
 * What is compared where nothing else is known: values as they are stated, the two that there are,
 * or one unit.
 */
export const comparisonIn =
  (theory: CompiledTheory) =>
  (column: Column): Comparison => {
    if (column.contrast !== null) return { distance: 1, label: column.contrast };
    const said = theory.compared.find((c) => c.of.name === column.variable);
    const two = twoValues(column.values);
    if (said) {
      const [x1, x0] = said.values;
      return { distance: x1 - x0, label: `${x1} against ${x0}` };
    }
    if (two) return { distance: two[1] - two[0], label: `${two[1]} against ${two[0]}` };
    return { distance: 1, label: "one unit more" };
  };

/** The section of all effects that it can be told of; none where there are none. */
export function sensitivityOf(
  triads: readonly LinearTriad[],
  level: number,
  guesses: readonly Guess[],
  resampled?: (triad: number, at: number) => BootstrapSummary | null,
): SensitivitySection[] {
  const effects = triads.flatMap((triad, t) => {
    const own = linearSensitivity(triad, level, guesses, (at) => resampled?.(t, at) ?? null);
    return own ? [own] : [];
  });
  return effects.length > 0 ? [{ kind: "sensitivity", effects }] : [];
}
