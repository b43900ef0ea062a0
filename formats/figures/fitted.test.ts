import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { fitted, onTwoLines, textWidth } from "./fitted";

const NAME = "Satisfaction with the availability of water";

describe("words in a space", () => {
  it("are whole where they fit, else their beginning and an ellipsis that fit", () =>
    fc.assert(
      fc.property(fc.string(), fc.integer({ min: 30, max: 400 }), (text, width) => {
        const shown = fitted(text, width, 12);
        if (shown === text) return;
        expect(textWidth(shown, 12)).toBeLessThanOrEqual(width);
        expect(shown.endsWith("…")).toBe(true);
        expect(text.startsWith(shown.slice(0, -1))).toBe(true);
      }),
    ));

  it("break between words, and lose nothing where two lines do", () => {
    expect(onTwoLines("hours", 120, 13)).toEqual(["hours"]);
    const lines = onTwoLines(NAME, 200, 13);
    expect(lines).toEqual(["Satisfaction with the", "availability of water"]);
    expect(onTwoLines(NAME, 120, 13)).toEqual(["Satisfaction with", "the availability…"]);
    // A word without a place to break is broken where the line ends.
    const [first, second] = onTwoLines("x".repeat(30), 120, 12);
    expect(first! + second!).toHaveLength(30);
  });
});
