import { describe, expect, it } from "vitest";
import { buildDataset, parseTheory } from "../../../core";
import { madeStudy } from "../../../core/test-kit";
import { choicesOf, measureWords, type Choices } from "./choices";
import { detailsOf } from "./variable-details";

const rows = [0, 1, 2, 3, 4, 5, 6, 7];
const columns = {
  id: rows.map((i) => `p${i}`),
  a1: rows.map((i) => (i % 4) + 1),
  a2: rows.map((i) => ((i + 1) % 4) + 1),
  b1: rows.map((i) => (i % 5) + 1),
  school: rows.map((i) => "abc"[i % 3]!),
  sex: rows.map((i) => (i % 2 === 0 ? "f" : "m")),
  grade: rows.map((i) => (i % 3) + 7),
  age: rows.map((i) => 20 + 1.5 * i),
};

function offered(theory: string): Choices {
  const { definition, table } = madeStudy({
    columns,
    theory,
    variables: { id: { level: "identifier" } },
  });
  const dataset = buildDataset(definition, table);
  const { statements } = parseTheory(theory, Object.keys(columns));
  return choicesOf(dataset, statements, detailsOf(dataset));
}

describe("what the slots of the composer offer", () => {
  const theory = [
    "measure f reflects a1, reversed a2 on 1 to 4",
    "measure c combines b1",
    "measure s averages a1, b1",
  ].join("\n");

  it("is every measure first, however it is made, then the columns but for names of people", () => {
    expect(offered(theory).variables).toEqual([
      ...["f", "c", "s"],
      ...["a1", "a2", "b1", "school", "sex", "grade", "age"],
    ]);
  });

  it("is each variable once, also where a score is a column by now", () => {
    const { variables } = offered(theory);
    expect(new Set(variables).size).toBe(variables.length);
  });

  it("tells what measures are, and what columns hold", () => {
    const { details } = offered(theory);
    expect(details.get("f")).toBe("a common factor of 2 items, 1 reversed");
    expect(details.get("c")).toBe("a composite of 1 item");
    // A score has values of its own.
    expect(details.get("s")).toMatch(/^mean of 2 items · \d\.\d, \d\.\d to \d\.\d$/);
    expect(details.get("school")).toBe("a, b, c");
  });

  it("tells groups by categories, then by answers in steps that belong to no measure", () => {
    expect(offered(theory).groupings).toEqual(["school", "sex", "grade"]);
    expect(offered("").groupings).toEqual(["school", "sex", "a1", "a2", "b1", "grade"]);
  });
});

it("a measure is told by its kind, its items and how many are turned round", () => {
  const words = (line: string): string => {
    const [statement] = parseTheory(line, Object.keys(columns)).statements;
    return statement?.kind === "measure" ? measureWords(statement) : "";
  };
  expect(words("measure s sums a1, a2, b1")).toBe("the sum of 3 items");
  expect(words("measure s averages a1, reversed a2 on 1 to 4")).toBe(
    "the mean of 2 items, 1 reversed",
  );
});
