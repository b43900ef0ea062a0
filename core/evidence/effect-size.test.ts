import { describe, expect, it } from "vitest";
import { analyseMade, normals } from "../test-kit";
import { hypothesis } from "../test-kit/situations";

const n = 200;
const [e1, e2, e3] = [normals(n, 1), normals(n, 2), normals(n, 3)];
const x = e1;
const g = Array.from({ length: n }, (_, i) => i % 2);
const made = (from: readonly number[], direct: number) => {
  const m = Array.from(from, (v, i) => 0.6 * v + e2[i]!);
  return { m, y: m.map((v, i) => 0.5 * v + direct * from[i]! + e3[i]!) };
};
const sizeOf = (from: readonly number[], direct: number, theory = "H1: x raises y through m") =>
  hypothesis(analyseMade({ columns: { x: from, ...made(from, direct) }, theory }), "H1").size;

describe("the effect size to report", () => {
  it("is in SDs of both for numbers, and the share where a share means something", () => {
    const size = sizeOf(Array.from(x), 0.3)!;
    expect(size).toMatch(
      /^As an effect size report 0\.\d+ SDs of y \(95 % .* CI \[0\.\d+, 0\.\d+\]\), for one SD more of x, since both are numeric\./,
    );
    expect(size).toMatch(/The proportion mediated, 0\.\d+, may stand beside it/);
  });

  it("is in SDs of the outcome for groups", () => {
    expect(sizeOf(g, 0.3)).toMatch(/SDs of y .*for the groups compared, since groups have no SD/);
  });

  it("is no share where direct and indirect effect oppose each other or the total may be zero", () => {
    expect(sizeOf(Array.from(x), -0.3)).toMatch(
      /Not the proportion mediated: the total effect may be/,
    );
  });

  it("does not exist for a moderation or for several effects tested together", () => {
    const { m, y } = made(Array.from(x), 0.3);
    const evidence = analyseMade({
      columns: { x: Array.from(x), w: normals(n, 9), m, y, k: [...m].reverse() },
      theory: "H1: w alters x to y\nH2: x raises y through m and k",
    });
    expect(hypothesis(evidence, "H1").size).toBeNull();
    expect(hypothesis(evidence, "H2").size).toBeNull();
  });
});
