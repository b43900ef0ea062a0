import { describe, expect, it } from "vitest";
import { newDefinition } from "../../core";
import { differInHeadOnly } from "./for-screens";
import type { StudyContext } from "./use-study";

const definition = newDefinition("Café", [{ name: "x", level: "continuous" }]);
const context = {
  study: { id: "a", rows: 10, revision: 1 },
  raw: {},
  dataset: {},
  dataKey: "a 1",
  definition,
  edit: () => undefined,
  writer: {},
  analysis: {},
} as unknown as StudyContext;
const changed = (patch: object): StudyContext => ({
  ...context,
  definition: { ...definition, ...patch },
});

describe("what screens may be given a moment later", () => {
  it.each([
    ["the title", changed({ title: "Cafés" })],
    ["the question", changed({ question: "Why?" })],
    ["the log, with a write", changed({ log: [] })],
    ["the revision that a write makes", { ...context, study: { ...context.study, revision: 2 } }],
  ])("is %s", (_, other) => {
    expect(differInHeadOnly(context, other)).toBe(true);
    expect(differInHeadOnly(other, context)).toBe(true);
  });

  it.each([
    ["the theory", changed({ theory: "H1: x raises y" })],
    ["a setting", changed({ settings: { ...definition.settings, seed: 3 } })],
    ["a part that is new", changed({ plan: { n: 100 } })],
    ["the unit", changed({ unit: "days" })],
    ["the question together with a setting", changed({ question: "Why?", filters: ["x > 1"] })],
    ["the data", { ...context, raw: {} as StudyContext["raw"] }],
    ["the dataset", { ...context, dataset: {} as StudyContext["dataset"] }],
    ["another study", { ...context, study: { ...context.study, id: "b" } }],
  ])("is not %s", (_, other) => {
    expect(differInHeadOnly(context, other)).toBe(false);
    expect(differInHeadOnly(other, context)).toBe(false);
  });
});
