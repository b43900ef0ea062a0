import fc from "fast-check";
import { expect, it } from "vitest";
import { sheetName } from "./sheet-name";

it("keeps to the rules of workbooks for any titles, in any order", () => {
  const title = fc.oneof(
    fc.string({ unit: "binary", maxLength: 50 }),
    fc.constantFrom(
      "History",
      "history",
      "'quoted'",
      "a/b",
      "A/B",
      "",
      "x".repeat(40),
      "x".repeat(41),
    ),
    fc.constant(`${"é".repeat(30)}😀😀`),
  );
  fc.assert(
    fc.property(fc.array(title, { maxLength: 12 }), (titles) => {
      const taken = new Set<string>();
      const names = titles.map((t) => sheetName(t, taken));
      expect(new Set(names.map((n) => n.toLowerCase())).size).toBe(names.length);
      for (const name of names) {
        expect(name.length).toBeGreaterThan(0);
        expect(name.length).toBeLessThanOrEqual(31);
        expect(name).not.toMatch(/[\\/?*[\]:]|^'|'$/);
        expect(name.toLowerCase()).not.toBe("history");
        // No half of a pair.
        expect(name).not.toMatch(/\p{Cs}/u);
      }
    }),
  );
});
