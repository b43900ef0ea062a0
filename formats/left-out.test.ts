import { describe, expect, it } from "vitest";
import { effectsCsv } from ".";
import { Analysis, completeChoices, composeReport, plainText } from "../core";

import { madeStudy, normals } from "../core/test-kit";

const n = 40;
const [x, age, e] = [normals(n, 1), normals(n, 2), normals(n, 3)];
const y = x.map((v, i) => 0.5 * v + age[i]! + e[i]!);

describe("a theory of which something could not be read", () => {
  const { definition, table } = madeStudy({
    columns: { x, age, y },
    theory: ["H1: x raises y", "H2: x frobs y", "adjust y for age, incom"].join("\n"),
    settings: { interval: "delta" },
  });
  const evidence = Analysis.of(definition, table, { tolerant: true }).evidence();
  const sentence = "“H2: x frobs y” could not be read and takes part in nothing";
  const name = "“incom” is left out of “adjust y for age, incom”";

  it("is estimated with all that can be, covariates of the same line among it", () => {
    expect(evidence.hypotheses.map((h) => h.label)).toEqual(["H1"]);
    expect(evidence.roles.covariates).toEqual(["age"]);
  });

  it("says so above all numbers, in the report and in the file of effects", () => {
    const told = evidence.warnings.map((w) => w.message).join("\n");
    const report = composeReport({ evidence, data: null, definition }, completeChoices({}))
      .blocks.flatMap((block) => (block.kind === "paragraph" ? [block.text] : []))
      .map((text) => plainText(text, () => ""))
      .join("\n");
    for (const place of [told, report, effectsCsv(evidence)])
      for (const words of [sentence, name])
        // A file of values doubles the quotation marks it holds, not these.
        expect(place).toContain(words);
  });

  it("is refused where nobody is there to see it", () =>
    expect(() => Analysis.of(definition, table)).toThrow(/Line 2, column 7/));
});
