import { describe, expect, it } from "vitest";
import { compileTheory, parseTheory, writeStatement } from ".";

const NAMES = ["hours", "age", "months", "confidence", "friends", "belonging"];
const parse = (text: string) => parseTheory(text, NAMES);
const compile = (text: string) => compileTheory(parse(text).statements);

describe("covariances, constraints and groups", () => {
  it.each([
    ["measure s reflects hours, age with reliability 0.8", /single item/],
    ["measure s reflects hours with reliability 1.4", /above 0 and up to 1/],
    ["measure s reflects hours, age scaled by months", /not among the items/],
    ["measure s combines hours, age weighted by luck", /weighted equally/],
    ["measure s combines hours, age weighted", /weighted by correlation/],
    ["measure s combines hours, age signed by months", /not among the items/],
    ["measure s averages hours, age weighted equally", /weighted/],
    ["model friends as logit", /“logistic”/],
    ["model friends as poisson with months", /exposure/],
    ["compare hours at 6", /compare hours at 6 with 2/],
    ["control hours at nothing", /number/],
    ["covary hours with hours", /not covary with itself/],
    ["covary residuals of hours", /takes two/],
    ["hold hours to friends", /at/],
    ["hold hours to friends equal to hours with age", /one kind/],
    ["groups by months with loadngs equal", /loadings/],
  ])("complains of %s", (line, message) => {
    expect(parse(line).complaints[0]?.message).toMatch(message);
  });

  it("name every two of a list, and leave columns their names", () => {
    const [covary] = parse("covary residuals of hours, age and friends").statements;
    expect(covary).toMatchObject({ kind: "covary" });
    expect(covary!.kind === "covary" && covary!.pairs).toHaveLength(3);
    const named = parseTheory("hold raises groups\ngroups lowers hold", ["hold", "groups"]);
    expect(named.complaints).toEqual([]);
    expect(named.statements.map((s) => s.kind)).toEqual(["hypothesis", "hypothesis"]);
    const words = parseTheory("model raises control\ncompare lowers model", [
      "model",
      "control",
      "compare",
    ]);
    expect(words.statements.map((s) => s.kind)).toEqual(["hypothesis", "hypothesis"]);
  });

  it("let every path differ between groups unless paths are held equal", () => {
    const steps = compile("H1: hours raises belonging through confidence\ngroups by months");
    expect(steps.moderated).toHaveLength(3);
    const held = compile("H1: hours raises belonging\ngroups by months with paths equal");
    expect(held.moderated).toHaveLength(0);
  });
});

describe("what is freed", () => {
  const columns = ["a1", "a2", "y", "free", "intercept"];
  const read = (line: string) => parseTheory(line, columns);
  it("is read and written the same", () => {
    const { statements, complaints } = read("free intercept of y, variance of a1");
    expect(complaints).toEqual([]);
    expect(statements[0]).toMatchObject({
      kind: "free",
      arrows: [{ kind: "intercept" }, { kind: "variance" }],
    });
    expect(writeStatement(statements[0]!)).toBe("free intercept of y, variance of a1");
  });
  it("is no column that is called so", () => {
    expect(read("free raises y").statements[0]).toMatchObject({ kind: "hypothesis" });
    expect(read("H1: free raises y").statements[0]).toMatchObject({ kind: "hypothesis" });
    expect(read("free intercept of nobody").complaints).toHaveLength(1);
  });
});
