import { describe, expect, it } from "vitest";
import { arrowScales, wordsOf, type Evidence } from "../../evidence";
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

  it("say between which values of a number they stand, and per unit where slopes tell", () => {
    const evidence = run(
      "H1: x raises yes through m1",
      "H2: x raises m1",
      "H3: w alters m1 to yes",
      "compare x at 2 with 0",
    );
    const of = (id: string) => evidence.effects.find((e) => e.id === id)!;
    const b = evidence.sections
      .flatMap((s) => (s.kind === "responses" ? s.models : []))
      .find((m) => m.outcome === "m1")!
      .coefficients.find((c) => c.term === "x")!.estimate;
    expect(of("direct x > m1").estimate).toBeCloseTo(2 * b, 10);
    expect(of("direct x > m1").between).toBe("2 against 0");
    expect(of("direct x > yes").between).toBe("2 against 0");
    expect(wordsOf(of("direct x > m1"), "raw", evidence)).toBe("direct (2 against 0)");
    const inLogOdds = evidence.effects.filter((e) => e.scale === "log odds");
    expect(inLogOdds.map((e) => e.between)).toEqual(inLogOdds.map(() => null));
    expect(inLogOdds.length).toBeGreaterThan(0);
    expect(arrowScales(evidence)).toContain("x to m1 for 2 against 0");
    expect(evidence.hypotheses[1]!.report).toMatch(
      /^The .*direct effect of x on m1 \(2 against 0\) was .*\(difference in means = /,
    );
    // Differences between such effects, too.
    const { effects } = analyseMade({
      columns: { x, w, m1, m2, mood: m2.map((v, i) => 0.3 * v + e3[i]!) },
      theory: "H1: x raises mood through m1 and m2\ncompare x at 2 with 0",
      settings: { interval: "delta", engine: "generalised" },
    });
    expect(effects.find((e) => e.kind === "contrast")!.between).toBe("2 against 0");
    // A unit more is what everybody expects.
    const unit = run("H1: x raises yes through m1", "compare x at 1 with 0");
    expect(unit.effects.every((e) => e.between === null)).toBe(true);
  });

  it("sum straight lines per unit where one of them is moderated", () => {
    const evidence = analyseMade({
      columns: { x, w, m1, m2, mood: m2.map((v, i) => 0.3 * v + e3[i]!) },
      theory:
        "H1: x raises mood through m1 and m2\nH2: w alters m1 to mood\nH3: x raises m2\ncompare x at 2 with 0",
      settings: { interval: "delta", engine: "generalised" },
    });
    const straight = analyseMade({
      columns: { x, w, m1, m2, mood: m2.map((v, i) => 0.3 * v + e3[i]!) },
      theory: "H1: x raises mood through m1 and m2\nH2: w alters m1 to mood\nH3: x raises m2",
      settings: { interval: "delta" },
    });
    const [h1] = evidence.hypotheses;
    expect(h1!.claim!.estimate).toBeCloseTo(straight.hypotheses[0]!.claim!.estimate!, 10);
    expect(h1!.measure).toBe("b");
    const kinds = (e: Evidence): string[] =>
      e.effects
        .filter((q) => q.to === "mood" && q.via[0] === "m1" && q.kind.startsWith("conditional"))
        .map((q) => `${q.kind} ${q.estimate!.toFixed(8)}`);
    expect(kinds(evidence)).toEqual(kinds(straight));
    expect(kinds(straight).length).toBeGreaterThan(2);
  });
});
