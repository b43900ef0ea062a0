import { describe, expect, it } from "vitest";
import {
  orderedColumnOf,
  orderedExpected,
  orderedResamples,
} from "../../../../reference/ordered-load";
import {
  analyse,
  Analysis,
  dataEvidence,
  completeChoices,
  composeReport,
  guessVariable,
  newDefinition,
  robustness,
  TableBuilder,
  type Evidence,
  type StructureSection,
  type StudyDefinition,
  type Table,
} from "../../..";

const LIKERT = "three-factor-mediation-likert";
const MIXED = "mixed-numeric-and-ordered";

function studyOf(
  name: string,
  columns: string[],
  theory: string,
  settings: Partial<StudyDefinition["settings"]> = {},
): { study: StudyDefinition; table: Table } {
  const builder = new TableBuilder(columns);
  const values = columns.map((column) => orderedColumnOf(name, column));
  values[0]!.forEach((_, r) => builder.add(values.map((column) => String(column[r]))));
  const table = builder.build();
  const plain = newDefinition(name, table.columns.map(guessVariable));
  const study = {
    ...plain,
    theory,
    settings: { ...plain.settings, replications: 0, interval: "delta" as const, ...settings },
  };
  return { study, table };
}

const items = (stem: string): string[] => [1, 2, 3, 4].map((k) => `${stem}${k}`);
const likert = (lines: string, settings = {}) =>
  studyOf(
    LIKERT,
    ["skl", "bel", "wel"].flatMap(items),
    `measure skill reflects ${items("skl").join(", ")}
measure belonging reflects ${items("bel").join(", ")}
measure wellbeing reflects ${items("wel").join(", ")}
H1: skill raises wellbeing through belonging
${lines}`,
    settings,
  );
const ALL = ["skill", "belonging", "wellbeing"].map((m) => `model ${m} as ordered`).join("\n");

const mixed = (theory: string) =>
  studyOf(
    MIXED,
    ["years", ...items("skl"), "renew"],
    `measure skill reflects ${items("skl").join(", ")}\n${theory}`,
  );

const structureOf = ({ sections }: Evidence): StructureSection =>
  sections.find((s) => s.kind === "structure")!;
const estimateOf = ({ effects }: Evidence, id: string): number =>
  effects.find((e) => e.id === id)!.estimate!;

describe("a theory whose answers are ordered", () => {
  it("says so in a line for each measure, or in the settings for all", () => {
    const { study, table } = likert(ALL);
    const evidence = analyse(study, table);
    const section = structureOf(evidence);
    expect(evidence.estimator.label).toBe("ordered answers, DWLS");
    expect(section.fit!.shifted!.chi2).toBeCloseTo(38.644556412813, 6);
    expect(section.ordered!.statistics).toBe(114);
    expect(section.ordered!.parameters).toBe(63);
    const wanted = orderedExpected(LIKERT).result.effects["skill => wellbeing"].unstandardised;
    const indirect = evidence.effects.find(
      (e) => e.id === "indirect skill > belonging > wellbeing",
    )!;
    const { est, se, ci95 } = wanted.total_indirect;
    expect(indirect.estimate).toBeCloseTo(est, 7);
    expect(indirect.shown!.se).toBeCloseTo(se, 6);
    expect(indirect.shown!.lower).toBeCloseTo(ci95[0], 6);
    expect(evidence.hypotheses[0]!.verdict).toBe("supported");
    const bySettings = likert("", { options: { answers: "ordered" } });
    const other = analyse(bySettings.study, bySettings.table);
    expect(other.effects.map((e) => e.estimate)).toEqual(evidence.effects.map((e) => e.estimate));
    const numbers = likert(ALL, { options: { answers: "numbers" } });
    expect(analyse(numbers.study, numbers.table).estimator.label).toBe("maximum likelihood");
  });

  it("is refitted on resamples, thresholds, correlations and weights anew", () => {
    const resamples = orderedResamples(LIKERT);
    const { study, table } = likert(ALL, { replications: 12, interval: "percentile" });
    const analysis = Analysis.of({ ...study, resamples }, table).complete();
    const { evidence } = { evidence: analysis.evidence() };
    const wanted = orderedExpected(LIKERT).resamples;
    expect(wanted.length).toBe(12);
    const values = analysis.made.flatMap((block) => [...block.values]);
    const labels = analysis.prepared.fit.parameters.labels;
    const size = values.length / 12;
    const at = (label: string, r: number): number => values[r * size + labels.indexOf(label)]!;
    wanted.forEach((own: Record<string, number>, r: number) => {
      expect(at("belonging ~ skill", r)).toBeCloseTo(own.a!, 5);
      expect(at("wellbeing ~ belonging", r)).toBeCloseTo(own.b!, 5);
      expect(at("wellbeing ~ skill", r)).toBeCloseTo(own.cp!, 5);
    });
    expect(evidence.bootstrap!.failed).toBe(0);
  });

  it("takes an observed outcome as ordered, and says what its effects are on", () => {
    const theory =
      "H1: years raises renew through skill\nmodel skill as ordered\nmodel renew as ordered";
    const { study, table } = mixed(theory);
    const evidence = analyse(study, table);
    const wanted = orderedExpected(MIXED).ordered_outcome.result.effects["years => renew"];
    expect(estimateOf(evidence, "total years > renew")).toBeCloseTo(
      wanted.unstandardised.total.est,
      7,
    );
    expect(evidence.hypotheses[0]!.measure).toBe("SDs of the tendency behind the answers");
    const [predicted] = structureOf(evidence).ordered!.predicted;
    expect(predicted!.at.map((a) => a.shares.at(-1)!)).toEqual([
      expect.closeTo(0.2488054, 6),
      expect.closeTo(0.3923002, 6),
      expect.closeTo(0.552348, 6),
    ]);
    const data = dataEvidence(study, table);
    const report = JSON.stringify(
      composeReport({ evidence, data, definition: study }, completeChoices({})),
    );
    expect(report).toContain(
      "Effects on renew are on the tendency behind its answers, in its SDs.",
    );
    expect(report).toContain("Ordered answers: shares and thresholds");
    expect(report).toContain("Predicted answers to renew by years");
    expect(report).toContain("Scaled and shifted");
  });

  it("does not depend on what levels are called, their direction, or the units of numbers", () => {
    const theory =
      "H1: years raises renew through skill\nmodel skill as ordered\nmodel renew as ordered";
    const { study, table } = mixed(theory);
    const one = analyse(study, table);
    const change = (of: Record<string, (v: number) => number>): Evidence => {
      const builder = new TableBuilder(table.columns.map((c) => c.name));
      const columns = table.columns.map((c) => orderedColumnOf(MIXED, c.name));
      columns[0]!.forEach((_, r) =>
        builder.add(
          columns.map((c, j) => String((of[table.columns[j]!.name] ?? ((v) => v))(c[r]!))),
        ),
      );
      return analyse(study, builder.build());
    };
    const recoded = change({ renew: (v) => 10 + v * v, skl2: (v) => 3 * v });
    expect(estimateOf(recoded, "total years > renew")).toBeCloseTo(
      estimateOf(one, "total years > renew"),
      9,
    );
    const turned = change({ renew: (v) => -v });
    expect(estimateOf(turned, "total years > renew")).toBeCloseTo(
      -estimateOf(one, "total years > renew"),
      8,
    );
    const months = change({ years: (v) => 1e6 + 12 * v });
    expect(12 * estimateOf(months, "total years > renew")).toBeCloseTo(
      estimateOf(one, "total years > renew"),
      6,
    );
    expect(structureOf(months).fit!.shifted!.chi2).toBeCloseTo(
      structureOf(one).fit!.shifted!.chi2,
      5,
    );
  });

  it("with gaps uses what each pair has where everybody is kept", () => {
    const { study, table } = likert(ALL, { options: { missing: "everybody" } });
    const names = table.columns.map((c) => c.name);
    const builder = new TableBuilder(names);
    const columns = names.map((name) => orderedColumnOf(LIKERT, name));
    columns[0]!.forEach((_, r) =>
      builder.add(columns.map((c, j) => ((r + 7 * j) % 11 === 0 ? "" : String(c[r])))),
    );
    const evidence = analyse(study, builder.build());
    expect(evidence.sample.n).toBe(350);
    const section = structureOf(evidence);
    expect(section.method.words).toContain("completely at random");
    expect(Math.min(...section.ordered!.pairs.map((p) => p.n))).toBeLessThan(300);
    const whole = analyse(likert(ALL).study, table);
    const id = "indirect skill > belonging > wellbeing";
    expect(estimateOf(evidence, id)).toBeCloseTo(estimateOf(whole, id), 0.9);
  });

  it("refuses with a remedy what it cannot do", () => {
    const refused = ({ study, table }: ReturnType<typeof likert>): string => {
      try {
        analyse(study, table);
        return "";
      } catch (error) {
        return (error as Error).message;
      }
    };
    expect(refused(likert("model skl1 as ordered"))).toMatch(/is an item.*Name the measure/);
    expect(
      refused(likert(`H2: wellbeing strengthens skill to belonging\nmodel skill as ordered`)),
    ).toMatch(/circle|products of ordered answers|Interactions need/);
    expect(refused(likert(`${ALL}\nhold variance of skl2 at 0.5`))).toMatch(
      /cannot be held or shared/,
    );
  });

  it("says of a line that changes nothing that it does", () => {
    const { study, table } = mixed("H1: years raises skill\nmodel renew as ordered");
    expect(analyse(study, table).warnings.map((w) => w.message)).toContain(
      "“model renew as ordered” changes nothing: nothing explains “renew” in these sentences, nor is it a latent variable of them.",
    );
  });

  it("is proposed where answers are hardly numbers, and compared both ways", () => {
    const { study, table } = likert("");
    const evidence = analyse(study, table);
    const proposals = evidence.warnings.filter((w) => w.code === "answers_hardly_numbers");
    expect(proposals.length).toBeGreaterThan(0);
    expect(proposals[0]!.message).toMatch(
      /has \d+ % of its answers at one end.*model \w+ as ordered/,
    );
    expect(evidence.hypotheses[0]!.cautions.map((c) => c.code)).not.toContain(
      "answers_hardly_numbers",
    );
    const { engine, theory, sample } = Analysis.of(study, table).prepared;
    const waysOf = (of: StudyDefinition): string[] =>
      engine.variants!(of.settings, sample.dropped.length, ["reflects"], theory).map((w) => w.name);
    expect(waysOf(study).some((name) => name.startsWith("answers as ordered"))).toBe(true);
    const ordered = likert(ALL, { replications: 60 });
    const others = robustness(ordered.study, ordered.table, "estimators");
    const numbers = others.find((s) => s.name.startsWith("answers as numbers"))!;
    expect(numbers.problem).toBeNull();
    expect(numbers.claims[0]!.verdict).toBe("supported");
  });
});
