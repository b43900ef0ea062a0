import { describe, expect, it } from "vitest";
import { linesOf, parseTheory, renameInTheory, writeStatement } from ".";

describe("the words of the trade", () => {
  const one = (line: string) => {
    const { statements, complaints } = parseTheory(line, ["x", "m", "w", "y", "via", "predicts"]);
    expect(complaints).toEqual([]);
    return writeStatement(statements[0]!);
  };

  it.each([
    ["x increases y via m", "H1: x raises y through m"],
    ["x decreases y", "H1: x lowers y"],
    ["x predicts y only via m", "H1: x affects y only through m"],
    ["m mediates x to y", "H1: x affects y through m"],
    ["w moderates x to y", "H1: w alters x to y"],
    ["w buffers x to y", "H1: w weakens x to y"],
    ["w amplifies x to y via m on x to m", "H1: w strengthens x to y through m on x to m"],
  ])("%s", (said, written) => expect(one(said)).toBe(written));

  it("agree in number with what they are said of, and stay so", () => {
    for (const verb of ["raise", "lower", "affect"])
      expect(one(one(`x ${verb} y`))).toBe(`H1: x ${verb} y`);
    expect(one("w strengthen x to y")).toBe("H1: w strengthen x to y");
    expect(one("x increase y")).toBe("H1: x raise y");
  });

  it("may still be the names of columns", () => {
    expect(one("via predicts predicts")).toBe("H1: via affects predicts");
    expect(one("x raises y through via")).toBe("H1: x raises y through via");
  });

  it("say what kind of line it is, also to those who only sort the lines", () => {
    expect(linesOf("H1: w moderates x to y\nH2: x predicts y", "moderation")).toEqual([
      "H1: w moderates x to y",
    ]);
    expect(linesOf("w with x buffer m to y", "moderation")).toHaveLength(1);
  });
});

describe("renaming", () => {
  it("leaves the words of the notation alone, and finds a name that is quoted because it is one", () => {
    const theory = 'measure "measure" averages a, b\nH1: "measure" raises y';
    expect(renameInTheory(theory, "measure", "climate")).toBe(
      "measure climate averages a, b\nH1: climate raises y",
    );
  });
});
