import { describe, expect, it } from "vitest";
import { declaredNames, declaredVariable, declaredWords } from ".";
import { renameVariable } from "../study/rename-variable";
import { study, variable } from "../test-kit/plans";

describe("variables to come", () => {
  it("are named one by one or counted up", () => {
    expect(declaredNames("hours, conf1 to conf3,  age ", [])).toEqual([
      "hours",
      "conf1",
      "conf2",
      "conf3",
      "age",
    ]);
    expect(() => declaredNames("hours", ["hours"])).toThrow(/hours/);
    expect(() => declaredNames("a, a", [])).toThrow(/a/);
  });

  it("say what their answers will be", () => {
    expect(declaredVariable("q", "answers", 7)).toEqual({
      name: "q",
      level: "ordinal",
      range: [1, 7],
    });
    expect(declaredWords(declaredVariable("g", "groups", 3))).toBe("group 1, group 2, group 3");
    expect(declaredWords(declaredVariable("r", "yes or no", 2))).toBe("no or yes");
    expect(() => declaredVariable("q", "answers", 1)).toThrow(/number of answers/i);
  });

  it("are called otherwise in what is expected of them, too", () => {
    const of = study([variable("x"), variable("y")], "H1: x raises y");
    const plan = {
      sizes: [{ from: ["x"], to: "y", size: 0.3 }],
      correlations: [{ a: "x", b: "z", r: 0.1 }],
      variables: { x: { shape: "skewed" as const } },
      missing: { share: 0.1, on: "x" },
    };
    expect(renameVariable({ ...of, plan }, "x", "hours").plan).toEqual({
      sizes: [{ from: ["hours"], to: "y", size: 0.3 }],
      correlations: [{ a: "hours", b: "z", r: 0.1 }],
      variables: { hours: { shape: "skewed" } },
      missing: { share: 0.1, on: "hours" },
    });
  });
});
