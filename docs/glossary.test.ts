import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import ts from "typescript";
import { describe, expect, it } from "vitest";
import { engines, glossaryEntry, INTERVAL_WORDS } from "../core";

/** Words of everyday language, and names of what a row is about, that need no explanation. */
const ORDINARY = new Set(
  [
    "construct, item, items, measure, measures, pair, path, outcome, predictor, group, level, variable, row, term, model, effect",
    "estimate, estimated, hypothesis, sentence or effect, specification, method, equation, moderator, value, values, part, n, rows",
    "from, to, at, as, for, on, with, lower than, panel, line, predicted, observed, fitted, shape, mean, min, max, least, largest",
    "largest correlation, closer to, rests on, step, steps, short, fit, times as strong for zero, package, version, licence, count",
    "effect in the population, interval, ways, what differs, conclusion, without it, limits of it, limits of the ratio, no., of, effect ({}), correlation of scores, table, people, size, spelling, share, sample, samples, width, failed, rule, target, wanted",
  ].flatMap((line) => line.split(", ")),
);

/** Column heads that are made of names of the study, as `friends on`. */
const MADE_OF_NAMES = /^(\{\} on|\{\} \{\}|\{\}\.\{\}|\{\} as under|\{\} \(\{\}\)|\{\})$/;

const ROOTS = ["app/components", "app/routes", "core/report"];

const sources = (folder: string): string[] =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return sources(path);
    return /\.tsx?$/.test(entry.name) && !/\.test\.tsx?$/.test(entry.name) ? [path] : [];
  });

/** Texts of an expression as they can reach the screen; what is computed stands as {}. */
function texts(node: ts.Node): string[] {
  if (ts.isStringLiteralLike(node)) return [node.text];
  if (ts.isTemplateExpression(node))
    return [node.head.text + node.templateSpans.map((s) => `{}${s.literal.text}`).join("")];
  if (ts.isConditionalExpression(node)) return [...texts(node.whenTrue), ...texts(node.whenFalse)];
  if (ts.isJsxAttribute(node) && node.name.getText() !== "columns") return [];
  const found: string[] = [];
  ts.forEachChild(node, (child) => void found.push(...texts(child)));
  return found;
}

const isHeads = (name: string): boolean => ["columns", "heads", "names"].includes(name);

function headsIn(path: string): string[] {
  const source = ts.createSourceFile(
    path,
    readFileSync(path, "utf8"),
    ts.ScriptTarget.Latest,
    true,
  );
  const found: string[] = [];
  const visit = (node: ts.Node): void => {
    if (ts.isJsxAttribute(node) && isHeads(node.name.getText()) && node.initializer)
      found.push(...texts(node.initializer));
    else if (
      (ts.isPropertyAssignment(node) || ts.isVariableDeclaration(node)) &&
      ["columns", "heads"].includes(node.name.getText()) &&
      node.initializer
    )
      found.push(...texts(node.initializer));
    else ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}

describe("every term has an entry in the glossary", () => {
  it("heads of the tables, on every screen and in the report", () => {
    const heads = new Map<string, string>();
    for (const path of ROOTS.flatMap(sources))
      for (const head of headsIn(path)) heads.set(head, path);
    expect(heads.size).toBeGreaterThan(80);
    const unknown = [...heads].filter(
      ([head]) =>
        head.trim() !== "" &&
        !ORDINARY.has(head.toLowerCase()) &&
        !MADE_OF_NAMES.test(head) &&
        !["95", "95 % CI"].some((word) => glossaryEntry(head.replaceAll("{}", word))),
    );
    expect(unknown).toEqual([]);
  });

  it("intervals, engines and errors that can be chosen", () => {
    const chosen = [
      ...Object.values(INTERVAL_WORDS),
      ...engines().map(({ label }) => label),
      ...engines().flatMap(({ errors }) => [...errors]),
    ];
    expect(chosen.filter((word) => !glossaryEntry(word!))).toEqual([]);
  });
});
