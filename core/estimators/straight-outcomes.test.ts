import { describe, expect, it } from "vitest";
import { analyseMade, normals } from "../test-kit";
import type { Evidence } from "../evidence";

const N = 90;
const x = normals(N, 1);
const e = normals(N, 2);
const m = x.map((v, i) => 0.6 * v + e[i]!);
/** Whole numbers that rise with a variable, from zero on. */
const counts = (of: number[], by = 1): number[] =>
  of.map((v, i) => Math.max(0, Math.round(by * Math.exp(0.8 + 0.6 * v + 0.3 * e[(i + 5) % N]!))));
const yes = m.map((v, i) => (v + e[(i + 11) % N]! > 0 ? "yes" : "no"));

const said = ({ warnings }: Evidence, code: string): string[] =>
  warnings.filter((w) => w.code === code).flatMap((w) => w.about);
const analysed = (columns: Record<string, (number | string)[]>, theory: string): Evidence =>
  analyseMade({ columns, theory });

describe("a straight line for whole numbers from zero on", () => {
  const visits = counts(m);
  const theory = "H1: x raises visits through m";

  it("is said, with the line that makes a count of them", () => {
    const evidence = analysed({ x, m, visits }, theory);
    expect(evidence.estimator.id).toBe("least_squares");
    expect(said(evidence, "may_be_counted")).toEqual(["visits"]);
    const counted = analysed({ x, m, visits }, `${theory}\nmodel visits as poisson`);
    expect(counted.estimator.id).toBe("generalised");
    expect(said(counted, "may_be_counted")).toEqual([]);
  });

  it("is said of a mediator beside other models, too", () => {
    const evidence = analysed({ x, visits, yes }, "H1: x raises yes through visits");
    expect(evidence.estimator.id).toBe("generalised");
    expect(said(evidence, "may_be_counted")).toEqual(["visits"]);
  });

  it("writes names as the notation has them", () => {
    const evidence = analysed({ x, "Visits per month": visits }, 'H1: x raises "Visits per month"');
    const [found] = evidence.warnings.filter((w) => w.code === "may_be_counted");
    expect(found!.message).toContain('“model "Visits per month" as poisson”');
  });

  it.each([
    ["who says that it is one", { x, visits }, "x raises visits\nmodel visits as linear"],
    ["parts of numbers", { x, visits: visits.map((v) => v + 0.5) }, "x raises visits"],
    ["numbers from one on", { x, visits: visits.map((v) => v + 1) }, "x raises visits"],
    ["answers in steps", { x, visits: visits.map((v) => Math.min(v, 6)) }, "x raises visits"],
    [
      "counts far from zero",
      { x, visits: counts(m, 40).map((v, i) => (i ? v : 0)) },
      "x raises visits",
    ],
    ["numbers below zero", { x, visits: visits.map((v) => v - 2) }, "x raises visits"],
  ])("is not said of %s", (_, columns, theory) => {
    expect(said(analysed(columns, theory), "may_be_counted")).toEqual([]);
  });
});

it("an unstable share is said once, by the engine that has the better words", () => {
  const nothing = normals(N, 31).map((v) => (v > 0 ? "yes" : "no"));
  const group = normals(N, 32).map((v) => (v > 0 ? 1 : 0));
  const evidence = analysed({ group, m, nothing }, "H1: group raises nothing through m");
  const found = evidence.warnings.filter((w) => w.code === "proportion_unstable");
  expect(found).toHaveLength(1);
  expect(found[0]!.message).toContain("beyond its parts");
});

it("values at which a mediator is held are written for people", () => {
  const group = normals(N, 33).map((v) => (v > 0 ? 1 : 0));
  const evidence = analysed({ group, m, yes }, "H1: group raises yes through m");
  const words = evidence.sections.flatMap((s) =>
    s.kind === "responses"
      ? s.natural.flatMap((n) =>
          Object.values(n.effects)
            .flat()
            .map((f) => f.words),
        )
      : [],
  );
  const held = words.filter((w) => w.includes("held at"));
  expect(held.length).toBeGreaterThan(0);
  for (const w of held) expect(w).not.toMatch(/\.\d{3}/);
});
