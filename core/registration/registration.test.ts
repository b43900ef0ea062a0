import { describe, expect, it } from "vitest";
import { deviations, registrationOf } from ".";
import { registrationDocument } from "../report";
import { demoStudy } from "../../demo/study";
import type { StudyDefinition } from "../study";

const { definition } = demoStudy();
const plan = registrationOf(definition, "2026-05-04T10:00:00.000Z");
const changed = (patch: Partial<StudyDefinition>): string[] =>
  deviations(plan, { ...definition, ...patch });
const theory = (from: string | RegExp, to: string): string => definition.theory.replace(from, to);

describe("deviations from a plan", () => {
  it("are none for the study as it was, whatever the order of its sentences, spaces and comments", () => {
    expect(changed({})).toEqual([]);
    const lines = definition.theory.split("\n");
    const hypotheses = lines.filter((l) => /^H\d/.test(l)).reverse();
    const others = lines.filter((l) => !/^H\d/.test(l));
    expect(
      changed({
        theory: [...hypotheses, ...others].map((l) => `  ${l.replace(" ", "  ")}  `).join("\n"),
      }),
    ).toEqual([]);
    expect(changed({ title: "Another", question: "Another?", log: [] })).toEqual([]);
  });

  it("name hypotheses that came, went or changed", () => {
    expect(changed({ theory: theory("H4: months lowers", "H4: months raises") })).toEqual([
      "H4 was “months lowers belonging”, and is “months raises belonging”.",
    ]);
    expect(changed({ theory: `${definition.theory}\nH9: age affects friends` })).toEqual([
      "H9 (age affects friends) was added.",
    ]);
    expect(changed({ theory: theory(/^H4: .*$/m, "") })).toEqual([
      "H4 (months lowers belonging) was taken out.",
    ]);
    const adjusted = changed({ theory: theory(/^adjust .*$/m, "") });
    expect(adjusted).toHaveLength(1);
    expect(adjusted[0]).toMatch(/^“adjust .*” was taken out\.$/);
  });

  it("name measures and exclusions", () => {
    const [measure, ...more] = changed({ theory: theory("sup3, sup4", "sup3") });
    expect(measure).toContain("support");
    expect(more).toEqual([]);
    const filter = {
      name: "late",
      active: true,
      rule: { kind: "rows" as const, rows: [3], why: "" },
    };
    expect(changed({ filters: [filter as unknown as StudyDefinition["filters"][number]] })).toEqual(
      ["Left out as “late”: row 3."],
    );
  });

  it("name every setting that could change a number or a verdict", () => {
    const { settings } = definition;
    const of = (patch: Partial<StudyDefinition["settings"]>): string[] =>
      changed({ settings: { ...settings, ...patch } });
    expect(of({ interval: "percentile" })).toEqual(["The interval: planned BCa, now percentile."]);
    expect(of({ tail: "one", level: 0.9 })).toEqual([
      "The confidence level: planned 95 %, now 90 %.",
      "Tests of directional hypotheses: planned two-tailed, now one-tailed.",
    ]);
    const others = {
      several: "holm",
      replications: 100,
      seed: 1,
      monteCarloDraws: 5,
      errors: "HC3",
      crossEquations: "zero",
      cluster: "group",
      strata: "group",
      centring: "mean",
      engine: "other",
      options: { a: 1 },
      probes: { age: [3] },
    } as const;
    for (const [key, value] of Object.entries(others))
      expect(of({ [key]: value } as Partial<StudyDefinition["settings"]>)).toHaveLength(1);
  });
});

it("a line that nothing can be tested of is told in the document, and no other is", () => {
  const theory = `${definition.theory}\nH9: hours somehow belonging`;
  const document = registrationDocument("Café", registrationOf({ ...definition, theory }, "2026"));
  expect(document.leftOut).toHaveLength(1);
  expect(document.leftOut[0]).toContain("“H9: hours somehow belonging”");
  expect(JSON.stringify(document.blocks)).toContain("could not read this line");
  expect(registrationDocument("Café", registrationOf(definition, "2026")).leftOut).toEqual([]);
});

it("a plan as a document holds every sentence and every setting", () => {
  const text = JSON.stringify(registrationDocument("Café", plan).blocks);
  for (const line of definition.theory.split("\n").filter((l) => l.trim() !== ""))
    expect(text).toContain(JSON.stringify(line.trim()).slice(1, -1));
  expect(text).toContain("Laid down on 2026-05-04");
  expect(text).toContain("The number of bootstrap samples: 5,000.");
});

describe("expectations of a plan", () => {
  const expected = {
    sizes: [
      { from: ["hours"], to: "confidence", size: 0.3 },
      { from: ["hours", "support"], to: "confidence", size: 0.1 },
    ],
    n: 300,
    reliabilities: { confidence: 0.8 },
  };
  const planned = registrationOf({ ...definition, plan: expected }, "2026-05-04T10:00:00.000Z");

  it("stand in the document with the number of people", () => {
    const text = JSON.stringify(registrationDocument("Café", planned));
    expect(text).toContain(
      "hours × support on confidence: 0.1 (standardised, among what is measured)",
    );
    expect(text).toContain("reliability of confidence: 0.8");
    expect(text).toContain("300 people, for a wanted power of 80 %");
  });

  it("a number that was planned is held against the number that came", () => {
    const definition = { ...demoStudy().definition, plan: { n: 126 } };
    const registered = { ...registrationOf(definition, "2026-12-01"), plan: { n: 126 } };
    expect(deviations(registered, definition, 126)).toEqual([]);
    expect(deviations(registered, definition, 98)).toEqual([
      "Planned were 126 people; 98 entered the analysis.",
    ]);
    // Without a plan of a number there is nothing to differ from.
    expect(deviations({ ...registered, plan: {} }, definition, 98).join(" ")).not.toContain("98");
  });

  it("are named where they are others now", () => {
    const now = { ...definition, plan: { ...expected, n: 250, sizes: [expected.sizes[0]!] } };
    expect(deviations(planned, now)).toEqual([
      "People: planned 300, now 250.",
      "The expected size of hours × support on confidence: planned 0.1, now none.",
    ]);
    expect(deviations(planned, { ...definition, plan: expected })).toEqual([]);
  });
});
