import { equationsOf, inUnits, unitChoices, wordsOf, VERDICT_WORDS } from "../../../core";
import type { ReactElement } from "react";
import { describe, expect, it } from "vitest";
import type { EffectKind, Evidence, Settings } from "../../../core";
import { plain } from "../../../core";
import { analyseMade, normals } from "../../../core/test-kit";
import { drawnOf, scaleOf } from "../interval-bar";
import { markupOf, textOf as plainText } from "../test-kit";
import { EquationTable } from "./equation-table";
import { HypothesisTable } from "./hypothesis-table";
import { LedgerEntry } from "./ledger-entry";
import { ScoresTable } from "./scores-table";
import { Steps } from "./steps";

const N = 140;
const [x, w, e, f] = [21, 22, 23, 24].map((seed) => normals(N, seed)) as [
  number[],
  number[],
  number[],
  number[],
];
const hours = x.map((v) => 5 + v);
const support = w.map((v) => 3 + v);
const confidence = hours.map((v, i) => 0.5 * v + 0.4 * (v - 5) * w[i]! + e[i]!);
const belonging = confidence.map((v, i) => 0.6 * v + f[i]!);
const columns = { hours, support, confidence, belonging };
const analysed = (theory: string, settings: Partial<Settings> = {}): Evidence =>
  analyseMade({ columns, theory, settings });

const mediation = analysed(
  "H1: hours raises belonging through confidence\nH2: hours lowers confidence\ndefine share as H1 / total hours to belonging",
  {
    replications: 400,
  },
);
const moderated = analysed(
  "H1: support strengthens hours to belonging through confidence on hours to confidence",
  { replications: 400 },
);

const textOf = (element: ReactElement): string => plainText(markupOf(element));

const entry = (evidence: Evidence, at: number, open = true): string =>
  textOf(
    <LedgerEntry
      hypothesis={evidence.hypotheses[at]!}
      evidence={evidence}
      scale={scaleOf(evidence.effects.map(drawnOf))}
      open={open}
      toggle={() => undefined}
    />,
  );

describe("an entry of the ledger", () => {
  it("holds the sentence, the quantity and the verdict when closed, and no more", () => {
    const text = entry(mediation, 0, false);
    expect(text).toContain("hours raises belonging through confidence");
    expect(text).toContain(
      `indirect effect ${plain(mediation.effects.find((one) => one.kind === "specific_indirect")!.estimate)}`,
    );
    expect(text).toContain("supported");
    expect(text).not.toContain("Other interval methods");
  });

  it("shows, when open, every interval, the parts, the sum of the paths and the sentence for the paper", () => {
    const text = entry(mediation, 0);
    for (const words of [
      "BCa",
      "bias-corrected",
      "percentile",
      "basic bootstrap",
      "normal bootstrap",
      "delta method",
      "Sobel",
      "Joint significance",
    ])
      expect(text, words).toContain(words);
    const total = mediation.effects.find((one) => one.kind === "total")!;
    expect(text).toContain(`Total ${plain(total.estimate, 4)} = direct`);
    expect(text).toContain(mediation.hypotheses[0]!.report);
    expect(text).toContain("path hours on confidence");
  });

  it("says that the opposite was found, not that nothing was", () =>
    expect(entry(mediation, 1)).toContain("the opposite of what was stated"));

  it("puts the index first, then the conditional effects", () => {
    const text = entry(moderated, 0);
    const [index, conditional] = [
      text.indexOf("index of moderated mediation"),
      text.indexOf(" at support"),
    ];
    expect(index).toBeGreaterThan(-1);
    expect(conditional).toBeGreaterThan(index);
  });
});

describe("effects in words", () => {
  it("stand in exactly one kind of units each", () => {
    const units = unitChoices(mediation).map(([key]) => key);
    for (const effect of [...mediation.effects, ...moderated.effects])
      expect([effect.id, units.filter((key) => inUnits(effect, key)).length]).toEqual([
        effect.id,
        1,
      ]);
  });

  it("name the kind and where it holds, without the pair they are grouped by", () => {
    const word = (evidence: Evidence, kind: EffectKind): string[] =>
      evidence.effects
        .filter((one) => one.kind === kind)
        .map((one) => wordsOf(one, "raw", evidence));
    expect(word(mediation, "specific_indirect")).toEqual(["specific indirect, through confidence"]);
    expect(word(mediation, "own")).toEqual(["share"]);
    expect(word(moderated, "index")).toEqual(["index through confidence by support"]);
    expect(word(moderated, "interaction")).toEqual(["interaction, hours × support"]);
    for (const words of word(moderated, "conditional_indirect"))
      expect(words).toMatch(
        /^conditional indirect through confidence at (low|average|high) support \(/,
      );
    const listed = moderated.effects.filter((one) => inUnits(one, "raw"));
    expect(
      new Set(listed.map((one) => `${one.from} ${one.to} ${wordsOf(one, "raw", moderated)}`)).size,
    ).toBe(listed.length);
  });
});

describe("equations", () => {
  it("are told in the errors in use, with what the product adds", () => {
    const equation = equationsOf(moderated).find((one) => one.outcome === "confidence")!;
    const robust = { ...moderated, errors: "HC3" as const };
    const text = textOf(<EquationTable equation={equation} evidence={robust} />);
    const product = equation.coefficients.find((c) => c.components)!;
    expect(text).toContain("SE (HC3)");
    expect(text).toContain(`${plain(product.b)} ${plain(product.errors.HC3!.se)}`);
    expect(text).toContain(
      `hours × support adds ${plain(100 * equation.r2Change[0]!.r2Change, 1)} % of explained variance`,
    );
  });

  it("mark what is asked for: a predictor, or every code column of a grouping, and no other name that begins alike", () => {
    const g = x.map((_, i) => "abc"[i % 3]!);
    const more = { ...columns, g, "g.x": w };
    const evidence = analyseMade({
      columns: more,
      theory: "H1: g affects hours\nH2: g.x affects hours",
      variables: { g: { level: "categorical" } },
    });
    const marked = (highlight: string): number =>
      markupOf(
        <EquationTable
          equation={equationsOf(evidence)[0]!}
          evidence={evidence}
          highlight={highlight}
        />,
      ).split("Mui-selected").length - 1;
    expect([marked("g"), marked("g.x"), marked("support")]).toEqual([2, 1, 0]);
  });

  it("come in z-scores, the outcome's intercept included", () => {
    const equation = equationsOf(moderated).find((one) => one.outcome === "belonging")!;
    const text = textOf(<ScoresTable equation={equation} evidence={moderated} />);
    for (const c of equation.coefficients) expect(text).toContain(plain(c.zScores!.b));
  });
});

describe("the hypothesis table", () => {
  it("has every hypothesis in a row: sentence, estimate, interval, p and decision", () => {
    const text = textOf(<HypothesisTable evidence={mediation} />);
    for (const { label, sentence, claim, verdict } of mediation.hypotheses) {
      expect(text).toContain(
        `${label} ${sentence} ${plain(claim!.estimate)} ${plain(claim!.se)} ${plain(claim!.lower)}, ${plain(claim!.upper)}`,
      );
      expect(text).toContain(VERDICT_WORDS[verdict]);
    }
    // Nothing here has a t or z of its own.
    expect(text).not.toContain("t or z");
  });

  it("shows t where the claim rests on it", () => {
    const tested = analysed("H1: hours raises confidence", { interval: "delta" });
    const text = textOf(<HypothesisTable evidence={tested} />);
    expect(text).toContain("t or z");
    // The t of the same coefficient as the equation has it.
    const { t } = equationsOf(tested)[0]!.coefficients[1]!.errors.classical!;
    expect(text).toContain(` ${plain(t, 2)} `);
  });
});

describe("the steps of a mediation", () => {
  it("are the mediator's equation, the outcome's, and the predictor alone, whose slope is the total", () => {
    const text = textOf(<Steps hypothesis={mediation.hypotheses[0]!} evidence={mediation} />);
    expect(text).toMatch(/Step 1: confidence .*Step 2: belonging .*Step 3: hours alone/);
    const total = mediation.effects.find((one) => one.kind === "total")!;
    const { t } = total.reduced!.tests.classical!;
    expect(text.slice(text.indexOf("Step 3"))).toContain(plain(t, 2));
    expect(textOf(<Steps hypothesis={mediation.hypotheses[1]!} evidence={mediation} />)).toBe("");
  });
});
