import { describe, expect, it } from "vitest";
import { normalScores } from "./residuals";

describe("normal scores", () => {
  it("are the quantiles at Blom's plotting positions, in the order of the values", () => {
    // Phi^-1 of 0.625/5.25, 1.625/5.25, 0.5, from tables of the normal distribution.
    const scores = normalScores([3, -1, 0, 9, 1]);
    expect(scores[1]).toBeCloseTo(-1.1797611, 6);
    expect(scores[2]).toBeCloseTo(-0.4972006, 6);
    expect(scores[4]).toBeCloseTo(0, 12);
    expect(scores[0]).toBeCloseTo(0.4972006, 6);
    expect(scores[3]).toBeCloseTo(1.1797611, 6);
  });

  it("leave out rows without a residual and give equal values neighbouring ranks", () => {
    const scores = normalScores([null, 2, 2]);
    expect(scores[0]).toBeNull();
    expect(scores[1]).toBeCloseTo(-scores[2]!, 12);
    expect(scores[1]).toBeLessThan(0);
  });
});
