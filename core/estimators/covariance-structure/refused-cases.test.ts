import { describe, expect, it } from "vitest";
import { columnsOf, Differences, expectedOf } from "../../../reference/latent-load";
import { tableOfMoments } from "../../data";
import type { Moments } from "../../data/table";
import type { Arrow, ModelFault } from "./arrows";
import { arrowOf, checkFit, differences, fitTo, specOf } from "./case-kit";
import { parameterTable } from "./parameter-table";
import type { Specification } from "./specification";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are read as they stand in the files */

describe("matrices and models that must be refused", () => {
  const ability = (name: string): number[][] =>
    [...columnsOf("ability-tests-from-matrices", `${name}.csv`).values()].map((c) => [...c]);
  const names = (name: string): string[] => [
    ...columnsOf("ability-tests-from-matrices", `${name}.csv`).keys(),
  ];

  it.each([
    ["ability", 112],
    ["harman", 145],
  ])("one factor of %s from its matrix", (name, n) => {
    const wanted = expectedOf("ability-tests-from-matrices")[name].factors_1;
    const observed = names(name);
    const table = tableOfMoments({
      names: observed,
      n,
      means: observed.map(() => 0),
      covariance: ability(name),
    } as Moments);
    const data = new Map(
      table.columns.map((c) => [
        c.name,
        Float64Array.from(c.codes, (code) => Number(c.dictionary[code])),
      ]),
    );
    const spec = { ...specOf(wanted.model), observed };
    const model = fitTo(spec, data, true);
    // The sign of a factor is arbitrary.
    const out = new Differences();
    checkFit(out, model, wanted.fit);
    for (const row of parameterTable(model, "expected")) {
      const numbers = wanted.estimates[row.arrow];
      out.same(row.arrow, Math.abs(row.estimate), Math.abs(numbers.est));
      if (row.free) out.same(`${row.arrow} se`, row.se.expected, numbers.se_expected);
      if (row.free) out.same(`${row.arrow} observed`, row.se.observed, numbers.se_observed);
    }
    expect(out.list).toEqual([]);
  });

  const alienation = expectedOf("alienation-summary-statistics");
  it.each([
    ["without_correlated_errors", "wishart"],
    ["without_correlated_errors", "normal"],
    ["with_correlated_errors", "wishart"],
    ["with_correlated_errors", "normal"],
  ] as const)("alienation %s, %s", (part, convention) => {
    const { model, [convention]: wanted } = alienation[part];
    const covariance = [...columnsOf("alienation-summary-statistics", "covariance.csv").values()];
    const table = tableOfMoments({
      names: model.observed,
      n: 932,
      means: model.observed.map(() => 0),
      covariance: covariance.map((c) => [...c]),
    } as Moments);
    const data = new Map(
      table.columns.map((c) => [
        c.name,
        Float64Array.from(c.codes, (code) => Number(c.dictionary[code])),
      ]),
    );
    expect(
      differences(new Differences(), fitTo({ ...specOf(model), convention }, data, true), wanted),
    ).toEqual([]);
  });

  it("a minimum that does not exist is no result", () => {
    const covariance = columnsOf("no-minimum-not-converged", "covariance.csv");
    const observed = [...covariance.keys()];
    const table = tableOfMoments({
      names: observed,
      n: 100,
      means: observed.map(() => 0),
      covariance: [...covariance.values()].map((c) => [...c]),
    } as Moments);
    const data = new Map(
      table.columns.map((c) => [
        c.name,
        Float64Array.from(c.codes, (code) => Number(c.dictionary[code])),
      ]),
    );
    for (const marker of [true, false]) {
      const arrows = [
        ...observed.map((name, i) =>
          arrowOf(`f -> ${name}`, marker && i === 0 ? null : `f -> ${name}`, 1),
        ),
        ...observed.map((name) => arrowOf(`${name} <-> ${name}`, `${name} v`)),
        arrowOf("f <-> f", marker ? "f v" : null, 1),
      ];
      const spec = {
        observed,
        latent: ["f"],
        groups: [{ name: "all", arrows }],
        means: false,
        estimator: "ml",
        convention: "normal",
      } as const;
      expect(() => fitTo({ ...spec, observed: [...observed] } as never, data, true)).toThrow(
        expect.objectContaining({ code: "not-converged" }),
      );
    }
  });

  const errors = expectedOf("under-identified-and-other-errors");
  it.each<[string, any]>(errors.models.slice(0, 8).map((m: any) => [m.title, m]))(
    "%s",
    (_, stated) => {
      const data = columnsOf("under-identified-and-other-errors");
      const spec = withDefaults(stated);
      if (stated.error === null) {
        const model = fitTo(spec, data);
        expect(model.fit.plain.chi2).toBeCloseTo(stated.chi2, 5);
        expect(model.parameters).toBe(stated.free_parameters);
        return;
      }
      let fault: ModelFault | null = null;
      try {
        fitTo(spec, data);
      } catch (error) {
        fault = error as ModelFault;
      }
      expect(fault?.code).toBe(stated.error);
      for (const name of stated.message_must_name ?? []) expect(fault!.message).toContain(name);
      if (stated.rank !== undefined && stated.error === "under-identified") {
        expect(fault!.counts.rank).toBe(stated.rank);
        expect(stated.parameters_involved).toEqual(expect.arrayContaining([fault!.variables[0]]));
      }
    },
  );

  it("full weights of too few cases", () => {
    const all = columnsOf("under-identified-and-other-errors");
    const observed = ["adv1", "adv2", "adv3", "adv4", "skl1", "skl2"];
    const data = new Map([...all].map(([name, column]) => [name, column.slice(0, 20)]));
    const stated = {
      observed,
      latent: ["f"],
      arrows: observed.map((name, i) => `f -> ${name}${i === 0 ? " = 1" : ""}`),
    };
    expect(() => fitTo({ ...withDefaults(stated), estimator: "adf" }, data)).toThrow(
      expect.objectContaining({ code: "adf-sample-too-small" }),
    );
  });
});

/**
 * Arrows beyond the defaults of the specification: variances, exogenous covariances and intercepts
 * are automatic.
 */
function withDefaults({ observed, latent, arrows }: any): Specification {
  const stated = arrows.map((text: string) => {
    const [arrow, value] = text.split(" = ") as [string, string | undefined];
    return arrowOf(arrow, value === undefined ? arrow : null, Number(value ?? 0));
  }) as Arrow[];
  const all: string[] = [...observed, ...latent];
  const explained = new Set(stated.filter((a) => a.kind === "path").map((a) => a.to));
  const exogenous = all.filter((name) => !explained.has(name));
  const has = (a: string, b: string): boolean =>
    stated.some(
      (s) =>
        s.kind === "covariance" && ((s.from === a && s.to === b) || (s.from === b && s.to === a)),
    );
  return {
    observed,
    latent,
    groups: [
      {
        name: "all",
        arrows: [
          ...stated,
          ...all.map((name) => arrowOf(`${name} <-> ${name}`, `${name} <-> ${name}`)),
          ...exogenous.flatMap((a, i) =>
            exogenous
              .slice(0, i)
              .filter((b) => !has(a, b))
              .map((b) => arrowOf(`${a} <-> ${b}`, `${a} <-> ${b}`)),
          ),
          ...observed.map((name: string) => arrowOf(`1 -> ${name}`, `1 -> ${name}`)),
        ],
      },
    ],
    means: true,
    estimator: "ml",
    convention: "normal",
  };
}
