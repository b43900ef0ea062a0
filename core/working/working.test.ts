import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { workedOut } from "../test-kit/workings";
import {
  alphaWorking,
  analyse,
  compositeMeasurementWorking,
  compositePathsWorking,
  dataEvidence,
  effectWorking,
  equationsOf,
  equationWorking,
  fitWorking,
  measurementWorking,
  naturalWorking,
  plain,
  regionWorking,
} from "..";
import { demoCompositesStudy } from "../../demo/composites";
import { demoFactorsStudy } from "../../demo/factors";
import { demoLeverStudy, demoStudy, demoTreatmentStudy } from "../../demo/study";
import type { NaturalEffectsEvidence } from "../estimators";
import {
  add,
  compileExpression,
  divide,
  expressionWords,
  multiply,
  number,
  parameter,
  subtract,
  type Expression,
} from "../model";

/** Every equation of a line works out, as far as its digits go. */
const holds = (numbers: string, tolerance: number): void => {
  for (const part of numbers.split(/[;,] /)) {
    const sides = part.split(" = ").map((side) => side.replace(/^.*?(?=[√(−\d])/, ""));
    const values = sides.map(workedOut);
    for (const value of values)
      expect(Math.abs(value - values[0]!)).toBeLessThan(tolerance * (1 + Math.abs(value)));
  }
};

const theta = Float64Array.from([0.7, -1.3, 2.1, -0.4]);
const leaf = fc.oneof(
  fc.integer({ min: 0, max: 3 }).map(parameter),
  fc.constantFrom(0.5, -2, 3).map(number),
);
const expression: fc.Arbitrary<Expression> = fc.letrec<{ e: Expression }>((tie) => ({
  e: fc.oneof(
    { depthSize: "small" },
    leaf,
    fc
      .tuple(fc.constantFrom(add, subtract, multiply, divide), tie("e"), tie("e"))
      .map(([of, a, b]) => of(a, b)),
    tie("e").map((a) => ({ op: "exp" as const, a: multiply(number(0.5), a) })),
  ),
})).e;

const signed = (v: number): string => String(v).replace("-", "−");

describe("a formula on paper", () => {
  it("gives the value of its expression: no bracket is missing, whatever it is made of", () => {
    fc.assert(
      fc.property(expression, (e) => {
        const value = compileExpression(e)(theta, 0);
        const text = expressionWords(e, (at) => signed(theta[at]!), signed);
        const found = workedOut(text);
        if (Number.isFinite(value))
          expect(Math.abs(found - value)).toBeLessThanOrEqual(1e-9 * (1 + Math.abs(value)));
      }),
      { numRuns: 500 },
    );
  });

  it("has no brackets that say nothing", () => {
    const b = (i: number) => parameter(i);
    const words = (e: Expression) => expressionWords(e, (i) => `b${i}`, plain);
    expect(words(multiply(b(0), b(1)))).toBe("b0 × b1");
    expect(words(subtract(add(b(0), b(1)), multiply(b(2), b(3))))).toBe("b0 + b1 − b2 × b3");
    expect(words(subtract(b(0), subtract(b(1), b(2))))).toBe("b0 − (b1 − b2)");
    expect(words(divide(b(0), multiply(b(1), b(2))))).toBe("b0 / (b1 × b2)");
    expect(words(multiply(b(0), number(-1)))).toBe("b0 × (−1.000)");
  });
});

const studies = [
  demoStudy(),
  demoLeverStudy(),
  demoTreatmentStudy(),
  demoFactorsStudy(),
  demoCompositesStudy(),
].map(({ definition, table }) => {
  const study = { ...definition, settings: { ...definition.settings, replications: 200 } };
  return { evidence: analyse(study, table), data: dataEvidence(study, table) };
});

describe("the working of an effect", () => {
  it("ends in the number that is shown, from names that are shown", () => {
    for (const { evidence } of studies)
      for (const effect of evidence.effects) {
        const { steps, rows } = effectWorking(effect, evidence);
        const [estimate] = steps;
        expect(estimate!.numbers.split(" = ").at(-1)).toBe(plain(effect.estimate));
        expect(estimate!.formula).toBeTruthy();
        expect(estimate!.formula).not.toMatch(/ ~ |undefined|NaN|mean \d/);
        expect(rows).toContain(String(evidence.sample.n));
        const { shown } = effect;
        if (!shown || shown.lower === null) continue;
        const interval = steps.find((s) => s.what.includes("interval"))!;
        expect(interval.numbers).toContain(`[${plain(shown.lower)}, ${plain(shown.upper)}]`);
      }
  });

  it("comes to the estimate by the arithmetic that it shows, within its rounding", () => {
    const { evidence } = studies[0]!;
    for (const effect of evidence.effects.filter((e) => e.kind === "specific_indirect")) {
      const [left] = effectWorking(effect, evidence).steps[0]!.numbers.split(" = ");
      expect(Math.abs(workedOut(left!) - effect.estimate!)).toBeLessThan(0.001);
    }
  });

  it("says how errors, limits and p follow where nothing is resampled", () => {
    const { definition, table } = demoStudy();
    const evidence = analyse(
      { ...definition, settings: { ...definition.settings, interval: "delta", errors: "HC3" } },
      table,
    );
    const direct = evidence.effects.find((e) => e.label === "hours on confidence")!;
    const steps = effectWorking(direct, evidence).steps;
    const limits = steps.find((s) => s.what.includes("interval"))!;
    expect(limits.formula).toBe("estimate ± t(408) × SE");
    const [b, critical, se] = /^(.+) ± (.+) × (.+) = /.exec(limits.numbers)!.slice(1).map(Number);
    // To the digits that are shown.
    expect(b! + critical! * se!).toBeCloseTo(direct.shown!.upper!, 2);
    expect(steps.find((s) => s.what === "SE")!.source).toContain("MacKinnon & White");
    expect(steps.find((s) => s.what === "p")!.numbers).toMatch(/^t\(408\) = /);
  });
});

describe("the working of fit and reliability", () => {
  it("comes to the indices by the arithmetic that it shows", () => {
    const { evidence } = studies[3]!;
    const section = evidence.sections.find((s) => s.kind === "structure")!;
    const { steps } = fitWorking(section)!;
    for (const what of ["CFI", "TLI", "RMSEA", "Degrees of freedom"]) {
      const [left, right] = steps.find((s) => s.what === what)!.numbers.split(" = ");
      expect(workedOut(left!)).toBeCloseTo(Number(right), 2);
    }
    expect(Number(steps.find((s) => s.what === "CFI")!.numbers.split(" = ")[1])).toBeCloseTo(
      section.fit!.plain.cfi,
      3,
    );
  });

  it("gives alpha from the items", () => {
    const measure = studies[0]!.data.measures[0]!;
    const [alpha, omega] = alphaWorking(measure)!.steps;
    for (const [step, value] of [
      [alpha, measure.reliability.value!.alpha],
      [omega, measure.reliability.value!.omega!.total],
    ] as const) {
      const [left, right] = step!.numbers.split(" = ");
      expect(workedOut(left!)).toBeCloseTo(value!, 2);
      expect(right).toBe(plain(value));
    }
  });
});

describe("workings beside tables", () => {
  /** What stands between an = and the next, worked out, against what stands behind it. */
  it("of an equation: residual SD and R² follow from what is put in, t is b over SE", () => {
    const { definition, table } = demoStudy();
    const settings = { ...definition.settings, replications: 0 };
    const evidence = analyse({ ...definition, settings }, table);
    for (const equation of equationsOf(evidence)) {
      const { steps } = equationWorking(equation, evidence);
      const [sd, r2, ...coefficients] = steps;
      holds(sd!.numbers, 0.01);
      holds(r2!.numbers.replace("; adjusted", ", "), 0.01);
      expect(coefficients.length).toBe(equation.coefficients.length);
      for (const step of coefficients) {
        const [, b, se, t] = /^(\S+) \/ (\S+) = ([^\s,]+)/.exec(step.numbers)!;
        const found = workedOut(b!) / workedOut(se!);
        // Rounded parts of a small coefficient say little of its ratio.
        if (Math.abs(workedOut(b!)) > 0.05)
          expect(Math.abs(found - workedOut(t!))).toBeLessThan(0.02 * (1 + Math.abs(found)));
      }
    }
  });

  it("of a region: at its boundaries the slope is so many errors from zero", () => {
    const { definition, table } = demoLeverStudy();
    const settings = { ...definition.settings, replications: 0 };
    const evidence = analyse({ ...definition, settings }, table);
    let boundaries = 0;
    for (const moderation of evidence.moderations)
      for (const set of moderation.johnsonNeyman) {
        const working = regionWorking(moderation, set, [], evidence)!;
        for (const step of working.steps.filter((s) => s.what.startsWith("Boundary"))) {
          const [, slope, critical, se] = /slope is (\S+) = (\S+) × (\S+)$/.exec(step.numbers)!;
          expect(Math.abs(workedOut(slope!) - workedOut(critical!) * workedOut(se!))).toBeLessThan(
            0.002,
          );
          boundaries += 1;
        }
      }
    expect(boundaries).toBeGreaterThan(2);
  });

  it("of measurement: what the loadings give is what the table says", () => {
    const { definition, table } = demoFactorsStudy();
    const settings = { ...definition.settings, replications: 0 };
    const section = analyse({ ...definition, settings }, table).sections.find(
      (s) => s.kind === "structure",
    )!;
    const [group] = section.measurement;
    const { steps } = measurementWorking(group!);
    expect(steps).toHaveLength(2 * group!.factors.length + group!.htmt.length);
    group!.htmt.forEach((pair, i) => {
      const { numbers } = steps[2 * group!.factors.length + i]!;
      expect(numbers).toMatch(new RegExp(` = ${plain(pair.htmt)}$`));
      holds(numbers, 0.002);
    });
    group!.factors.forEach((f, i) => {
      expect(steps[2 * i]!.numbers).toContain(` = ${plain(f.ave)};`);
      expect(steps[2 * i + 1]!.numbers).toMatch(new RegExp(` = ${plain(f.compositeReliability)}$`));
      holds(steps[2 * i + 1]!.numbers, 0.01);
    });
  });
});

describe("the working of composites", () => {
  const { definition, table } = demoCompositesStudy();
  const groupOf = (options: Record<string, string> = {}, theory = definition.theory) => {
    const settings = { ...definition.settings, replications: 0, options: { folds: 0, ...options } };
    return analyse({ ...definition, theory, settings }, table).sections.flatMap((s) =>
      s.kind === "composites" ? s.groups : [],
    )[0]!;
  };

  it("is made of weights, loadings, correlations and coefficients, and works out", () => {
    const asFactors = definition.theory.replace("belonging combines", "belonging reflects");
    for (const group of [groupOf(), groupOf({ correction: "reflective" }, asFactors)]) {
      const { steps } = compositeMeasurementWorking(group);
      const own = group.constructs.filter((c) => c.weighting === "correlation");
      expect(own.length).toBeGreaterThan(0);
      for (const c of own) {
        const find = (what: string) => steps.find((s) => s.what === `${what} of ${c.construct}`)!;
        expect(find("AVE").numbers).toContain(` = ${plain(c.quality.ave)};`);
        holds(find("Composite reliability").numbers, 0.002);
        holds(find("rho_A").numbers, 0.004);
      }
      for (const step of steps.filter((s) => s.what.startsWith("HTMT"))) holds(step.numbers, 0.002);
      // Items that are regressed on have neither reliability nor ratios.
      expect(steps.some((s) => s.what.includes("routine"))).toBe(false);
    }
  });

  it("of f² and SRMR works out, interactions by two stages too", () => {
    const group = groupOf();
    const { steps } = compositePathsWorking(group);
    expect(steps.filter((s) => s.what.startsWith("f²"))).toHaveLength(group.paths.length);
    expect(steps.some((s) => s.what.includes("routine × support"))).toBe(true);
    expect(steps.filter((s) => s.what.startsWith("SRMR"))).toHaveLength(2);
    for (const { numbers } of steps) holds(numbers, 0.003);
  });
});

describe("the working of effects of a treatment", () => {
  const { definition, table } = demoTreatmentStudy();
  const settings = { ...definition.settings, replications: 0, interval: "delta" as const };
  const naturals = (theory = definition.theory) =>
    analyse({ ...definition, theory, settings }, table).sections.flatMap((s) =>
      s.kind === "responses" ? s.natural : [],
    );

  /** As if shares might be reported. */
  const reported = (natural: NaturalEffectsEvidence): NaturalEffectsEvidence => ({
    ...natural,
    effects: {
      ...natural.effects,
      difference: natural.effects.difference!.map((e) => ({ ...e, withheld: null })),
    },
  });

  it("comes from the four means, on every scale, and works out", () => {
    const [natural] = naturals();
    const working = naturalWorking(natural!);
    const difference = working.steps.filter((s) => s.formula?.includes(" − E[Y(x0, M(x0))]"));
    expect(difference.map((s) => s.formula)).toContain("E[Y(x1, M(x1))] − E[Y(x0, M(x0))]");
    // Five effects on three scales, and three values of the mediator; the share is withheld here.
    expect(working.steps).toHaveLength(5 * 3 + 3);
    const shown = naturalWorking(reported(natural!));
    expect(shown.steps).toHaveLength(5 * 3 + 3 + 1);
    // Means with the mediator held are found by where, not by their order.
    const turned = { ...reported(natural!), controlled: [...natural!.controlled].reverse() };
    expect(naturalWorking(turned)).toEqual(shown);
    for (const { numbers } of shown.steps) {
      const [left, right] = numbers.split(" = ") as [string, string];
      const [made, said] = [workedOut(left), workedOut(right)];
      expect(Math.abs(made - said)).toBeLessThan(0.002 + 0.03 * Math.abs(said));
    }
  });

  it("says what is told apart of the two values, and brackets what is negative", () => {
    const [natural] = naturals();
    const turned = {
      ...natural!,
      means: natural!.means.map((m) => ({ ...m, estimate: m.estimate - 1 })),
    };
    expect(naturalWorking(turned).steps[0]!.numbers).toMatch(
      /^\(−0\.\d+\) − \(−0\.\d+\) = −?0\.\d+$/,
    );
    expect(naturalWorking(natural!).rows).toContain(
      "x1: group weekly cafe, x0: group waiting list",
    );
  });
});
