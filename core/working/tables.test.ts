import { describe, expect, it } from "vitest";
import {
  analyse,
  arrowWorking,
  bandWorking,
  changeWorking,
  checksWorking,
  claimWorking,
  coefficientWorking,
  correlationWorking,
  dataEvidence,
  descriptionWorking,
  distanceWorking,
  equationsOf,
  itemWorking,
  leftOutWorking,
  linkProductWorking,
  littleWorking,
  mardiaWorking,
  meanWorking,
  plain,
  responseInteractionWorking,
  sensitivityWorking,
  termWorking,
  type Settings,
} from "..";
import { demoFactorsStudy } from "../../demo/factors";
import { demoLeverStudy, demoStudy, demoTreatmentStudy } from "../../demo/study";
import { countWorked, numbersOf, worksOut } from "../test-kit/workings";

type Demo = ReturnType<typeof demoStudy>;

const evidenceOf = (
  { definition, table }: Demo,
  settings: Partial<Settings> = {},
  theory = definition.theory,
) =>
  analyse(
    {
      ...definition,
      theory,
      settings: { ...definition.settings, replications: 0, ...settings },
    },
    table,
  );

describe("formulas on paper", () => {
  it("are worked out wherever they stand, and what is wrong is found", () => {
    expect(worksOut("row 3: 2.5 × (1 − 0.5) / √(4) = 0.625; 7 − (−1.000) = 8.000, p = .02")).toBe(
      2,
    );
    expect(worksOut("exp(−0.500) = 0.607, from exp(0.100) = 1.105")).toBe(2);
    expect(() => worksOut("2.000 × 3.000 = 6.100")).toThrow();
    expect(() => worksOut("exp(1.000) = 2.700")).toThrow();
  });
});

describe("the working of regressions", () => {
  it("of a term has its error, test, beta and VIF, under the errors in use", () => {
    for (const errors of ["classical", "HC3"] as const) {
      const evidence = evidenceOf(demoLeverStudy(), { errors });
      for (const equation of equationsOf(evidence))
        for (const c of equation.coefficients) {
          const working = termWorking(equation, c.term, evidence)!;
          expect(countWorked(working)).toBeGreaterThanOrEqual(c.beta === null ? 1 : 2);
          expect(numbersOf(working, "SE")).toContain(
            `${errors} errors: ${plain(c.errors[errors]!.se)}`,
          );
          const interval = working.steps.find((s) => s.what.includes("interval"))!;
          expect(interval.numbers).toContain(
            `[${plain(c.errors[errors]!.lower)}, ${plain(c.errors[errors]!.upper)}]`,
          );
        }
      expect(termWorking(equationsOf(evidence)[0]!, "not there", evidence)).toBeNull();
    }
  });

  it("of the checks puts residual moments, leverage and tolerance in", () => {
    const evidence = evidenceOf(demoStudy());
    for (const equation of equationsOf(evidence)) {
      const working = checksWorking(equation)!;
      expect(countWorked(working)).toBeGreaterThanOrEqual(4 + equation.coefficients.length - 1);
      expect(numbersOf(working, "Cook's distance")).toContain(
        `row ${equation.checks!.topCook[0]!.row}:`,
      );
    }
  });

  it("of a decision ends in the verdict and its reason, after the effect it rests on", () => {
    const evidence = evidenceOf(demoStudy(), { tail: "one" });
    for (const h of evidence.hypotheses) {
      const working = claimWorking(h, evidence);
      expect(working.steps.at(-1)!.numbers).toContain(h.reason);
      expect(working.steps.some((s) => s.what.startsWith("One-tailed bound"))).toBe(
        h.claim!.tail === "one",
      );
      expect(numbersOf(working, "Estimate")).toContain(plain(h.claim!.estimate));
    }
  });
});

it("of several effects at once says what the bootstrap counted", () => {
  const evidence = evidenceOf(
    demoTreatmentStudy(),
    { replications: 200, engine: "least_squares" },
    "H1: group affects hours through age",
  );
  const [h] = evidence.hypotheses;
  const joint = claimWorking(h!, evidence).steps.find((s) => s.what === "Joint test")!;
  expect(h!.claim!.joint!.reference).toBe("bootstrap");
  expect(joint.numbers).toMatch(/^T = .*at least that far from b\)/);
});

describe("the working of a band", () => {
  it("names where it leaves zero, and waits for resamples", () => {
    const without = evidenceOf(demoLeverStudy());
    expect(bandWorking(without.regions[0]!, without).steps).toHaveLength(1);
    const evidence = evidenceOf(demoLeverStudy(), { replications: 200, interval: "percentile" });
    const [region] = evidence.regions;
    const working = bandWorking(region!, evidence);
    const { boundaries } = region!.bands!.percentile;
    for (const at of boundaries)
      expect(numbersOf(working, "Where it leaves zero")).toContain(plain(at));
    expect(numbersOf(working, "95 % band")).toContain("200 resamples");
  });
});

describe("the working of data", () => {
  const { definition, table } = demoStudy();
  const data = dataEvidence(
    {
      ...definition,
      screening: [{ name: "all", variables: ["hours", "age", "friends", "months"] }],
    },
    table,
  );

  it("of correlations has the t test and the interval of either kind", () => {
    const { cells } = data.sets[0]!.correlations.pairwise;
    for (const cell of cells)
      for (const kind of ["pearson", "spearman"] as const) {
        const working = correlationWorking(cell, kind, 0.95)!;
        expect(countWorked(working)).toBe(2);
        expect(working.steps[0]!.numbers).toBe(plain(cell[kind]!.r));
        expect(numbersOf(working, "95 % interval")).toContain(
          `${plain(cell[kind]!.ci![0])} to ${plain(cell[kind]!.ci![1])}`,
        );
      }
    expect(correlationWorking({ ...cells[0]!, pearson: null }, "pearson", 0.95)).toBeNull();
  });

  it("of distances and descriptions works out", () => {
    const found = data.sets[0]!.mahalanobis.value!;
    for (const { row, d2 } of found.top) {
      const working = distanceWorking(found, row)!;
      expect(numbersOf(working, "Squared distance")).toContain(plain(d2));
      // The distances of all rows add up to (n − 1) times the variables.
      expect(found.sum).toBeCloseTo((found.n - 1) * found.df, 6);
    }
    expect(distanceWorking(found, -1)).toBeNull();
    for (const one of Object.values(data.descriptives))
      expect(countWorked(descriptionWorking(one))).toBeGreaterThan(1);
  });

  it("of missing values and of joint normality works out", () => {
    const { little, mardia } = data.sets[0]!;
    const working = littleWorking(little.value!);
    expect(countWorked(working)).toBe(2);
    expect(numbersOf(working, "χ²")).toContain(` = ${plain(little.value!.d2)}`);
    expect(working.rows).not.toContain("without any value");
    expect(littleWorking({ ...little.value!, rowsAllMissing: 3 }).rows).toContain("3 without any");
    const normality = mardiaWorking(mardia.value!);
    expect(countWorked(normality)).toBe(3);
    expect(numbersOf(normality, "Its z")).toContain(` = ${plain(mardia.value!.kurtosisZ)}`);
  });

  it("of means in groups adds up", () => {
    const evidence = evidenceOf(demoTreatmentStudy());
    expect(evidence.groupMeans.length).toBeGreaterThan(0);
    for (const means of evidence.groupMeans)
      for (const group of means.groups)
        expect(countWorked(meanWorking(group.label, group))).toBe(group.sd === null ? 1 : 2);
  });

  it("of an item comes to its item-total correlation and to alpha without it", () => {
    for (const measure of data.measures)
      for (const { item } of measure.items) {
        const own = measure.reliability.value!.itemStatistics.find((s) => s.item === item)!;
        const working = itemWorking(measure, item)!;
        expect(countWorked(working)).toBe(3);
        expect(numbersOf(working, "Corrected item-total r")).toContain(
          ` = ${plain(own.correctedItemTotal)}`,
        );
        expect(numbersOf(working, "α if item deleted")).toContain(
          ` = ${plain(own.alphaIfDropped)}`,
        );
      }
    expect(itemWorking(data.measures[0]!, "not there")).toBeNull();
  });
});

describe("the working of a model of means and covariances", () => {
  const structure = (theory?: string) =>
    evidenceOf(
      demoFactorsStudy(),
      {},
      theory ?? demoFactorsStudy().definition.theory,
    ).sections.find((s) => s.kind === "structure")!;

  it("of an arrow has test, SDs and what is explained at its end", () => {
    const section = structure();
    for (const arrow of section.arrows) {
      const working = arrowWorking(arrow, section);
      countWorked(working);
      expect(working.steps[0]!.numbers).toContain(plain(arrow.estimate));
      if (arrow.free && arrow.role !== "intercept")
        expect(numbersOf(working, "Standardised")).toContain(` = ${plain(arrow.full.estimate)}`);
      if (arrow.free) expect(numbersOf(working, "p")).toContain(` = ${plain(arrow.z)}`);
      if (arrow.role === "path" || arrow.role === "loading")
        expect(numbersOf(working, `R² of ${arrow.to}`)).toContain(" = ");
    }
  });

  it("of a latent interaction is in SDs of both, under names that people use", () => {
    const section = structure(
      `${demoFactorsStudy().definition.theory}\nH9: support strengthens confidence to belonging`,
    );
    const [own] = section.interactions;
    const arrow = section.arrows.find((a) => a.from.includes(":") && a.role === "path")!;
    const working = arrowWorking(arrow, section);
    expect(working.title).toBe(`${own!.to} on ${own!.x} × ${own!.w}`);
    expect(numbersOf(working, "In SDs of both")).toContain(
      ` = ${plain(own!.standardised.estimate)}`,
    );
    countWorked(working);
  });

  it("of a score test names what it expects", () => {
    const section = structure();
    const [change] = section.changes;
    const working = changeWorking(change!, section);
    expect(numbersOf(working, "Score test")).toContain(change!.mi.toFixed(2));
    expect(numbersOf(working, "Expected value")).toContain(plain(change!.epc));
  });
});

describe("the working of responses and of sensitivity", () => {
  const demo = demoTreatmentStudy();
  const evidence = evidenceOf(demo);
  const section = evidence.sections.find((s) => s.kind === "responses")!;

  it("of a coefficient has its ratio and its average effect", () => {
    let ratios = 0;
    for (const model of section.models)
      for (const c of model.coefficients) {
        const working = coefficientWorking(model, c.term, evidence)!;
        expect(countWorked(working)).toBeGreaterThanOrEqual(c.ratio ? 4 : 1);
        ratios += c.ratio ? 1 : 0;
        const own = model.marginal.find((m) => m.column === c.term);
        if (own && model.family !== "linear")
          expect(numbersOf(working, "Average effect")).toContain(plain(own.estimate));
      }
    expect(ratios).toBeGreaterThan(2);
    expect(coefficientWorking(section.models[0]!, "not there", evidence)).toBeNull();
  });

  it("of products on the scale of the model and of interactions works out", () => {
    for (const product of section.products) {
      const reported = { ...product, rescaled: { ...product.rescaled, withheld: null } };
      expect(countWorked(linkProductWorking(reported, 0.95))).toBeGreaterThanOrEqual(8);
      expect(
        linkProductWorking({ ...product, rescaled: { ...product.rescaled, withheld: "so" } }, 0.95)
          .steps,
      ).toHaveLength(6);
    }
    expect(section.products.length).toBeGreaterThan(0);
    const crossed = evidenceOf(
      demo,
      {},
      `${demo.definition.theory}\nH8: age strengthens hours to renewed`,
    ).sections.find((s) => s.kind === "responses")!;
    expect(crossed.interactions.length).toBeGreaterThan(0);
    for (const interaction of crossed.interactions) {
      const working = responseInteractionWorking(interaction, 0.95);
      expect(countWorked(working)).toBe(1);
      expect(numbersOf(working, "Average")).toBe(plain(interaction.average));
    }
  });

  it("of the curve of sensitivity comes to every point, and to what is left out", () => {
    const measures = demoStudy()
      .definition.theory.split("\n")
      .filter((line) => line.startsWith("measure"));
    const found = evidenceOf(
      demoStudy(),
      { leftOut: [{ difference: 0.3, effect: -0.2 }] },
      [
        ...measures,
        "H1: hours raises belonging through confidence",
        "adjust confidence, belonging for age",
      ].join("\n"),
    ).sections.find((s) => s.kind === "sensitivity");
    expect(found).toBeDefined();
    for (const effect of found!.effects) {
      for (const point of effect.curve) {
        const working = sensitivityWorking(effect, point.rho, 0.95)!;
        expect(countWorked(working)).toBeGreaterThanOrEqual(3);
        expect(numbersOf(working, "Indirect effect")).toContain(` = ${plain(point.indirect)}`);
        expect(numbersOf(working, "Direct effect")).toContain(` = ${plain(point.direct)}`);
      }
      expect(sensitivityWorking(effect, 0.123, 0.95)).toBeNull();
      for (const left of effect.leftOut)
        expect(countWorked(leftOutWorking(effect, left))).toBeGreaterThanOrEqual(3);
    }
  });
});
