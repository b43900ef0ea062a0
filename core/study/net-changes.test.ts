import { expect, it } from "vitest";
import { withLog } from "./change-log";
import { newDefinition, type StudyDefinition } from "./definition";
import { netChanges } from "./net-changes";
import { renameVariable } from "./rename-variable";

const columns = ["a", "b", "c", "d", "e"];
const start = newDefinition(
  "items",
  columns.map((name) => ({ name, level: "ordinal" as const })),
);
const changed = (study: StudyDefinition, patch: Partial<StudyDefinition>, why = "") =>
  withLog(study, { ...study, ...patch }, "2026-12-02", why);

it("tells the result, by label and count, without what was taken back", () => {
  let study = changed(start, {
    variables: start.variables.map((v) => ({ ...v, missing: ["-99"] })),
  });
  study = changed(study, {
    variables: study.variables.map((v) =>
      v.name === "e" ? { ...v, missing: [], level: "continuous" as const } : v,
    ),
  });
  study = changed(study, {
    derived: [{ name: "x", recipe: { kind: "centre", of: "a" } }],
  });
  study = changed(study, { derived: [] });
  study = changed(
    study,
    { derived: [{ name: "y", recipe: { kind: "log", of: "b", base: "e", add: 1 } }] },
    "It is skewed.",
  );
  study = changed(study, { theory: "measure m averages a, b" });
  study = changed(study, { theory: "" });
  study = changed(study, {
    variables: study.variables.map((v) =>
      v.name === "d" ? { ...v, level: "binary" as const } : v,
    ),
  });
  study = changed(study, {
    variables: study.variables.map((v) =>
      v.name === "d" ? { ...v, level: "ordinal" as const } : v,
    ),
    corrections: [1, 2, 3, 4].map((row) => ({ column: "c", row, from: "55", to: "5" })),
    filters: [{ name: "late", active: true, rule: { kind: "rows", rows: [7, 9] } }],
  });
  study = changed(study, {
    filters: [
      ...study.filters,
      { name: "off", active: false, rule: { kind: "condition", formula: "a > 2" } },
    ],
  });
  expect(netChanges(study)).toEqual([
    "new variable y: natural logarithm of b plus 1 (It is skewed)",
    "4 cells of c corrected",
    "left out as “late”: 2 rows",
    "-99 counts as missing on 4 columns",
    "level of e set to continuous",
  ]);
});

it("follows a column that was renamed meanwhile", () => {
  let study = changed(start, {
    variables: start.variables.map((v) => (v.name === "a" ? { ...v, missing: ["9"] } : v)),
  });
  study = changed(study, renameVariable(study, "a", "age"));
  expect(netChanges(study)).toEqual(["9 counts as missing on age", "a is called age"]);
});

it("is silent where nothing was changed", () => {
  expect(netChanges(start)).toEqual([]);
});
