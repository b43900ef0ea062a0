import { readdirSync, readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import {
  analyse,
  claimsInOrder,
  compileTheory,
  completePlan,
  inThisThread,
  parseTheory,
  Planner,
  planSentences,
  togetherWords,
  writeStatement,
} from "../core";
import { DEMO_STUDIES } from "../demo";
import { demoPlannedStudy } from "../demo/planned";

const FOLDER = new URL("./manual/", import.meta.url);
const chapters = readdirSync(FOLDER).filter((name) => name.endsWith(".md"));
const examples = chapters.flatMap((name) => {
  const text = readFileSync(new URL(name, FOLDER), "utf8");
  const block = /```hebel (\w+)\n([\s\S]*?)```/.exec(text);
  if (!block) return [];
  const quoted = [...text.matchAll(/^> (.+)$/gm)].map((line) => line[1]!);
  return [{ name, study: block[1] as keyof typeof DEMO_STUDIES, theory: block[2]!.trim(), quoted }];
});

describe("what the manual quotes is what the demo study says", () => {
  it("has a worked example for each design", () => {
    expect(examples.map(({ name }) => name.replace(/^\d-|\.md$/g, ""))).toEqual([
      "mediation",
      "moderation",
      "moderated-mediation",
      "latent-variables",
      "composites",
      "treatments",
      "planning",
    ]);
    for (const { quoted } of examples) expect(quoted.length).toBeGreaterThan(0);
  });

  it.each(examples.filter((e) => e.study !== "planning"))("$name", ({ study, theory, quoted }) => {
    const { definition, table } = DEMO_STUDIES[study]();
    expect(theory).toBe(definition.theory);
    const said = analyse(definition, table).hypotheses.map(({ report }) => report);
    for (const sentence of quoted) expect(said).toContain(sentence);
  });

  it("planning", async () => {
    const { theory, quoted } = examples.find((e) => e.study === "planning")!;
    const { definition } = demoPlannedStudy();
    expect(theory).toBe(definition.theory);
    const plan = completePlan(definition.plan);
    const planner = new Planner({ study: definition, plan, every: false }, inThisThread);
    const point = await planner.evaluate(plan.n);
    const found = { point, exact: planner.exactAt(plan.n) };
    const names = definition.variables.map((v) => v.name);
    const claims = claimsInOrder(compileTheory(parseTheory(theory, names).statements)).map((c) =>
      writeStatement(c).replace(/^[^:]*: /, ""),
    );
    const said = planSentences(found, claims, plan.target, definition.unit).map((s) => s.text);
    for (const sentence of quoted) expect([...said, togetherWords(found)]).toContain(sentence);
  });
});
