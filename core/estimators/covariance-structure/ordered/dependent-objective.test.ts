import { describe, expect, it } from "vitest";
import { compileGroups } from "../arrows";
import { arrow } from "../case-kit";
import { DependentObjective } from "./dependent-objective";

describe("dependent variances", () => {
  // Ordered mediators in a chain: what is left of one depends on what is left of those before it.
  const names = ["x", "m", "w", "y"];
  const [model] = compileGroups(
    names,
    [],
    [
      [
        arrow("path", "x", "m", "a"),
        arrow("path", "m", "w", "b"),
        arrow("path", "x", "w", "c"),
        arrow("path", "w", "y", "d"),
        arrow("path", "m", "y", "e"),
        arrow("covariance", "x", "x", "vx"),
        ...["m", "w", "y"].map((name) => arrow("covariance", name, name, `v${name}`)),
      ],
    ],
  );
  const size = 4 + 10;
  const group = { n: 1, moments: new Float64Array(size), weight: new Float64Array(size).fill(1) };
  const objective = new DependentObjective(model!, group, [1, 2, 3]);
  const theta = Float64Array.of(0.4, 0.5, 0.2, 0.3, 0.25, 1.3);

  it("make every ordered variance one", () => {
    objective.valueAt(theta);
    const { E, v } = objective.implied[0]!;
    for (const i of [1, 2, 3]) expect(E[i * v + i]).toBeCloseTo(1, 14);
  });

  it("enter the derivatives, against differences", () => {
    const moments = (at: Float64Array): Float64Array => {
      objective.valueAt(at);
      return objective.residuals(0).map((r) => -r);
    };
    objective.valueAt(theta);
    const jacobian = objective.jacobian(0).map((column) => column!.slice());
    const h = 1e-5;
    theta.forEach((_, a) => {
      const [up, down] = [theta.slice(), theta.slice()];
      up[a] = up[a]! + h;
      down[a] = down[a]! - h;
      const [above, below] = [moments(up), moments(down)];
      jacobian[a]!.forEach((value, m) =>
        expect(value).toBeCloseTo((above[m]! - below[m]!) / (2 * h), 8),
      );
    });
  });
});
