import { describe, expect, it } from "vitest";
import {
  checkArrows,
  checkChanges,
  checkEffects,
  checkFit,
  expectedOf,
  Ledger,
  read,
  run,
} from "./latent-kit";

/* eslint-disable @typescript-eslint/no-explicit-any -- expected numbers are free-form JSON of another implementation */

describe("matrices in place of rows", () => {
  const matrix = (name: string, file: string) => {
    const [head, ...rows] = read(name, file).trim().split(/\r?\n/);
    return {
      names: head!.split(","),
      covariance: rows.map((row) => row.split(",").map(Number)),
    };
  };
  it.each(["wishart", "normal"])("alienation, %s", (convention) => {
    const wanted = expectedOf("alienation-summary-statistics").without_correlated_errors[
      convention
    ];
    const { evidence, section } = run(
      "alienation-summary-statistics",
      [
        "measure ses reflects education, sei",
        "measure alienation67 reflects anomia67, powerlessness67",
        "measure alienation71 reflects anomia71, powerlessness71",
        "H1: ses lowers alienation71 through alienation67",
      ],
      { options: { convention } },
      {
        data: { moments: { n: 932, ...matrix("alienation-summary-statistics", "covariance.csv") } },
      },
    );
    const ledger = new Ledger();
    checkFit(ledger, section, wanted.fit);
    checkArrows(ledger, section, wanted.estimates);
    checkChanges(ledger, section, wanted.modification_indices);
    checkEffects(ledger, evidence, wanted.effects);
    expect(ledger.off).toEqual([]);
    expect(ledger.checked).toBeGreaterThan(80);
  });

  it.each([
    ["ability", 112],
    ["harman", 145],
  ])("two factors of %s that share all items: the best of several starts", (file, n) => {
    const { names, covariance } = matrix("ability-tests-from-matrices", `${file}.csv`);
    const { section } = run(
      "ability-tests-from-matrices",
      [
        `measure f1 reflects ${names.join(", ")} with variance 1`,
        `measure f2 reflects ${names.join(", ")} with variance 1`,
        "covary f1 with f2 at 0",
        `hold f2 to ${names[0]} at 0`,
      ],
      {},
      { data: { moments: { n, names, covariance } } },
    );
    const wanted = expectedOf("ability-tests-from-matrices")[file].factors_2;
    const ledger = new Ledger();
    checkFit(ledger, section, wanted.fit);
    for (const [name, value] of Object.entries<any>(wanted.uniquenesses))
      ledger.same(name, 1 - section.r2.find((r) => r.variable === name)!.value, value);
    expect(ledger.off).toEqual([]);
    if (file === "harman") expect(section.counts.df).toBe(wanted.fit.df);
  });
});
