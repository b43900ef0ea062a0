import { expect, it } from "vitest";
import { GLOSSARY, glossaryEntry } from "./glossary";

it("the glossary defines every term once, in alphabetical order", () => {
  const terms = GLOSSARY.map(({ term }) => term.toLowerCase());
  expect(terms).toEqual([...terms].sort((a, b) => a.localeCompare(b, "en")));
  expect(new Set(terms).size).toBe(terms.length);
  for (const { definition } of GLOSSARY) expect(definition).toMatch(/^[A-Z].{20,}\.$/s);
  expect(glossaryEntry("vif")!.formula).toContain("R²");
  expect(glossaryEntry("no such term")).toBeUndefined();
});
