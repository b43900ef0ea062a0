import { describe, expect, it } from "vitest";
import { claimWords, parseTheory, type Hypothesis, type Moderation } from ".";

describe("what is written of a theory", () => {
  it("says a claim to people without its label and without quotation marks", () => {
    const said = (line: string): string =>
      claimWords(
        parseTheory(line, ["Body Mass (g)", "Site", "beak"]).statements[0] as
          Hypothesis | Moderation,
      );
    expect(said('H1: Site raises "Body Mass (g)" through beak')).toBe(
      "Site raises Body Mass (g) through beak",
    );
    expect(said('H1: Site ("North: 2" against "a ""b""") raises beak')).toBe(
      'Site (North: 2 against a "b") raises beak',
    );
    expect(said('"a: b": "Body Mass (g)" alters Site to beak')).toBe(
      "Body Mass (g) alters Site to beak",
    );
  });
});
