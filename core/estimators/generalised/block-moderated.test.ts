import { describe, expect, it } from "vitest";
import type { Evidence } from "../../evidence";
import { analyseMade, normals } from "../../test-kit";

const N = 180;
const [x, w, e1, e2, e3] = [1, 2, 3, 4, 5].map((seed) => normals(N, seed)) as [
  number[],
  number[],
  number[],
  number[],
  number[],
];
const m1 = x.map((v, i) => 0.5 * v + 0.2 * w[i]! + e1[i]!);
const m2 = m1.map((v, i) => 0.3 * x[i]! + (0.4 + 0.2 * w[i]!) * v + e2[i]!);
const yes = m2.map((v, i) => (0.4 * v + 0.3 * m1[i]! + 1.7 * e3[i]! > 0 ? "yes" : "no"));

const run = (...lines: string[]): Evidence =>
  analyseMade({
    columns: { x, w, m1, m2, yes },
    theory: lines.join("\n"),
    settings: { interval: "delta" },
  });
const naturalOf = ({ sections }: Evidence) => {
  const [section] = sections.flatMap((s) => (s.kind === "responses" ? [s] : []));
  const { effects } = section!.natural.find((n) => n.at === null && n.treatment === "x")!;
  return (kind: string): number => effects.difference!.find((e) => e.kind === kind)!.estimate;
};

const SERIAL = ["H1: x raises yes through m1 then m2", "H2: x raises yes through m2"];
const MODERATED = {
  "a step between the mediators": [...SERIAL, "H3: w alters m1 to m2"],
  "the step to the response": [...SERIAL, "H3: w alters m2 to yes"],
  "the first step": [...SERIAL, "H3: w alters x to m1"],
};

describe("several mediators of a yes/no response, with one step moderated", () => {
  it.each(Object.entries(MODERATED))(
    "keep differences in probability and log odds apart: %s",
    (_, theory) => {
      const evidence = run(...theory);
      const natural = naturalOf(evidence);
      const of = (kind: string, via: number) =>
        evidence.effects.find(
          (e) => e.from === "x" && e.to === "yes" && e.kind === kind && e.via.length === via,
        );
      expect(of("direct", 0)).toMatchObject({ scale: null });
      expect(of("direct", 0)!.estimate).toBeCloseTo(natural("pure_natural_direct"), 12);
      expect(of("total_indirect", 0)!.estimate).toBeCloseTo(natural("total_natural_indirect"), 12);
      expect(of("total", 0)!.estimate).toBeCloseTo(natural("total_effect"), 12);
      expect(of("average_indirect", 2)).toMatchObject({ scale: "log odds" });
      // Log odds add up to nothing with probabilities, and are no number of SDs of a yes or no.
      expect(of("average_total", 0)).toBeUndefined();
      const inSds = evidence.effects.filter(
        (e) => e.from === "x" && e.to === "yes" && /standardised|variance/.test(e.kind),
      );
      expect(inSds).toEqual([]);
    },
  );

  it("say of a single path what it is: a product, or an average in log odds", () => {
    const { hypotheses } = run(...MODERATED["a step between the mediators"]);
    expect(hypotheses[0]!.measure).toBe("b in log odds");
    expect(hypotheses[1]!.measure).toBe("product of coefficients");
  });

  it("are judged as one block where a sentence names all of them, moderated or not", () => {
    const evidence = run("H1: x raises yes through m1 and m2", "H2: w alters m1 to yes");
    const [h1] = evidence.hypotheses;
    expect(h1!.claim!.estimate).toBeCloseTo(naturalOf(evidence)("total_natural_indirect"), 12);
    expect(h1).toMatchObject({
      measure: "difference in probability",
      named: "total natural indirect effect",
    });
    expect(h1!.report).not.toContain("on average");
  });

  it("leave a moderated direct path in log odds, beside what goes through them in probability", () => {
    const evidence = run("H1: x raises yes through m1 and m2", "H2: w alters x to yes");
    const [h1] = evidence.hypotheses;
    expect(h1!.claim!.estimate).toBeCloseTo(naturalOf(evidence)("total_natural_indirect"), 12);
    const direct = evidence.effects.find((e) => e.kind === "average_direct" && e.from === "x")!;
    expect(direct.scale).toBe("log odds");
    const sums = evidence.effects.filter(
      (e) => e.from === "x" && (e.kind === "average_total" || e.kind === "total"),
    );
    expect(sums).toEqual([]);
  });
});
