import type { ReactElement } from "react";
import { describe, expect, it } from "vitest";
import {
  plain,
  pValue,
  type Evidence,
  type HypothesisEvidence,
  type Settings,
  sampleWords,
  VERDICT_WORDS,
} from "../../../core";
import { analyseMade, normals } from "../../../core/test-kit";
import { drawnOf, IntervalBar, scaleOf } from "../interval-bar";
import { markupOf as markup, textOf as plainText } from "../test-kit";
import { VerdictMark } from "../verdict";
import { EffectsTable } from "./effects-table";
import { LedgerEntry } from "./ledger-entry";
import { Pairwise } from "./pairwise";
import { ZeroCrossing } from "./zero-crossing";

const N = 140;
const [x, w, e, f] = [21, 22, 23, 24].map((seed) => normals(N, seed)) as [
  number[],
  number[],
  number[],
  number[],
];
const m = x.map((v, i) => (0.5 + 0.4 * w[i]!) * v + e[i]!);
const y = m.map((v, i) => 0.6 * v + f[i]!);
const group = x.map((_, i) => ["none", "weekly", "daily"][i % 3]!);
const z = group.map((g, i) => (g === "daily" ? 1 : 0) + e[i]!);
const columns = { x, w, m, y, group, z };
const analysed = (theory: string, settings: Partial<Settings> = {}): Evidence =>
  analyseMade({ columns, theory, settings, variables: { group: { level: "categorical" } } });

const textOf = (element: ReactElement): string => plainText(markup(element));
const entry = (evidence: Evidence, label: string): string => {
  const hypothesis = evidence.hypotheses.find((h) => h.label === label)!;
  return textOf(
    <LedgerEntry
      hypothesis={hypothesis}
      evidence={evidence}
      scale={{ min: -1, max: 1 }}
      open
      toggle={() => undefined}
    />,
  );
};

/** The colour of what excludes zero. */
const CLEAR = "var(--petrol)";

describe("an interval to scale", () => {
  const scale = { min: -1, max: 3 };
  const bar = (lower: number | null, upper: number | null, provisional = false): string =>
    markup(<IntervalBar interval={{ estimate: 0.5, lower, upper, provisional }} scale={scale} />);
  it("says its limits, or the one bound that there is", () => {
    expect(bar(0.1, 0.9)).toContain('aria-label="0.500, interval 0.100 to 0.900"');
    expect(bar(0.1, null)).toContain('aria-label="0.500, above 0.100, one-sided"');
    expect(bar(null, 0.9)).toContain('aria-label="0.500, below 0.900, one-sided"');
    expect(bar(null, null)).toBe("");
  });
  it("marks what contains zero, on either side of a ray", () => {
    expect(bar(0.1, 0.9)).toContain(CLEAR);
    expect(bar(-0.1, 0.9)).not.toContain(CLEAR);
    expect(bar(-0.1, null)).not.toContain(CLEAR);
    expect(bar(0.1, null)).toContain(CLEAR);
    expect(bar(null, 0.9)).not.toContain(CLEAR);
    expect(bar(null, -0.1)).toContain(CLEAR);
    expect(bar(0.1, 0.9, true)).toContain('stroke-dasharray="4 2"');
  });
  it("has a scale that holds zero and everything drawn, open ends aside", () => {
    const at = (lower: number | null, upper: number | null) => ({
      estimate: 2,
      lower,
      upper,
      provisional: false,
    });
    expect(scaleOf([at(1, 3), at(1.5, null)])).toEqual({ min: 0, max: 3 });
    expect(scaleOf([at(null, 4), at(-2, 0)])).toEqual({ min: -2, max: 4 });
    expect(scaleOf([])).toEqual({ min: 0, max: 0 });
  });
});

describe("a verdict", () => {
  it("is a shape and a word, or a shape that is named", () => {
    for (const [verdict, words] of Object.entries(VERDICT_WORDS) as [
      HypothesisEvidence["verdict"],
      string,
    ][]) {
      expect(textOf(<VerdictMark verdict={verdict} />)).toContain(words);
      const bare = markup(<VerdictMark verdict={verdict} word={false} />);
      expect(bare).toContain(`aria-label="${words}"`);
      expect(bare).toMatch(/<path|<circle/);
    }
  });
});

describe("the ledger", () => {
  it("keeps one-tailed and two-tailed tests apart and marked", () => {
    const evidence = analysed("H1: x raises y through m\nH2: x affects m", {
      tail: "one",
      replications: 300,
    });
    const claim = evidence.hypotheses[0]!.claim!;
    const text = entry(evidence, "H1");
    expect(text).toContain("claimed, one-tailed");
    expect(text).toContain(`above ${plain(claim.lower)}`);
    expect(text).toContain(`${pValue(claim.p, claim.pIsBound)} (one-tailed)`);
    expect(text).toContain("p, two-tailed");
    expect(entry(evidence, "H2")).not.toContain("one-tailed:");
  });

  it("says what every p rests on", () => {
    const evidence = analysed("H1: x raises y through m", { interval: "delta" });
    const text = entry(evidence, "H1");
    for (const reference of ["t(137)", "t(138)"]) expect(text).toContain(reference);
    expect(text).toMatch(/ z /);
  });

  it("gives the reason in the place of a number that must not be reported", () => {
    const evidence = analysed("H1: x raises z through m");
    const withheld = evidence.effects.find((one) => one.kind === "proportion_mediated")!;
    expect(withheld.shown).toBeNull();
    const table = textOf(
      <EffectsTable evidence={evidence} selected={null} select={() => undefined} />,
    );
    expect(table).not.toContain("undefined");
    expect(drawnOf(withheld)).toEqual({
      estimate: null,
      lower: null,
      upper: null,
      provisional: false,
    });
  });

  it("lists the pairwise differences beneath a joint test, and nowhere else", () => {
    const evidence = analysed("H1: group affects z\nH2: x raises z\nH3: group alters x to m", {
      replications: 0,
    });
    const rows = (label: string): number =>
      markup(
        <Pairwise
          hypothesis={evidence.hypotheses.find((h) => h.label === label)!}
          evidence={evidence}
        />,
      ).split("<tr").length - 2;
    expect([rows("H1"), rows("H3")]).toEqual([3, 3]);
    expect(
      markup(
        <Pairwise
          hypothesis={evidence.hypotheses.find((h) => h.label === "H2")!}
          evidence={evidence}
        />,
      ),
    ).toBe("");
    const text = textOf(<Pairwise hypothesis={evidence.hypotheses[0]!} evidence={evidence} />);
    expect(text).toContain("p, adjusted (Holm)");
    for (const pair of ["weekly against none", "daily against none", "daily against weekly"])
      expect(text.includes(pair) || text.includes(pair.split(" ").reverse().join(" "))).toBe(true);
  });

  it("says where a moderated effect is zero, by Fieller for a slope and by the band for an indirect effect", () => {
    const evidence = analysed(
      "H1: w strengthens x to m\nH2: w strengthens x to y through m on x to m",
      { replications: 200 },
    );
    const zero = (at: number): string =>
      textOf(<ZeroCrossing hypothesis={evidence.hypotheses[at]!} evidence={evidence} />);
    expect(zero(0)).toMatch(/The slope is zero at w = .*95 % CI .* \(Fieller\)/);
    expect(zero(1)).toMatch(/band contains zero/);
    const waiting = analysed("H2: w strengthens x to y through m on x to m");
    expect(textOf(<ZeroCrossing hypothesis={waiting.hypotheses[0]!} evidence={waiting} />)).toBe(
      "",
    );
  });
});

describe("the sample in words", () => {
  const words = (rowsRead: number, n: number, dropped: number): string =>
    sampleWords({
      unit: "teams",
      sample: {
        rowsRead,
        n,
        excluded: [],
        dropped: Array.from({ length: dropped }, (_, i) => i + 1),
        keepsIncomplete: false,
        missing: {},
      },
    });
  it("tells filters from missing values", () => {
    expect(words(10, 10, 0)).toBe("teams used, nobody left out");
    expect(words(10, 7, 3)).toBe("teams used, 3 left out for missing values");
    expect(words(10, 7, 0)).toBe("teams used, 3 left out by filters");
    expect(words(10, 5, 2)).toBe(
      "teams used, 2 left out for missing values, 3 left out by filters",
    );
  });
});
