import { describe, expect, it } from "vitest";
import { parseTheory } from "./parse";

describe("what cannot be read", () => {
  const read = (text: string) => parseTheory(text, ["hours", "age", "belonging", "months"]);

  it("leaves a line out whole, by its words, and keeps its number from the others", () => {
    const { statements, leftOut } = read(
      "H1: hours frobs age\nhours raises belonging\n“open\nage raises belonging",
    );
    expect(statements.map((s) => (s as { label: string }).label)).toEqual(["H2", "H3"]);
    expect(leftOut).toMatchObject(
      [
        { line: 1, text: "H1: hours frobs age", label: "H1", name: null },
        { line: 3, text: "“open", label: null, name: null, message: /never closed/ },
      ].map((one) => (one.message ? { ...one, message: expect.stringMatching(one.message) } : one)),
    );
  });

  it("takes along what rests on it, by name, and keeps the rest", () => {
    const { statements, leftOut, complaints } = read(
      `measure trust averages t1, t2
H1: hours raises belonging through trust
H2: hours raises belonging
adjust trust, belonging for age, trust
define share as H1 / total hours to belonging
define twice as share * 2
define own as total hours to belonging`,
    );
    expect(statements.map((s) => s.kind)).toEqual(["hypothesis", "adjust", "define"]);
    expect(statements.find((s) => s.kind === "adjust")).toMatchObject({
      outcomes: [{ name: "belonging" }],
      covariates: [{ name: "age" }],
    });
    expect(leftOut.map(({ line, name }) => [line, name])).toEqual([
      [1, null],
      [2, null],
      [4, "trust"],
      [4, "trust"],
      [5, null],
      [6, null],
    ]);
    const told = leftOut.map((l) => l.message).join(" ");
    expect(told).toContain("“trust” is not measured, since its own sentence could not be read.");
    expect(told).toContain("“H1” is left out itself.");
    // The fault stands where it is, and nowhere else.
    expect(new Set(complaints.map((c) => c.line))).toEqual(new Set([1]));
  });

  it("leaves lines of covariates whose outcome nothing explains any more", () => {
    const { statements, leftOut } = read("H1: nosuch raises months\nadjust months for age");
    expect(statements).toEqual([]);
    expect(leftOut.at(-1)!.message).toBe("nothing that can be read explains “months” any more.");
  });

  it.each([
    ["adjust belonging for age, nosuch", "age", ["nosuch"]],
    ["adjust belonging for nosuch, age", "age", ["nosuch"]],
    ["adjust belonging for age, nosuch and months", "age months", ["nosuch"]],
    [
      "adjust belonging, nobody for nosuch, age, months, other",
      "age months",
      ["nobody", "nosuch", "other"],
    ],
  ])("of “%s” leaves out the missing name alone", (line, kept, missing) => {
    const { statements, leftOut, complaints } = read(`H1: hours raises belonging\n${line}`);
    expect(statements[1]).toMatchObject({ kind: "adjust", outcomes: [{ name: "belonging" }] });
    expect(
      (statements[1] as { covariates: { name: string }[] }).covariates.map((c) => c.name),
    ).toEqual(kept.split(" "));
    expect(leftOut.map((part) => part.name)).toEqual(missing);
    expect(complaints).toHaveLength(missing.length);
  });

  it("leaves the whole line out where nothing of it would be left, or another fault is in it", () => {
    const many = Array.from({ length: 101 }, (_, i) => `u${i}`).join(", ");
    for (const line of [
      `adjust belonging for age, ${many}`,
      "adjust belonging for nosuch",
      "adjust belonging for nosuch, age /",
    ]) {
      const { statements, leftOut } = read(line);
      expect(statements).toEqual([]);
      expect(leftOut).toMatchObject([{ text: line, name: null }]);
    }
  });
});
