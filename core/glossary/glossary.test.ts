import { expect, it } from "vitest";
import { findTerms, GLOSSARY, glossaryEntry } from ".";

it("the glossary defines every term once, in alphabetical order", () => {
  const terms = GLOSSARY.map(({ term }) => term.toLowerCase());
  expect(terms).toEqual([...terms].sort((a, b) => a.localeCompare(b, "en")));
  expect(new Set(terms).size).toBe(terms.length);
  const words = GLOSSARY.flatMap(({ term, also }) => [term, ...(also ?? [])]).map((w) =>
    w.toLowerCase(),
  );
  expect(words.filter((word, i) => words.indexOf(word) !== i)).toEqual([]);
  for (const { definition } of GLOSSARY) expect(definition).toMatch(/^[A-Z].{20,}\.$/s);
  expect(glossaryEntry("vif")!.formula).toContain("R²");
  expect(glossaryEntry("no such term")).toBeUndefined();
});

it("a heading finds the entry of the term that it names", () => {
  const term = (heading: string) => glossaryEntry(heading)?.term;
  expect(term("95 % CI lower")).toBe("confidence interval");
  expect(term("SE (HC3)")).toBe("SE");
  expect(term("SE HC3 (p)")).toBe("SE");
  expect(term("p of the ratio")).toBe("p");
  expect(term("percentile CI")).toBe("confidence interval");
  expect(term("√AVE")).toBe("AVE");
  expect(term("BCa")).toBe("BCa interval");
});

it("finds the term itself before what only mentions it", () => {
  expect(findTerms("se")[0]!.term).toBe("SE");
  expect(findTerms("index of")[0]!.term).toBe("index of moderated mediation");
  expect(findTerms("  ")).toBe(GLOSSARY);
  expect(findTerms("zzz")).toEqual([]);
});
