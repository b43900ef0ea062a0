import { describe, expect, it } from "vitest";
import { analyseMade, normals } from "../test-kit";
import { claimWorking } from "../working/claim";
import type { Evidence } from "./types";

/** What is not decided, or decided by more than one interval, and how that is told everywhere. */

const claim = ({ hypotheses }: Evidence, label: string) =>
  hypotheses.find((h) => h.label === label)!;

describe("a claim whose meaning hangs on the sign of an effect", () => {
  const n = 60;
  const [x, w, e] = [normals(n, 1), normals(n, 2), normals(n, 3)];
  /** The slope on x, added exactly: estimate and resamples move by it, and by nothing else. */
  const study = (added: number, seed = 1, theory = "H1: w weakens x to y") =>
    analyseMade({
      columns: { x: x!, w: w!, y: e!.map((v, i) => v + (0.6 * w![i]! + added) * x![i]!) },
      theory,
      settings: { interval: "percentile", replications: 1000, seed },
    });
  const focal = (evidence: Evidence) => {
    const [id] = claim(evidence, "H1").components;
    return evidence.effects.find((f) => f.id === id)!.shown!;
  };
  const { upper } = focal(study(0));

  it("is unsettled where that sign comes from a limit near zero", () => {
    const near = study(-upper! - 1e-4);
    expect(focal(near).upper).toBeCloseTo(-1e-4, 6);
    const h = claim(near, "H1");
    expect(h.verdict).toBe("unsettled");
    expect(h.reason).toContain("hangs on a limit so near zero");
    expect(h.reason).toContain("“weakens”");
    // Without that, seeds say one thing and its opposite of the same data.
    const clear = (added: number) => claim(study(-upper! + added), "H1").verdict;
    expect([clear(-0.1), clear(0.1)]).toEqual(["supported", "opposite"]);
  });

  it("is decided where a sentence states the sign, or where no sign would change the decision", () => {
    const stated = study(-upper! - 1e-4, 1, "H1: w weakens x to y\nH2: x lowers y");
    expect(claim(stated, "H1").verdict).toBe("supported");
    const undirected = study(-upper! - 1e-4, 1, "H1: w alters x to y");
    expect(claim(undirected, "H1").verdict).toBe("supported");
    const none = analyseMade({
      columns: { x: x!, w: w!, y: e!.map((v, i) => v - upper! * x![i]!) },
      theory: "H1: w weakens x to y",
      settings: { interval: "percentile", replications: 1000 },
    });
    expect(claim(none, "H1").verdict).toBe("not_supported");
  });

  it("says when a stated sign is not what the data show", () => {
    const { reason } = claim(study(2, 1, "H1: w weakens x to y\nH2: x lowers y"), "H1");
    expect(reason).toContain("stated to be negative, but the data show it positive");
    expect(reason).toContain("“weakens” is judged by what is stated");
  });

  it("tells of a crossing only where the change is shown", () => {
    const crossing = /crosses zero/;
    expect(claim(study(0), "H1").reason).toMatch(crossing);
    const flat = analyseMade({
      columns: { x: x!, w: w!, y: e! },
      theory: "H1: w weakens x to y",
    });
    expect(claim(flat, "H1").verdict).toBe("not_supported");
    expect(claim(flat, "H1").reason).not.toMatch(crossing);
  });
});

describe("resamples that could not be fitted", () => {
  const x = [1, 0, 0, 0, 0, 0, 0, 0];
  const y = [4.1, 0.2, -0.3, 0.4, 0.1, -0.2, 0.3, -0.1];
  it.each(["percentile", "bca", "normal", "basic"] as const)(
    "above a tenth leave no limits by %s, and nothing is decided",
    (interval) => {
      const evidence = analyseMade({
        columns: { x, y },
        theory: "H1: x raises y",
        settings: { interval, replications: 500 },
      });
      const { failed, done } = evidence.bootstrap!;
      expect(failed / done).toBeGreaterThan(0.1);
      const h = claim(evidence, "H1");
      expect(h.verdict).toBe("not_testable");
      expect(h.claim).toMatchObject({ lower: null, upper: null, p: null });
      expect(h.reason).toContain("% of the bootstrap samples");
      expect(h.report).toContain("could not be tested");
      for (const { shown } of evidence.effects)
        expect([shown?.lower ?? null, shown?.upper ?? null]).toEqual([null, null]);
    },
  );

  it("below that are told at the verdict, and leave the kind of mediation open", () => {
    // Three of eighteen: (15/18)^18 = 3.8 % of the resamples have none of them.
    const x = Array.from({ length: 18 }, (_, i) => (i < 3 ? 1 : 0));
    const noise = normals(36, 21);
    const m = x.map((v, i) => 2 * v + 0.3 * noise[i]!);
    const evidence = analyseMade({
      columns: { x, m, y: m.map((v, i) => v + 0.3 * noise[18 + i]!) },
      theory: "H1: x raises y through m\nH2: x raises y",
      settings: { interval: "percentile", replications: 1000, seed: 3 },
    });
    const { failed, done } = evidence.bootstrap!;
    expect(failed / done).toBeGreaterThan(0.01);
    expect(failed / done).toBeLessThanOrEqual(0.1);
    const h = claim(evidence, "H1");
    expect(h.cautions.map((c) => c.message).join()).toContain(`${failed} of ${done}`);
    expect(h.pattern?.kind).toBe("open");
  });
});

describe("an outcome that is explained without rest", () => {
  const [x, z] = [normals(40, 5), normals(40, 6)] as [number[], number[]];
  it.each([1, 1e6, 1e-6])("leaves rounding, which is no evidence, in units of %d", (unit) => {
    const evidence = analyseMade({
      columns: {
        x,
        z: z.map((v) => v * unit),
        y: x.map((v) => 3 * v + 1),
      },
      theory: "H1: z affects y\nH2: x raises y",
    });
    expect(claim(evidence, "H1").verdict).toBe("not_testable");
    expect(claim(evidence, "H1").reason).toContain("The outcome y is explained without rest");
    expect(claim(evidence, "H1").claim!.p).toBeNull();
    expect(claim(evidence, "H2").verdict).toBe("not_testable");
    expect(claim(evidence, "H2").reason).toContain("no standard error to test the effect by");
    const row = evidence.effects.find((e) => e.id === claim(evidence, "H1").effects[0])!;
    expect([row.shown, row.withheld]).toEqual([null, expect.stringContaining("without rest")]);
  });
});

describe("where Holm's correction decides", () => {
  const n = 100;
  const e = (seed: number) => normals(n, seed);
  const [x, m, q] = [e(11), e(12), e(13)];
  const m1 = x!.map((v, i) => 0.27 * v + m![i]!);
  const columns = {
    x: x!,
    m: m1,
    y: m1.map((v, i) => 0.3 * v + q![i]!),
    k: e(14),
    l: e(15),
    o: e(16),
  };
  const theory = "H1: x raises y through m\nH2: k raises l\nH3: k raises o\nH4: x affects y";
  const run = (several: "none" | "holm") =>
    analyseMade({ columns, theory, settings: { interval: "delta", several } });

  it("everything that is said follows it: verdict, pattern, sentence", () => {
    const [plain, holm] = [run("none"), run("holm")].map((found) => claim(found, "H1"));
    expect(plain!.verdict).toBe("supported");
    expect(plain!.pattern!.kind).toBe("indirect_only");
    expect(plain!.adjusted).toBeNull();
    expect(holm!.verdict).toBe("not_supported");
    expect(holm!.pattern!.kind).toBe("no_effect");
    expect(holm!.pattern!.words).toContain("Holm");
    expect(holm!.pattern!.words).not.toMatch(/full mediation|both contain zero/);
    expect(holm!.report).toContain("not distinguishable from zero once corrected");
    expect(holm!.report).toContain("(Holm, adjusted p = ");
    expect(holm!.adjusted!.p).toBeGreaterThan(0.05);
  });

  it("the working of a decision names its p", () => {
    const [plain, holm] = [run("none"), run("holm")];
    const told = (found: Evidence) => claimWorking(claim(found, "H1"), found).steps;
    expect(told(holm!).map((s) => s.what)).toContain("Corrected for the number of hypotheses");
    expect(told(plain!).map((s) => s.what)).not.toContain("Corrected for the number of hypotheses");
  });
});
