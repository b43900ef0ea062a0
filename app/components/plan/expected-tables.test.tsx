import { describe, expect, it } from "vitest";
import {
  completePlan,
  DEFAULT_SETTINGS,
  newDefinition,
  type StudyPlan,
  type Variable,
} from "../../../core";
import { markupOf, textOf } from "../test-kit";
import { ExpectedTables } from "./expected-tables";
import { readTheory } from "./read-theory";

const variables: Variable[] = [
  ...["x", "y", "age", "i1", "i2", "i3"].map((name) => ({ name, level: "continuous" as const })),
  { name: "answer", level: "ordinal" },
  { name: "site", level: "categorical" },
  { name: "asked", level: "binary" },
];
const THEORY = [
  "measure m averages i1, i2, i3",
  "H1: x raises y through m",
  "H2: answer strengthens m to y",
  "also site to y",
  "also asked to y",
  "adjust m for age",
].join("\n");

function shown(plan: Partial<StudyPlan>, theory = THEORY): string {
  const definition = { ...newDefinition("planned", variables), theory, settings: DEFAULT_SETTINGS };
  const read = readTheory(definition);
  if (!read.theory) throw new Error(read.problem ?? "no sentence");
  return markupOf(
    <ExpectedTables
      theory={read.theory}
      measures={read.measures}
      variables={variables}
      plan={completePlan(plan)}
      change={() => undefined}
    />,
  );
}
/** The value of the field of that name. */
const field = (html: string, label: string): string | undefined => {
  const input = html.match(new RegExp(`<input[^>]*aria-label="${label}"[^>]*>`))?.[0];
  return input && (/ value="([^"]*)"/.exec(input)?.[1] ?? "");
};

describe("what is expected beside the arrows of the picture", () => {
  it("has a field for what is held, for correlations of predictors and for reliabilities", () => {
    const html = shown({
      sizes: [{ from: ["age"], to: "m", size: 0.2 }],
      correlations: [{ a: "x", b: "age", r: 0.3 }],
      reliabilities: { m: 0.7 },
    });
    expect(field(html, "Expected size of age on m")).toBe("0.2");
    expect(field(html, "Expected size of answer on y")).toBe("");
    expect(field(html, "Expected correlation of x with age")).toBe("0.3");
    expect(field(html, "Expected reliability of m")).toBe("0.7");
    expect(textOf(html)).toContain("Unreliable scores will show less than is expected here.");
    expect(textOf(shown({ sizesAmong: "scores" }))).toContain("unreliability is in them already");
  });

  it("says how answers lie as nothing is said of them", () => {
    const html = shown({});
    expect(field(html, "Expected share of asked")).toBe("");
    expect(textOf(html)).toContain("site: levels alike");
    // A count has no answers in steps, and what nobody took from data is not offered.
    const select = /<select[^>]*aria-label="Expected shape of answer"[^]*?<\/select>/.exec(
      html,
    )![0];
    expect(select).not.toContain("count");
    expect(select).not.toContain("as in the data");
  });

  it("shows the shares that were taken from data, by the names of their levels", () => {
    const html = shown({
      variables: {
        asked: { shares: [1 - 131 / 287, 131 / 287], answers: ["no", "yes"] },
        site: { shares: [0.25, 0.4, 0.35], answers: ["Canal", "North", "South"] },
        answer: { shares: [0.2, 0.5, 0.3], answers: ["0", "1", "2"] },
      },
    });
    expect(field(html, "Expected share of asked")).toBe("0.456");
    expect(textOf(html)).toContain("site: Canal 25 %, North 40 %, South 35 %");
    const select = /<select[^>]*aria-label="Expected shape of answer"[^]*?<\/select>/.exec(
      html,
    )![0];
    expect(select).toMatch(/<option[^>]*selected[^>]*>as in the data/);
  });
});
