import { describe, expect, it } from "vitest";
import { analyse, dataEvidence } from "..";
import { DEMO_STUDIES } from "../../demo";
import { completeChoices, composeReport, plainText, type Block, type Text } from ".";

/** What no sentence for people may hold, and what is wrong with it. */
const FAULTS: readonly [RegExp, string][] = [
  [/undefined|\bNaN\b|Infinity|\bnull\b|\[object/, "a value that is none"],
  [/ {2}|\s[,;.:)](?:\s|$)|\(\s/, "a blank too many"],
  [/\.\.|,,|;;|,\.|;\.|\(\)|“”|—\s*$/, "marks beside each other"],
  [/(?:^|[\s([=])-\d/, "a hyphen for a minus"],
  [/\d\.\d{7,}/, "a number that was not rounded"],
  [/\b(\p{L}{2,}) \1\b/u, "a word twice"],
];

/**
 * Whole sentences begin with a capital, a number, a name in quotes, or a name or symbol of the
 * study, and end with a stop, or with the colon of a list.
 */
const isWhole = (text: string, names: ReadonlySet<string>): boolean =>
  (/^[\p{Lu}\d“(]/u.test(text) || names.has(/^[^\s:]*/.exec(text)![0])) &&
  /[.!?:][)”]?$/.test(text) &&
  balanced(text);

const balanced = (text: string): boolean =>
  [
    ["(", ")"],
    ["“", "”"],
  ].every(([open, close]) => text.split(open!).length === text.split(close!).length);

const faultsOf = (text: string): string[] =>
  FAULTS.filter(([pattern]) => pattern.test(text)).map(([, fault]) => `${fault}: ${text}`);

const notWhole = (texts: readonly string[], names: ReadonlySet<string>): string[] =>
  texts.flatMap((text) => [
    ...faultsOf(text),
    ...(isWhole(text, names) ? [] : [`no sentence: ${text}`]),
  ]);

/** A text with its tables and figures by a name that stands for any. */
const words = (text: Text): string => plainText(text, () => "Table 1");

/** What stands in a report as running text, and in its cells. */
function textsOf(blocks: readonly Block[]): { sentences: string[]; cells: string[] } {
  const sentences: string[] = [];
  const cells: string[] = [];
  for (const block of blocks) {
    if (block.kind === "paragraph") sentences.push(words(block.text));
    if (block.kind === "list") sentences.push(...block.items.map(words));
    if (block.kind === "table" || block.kind === "figure") {
      sentences.push(...block.notes.map(words));
      cells.push(block.title);
    }
    if (block.kind === "table")
      cells.push(
        ...block.columns.map((c) => c.head),
        ...block.rows.flatMap((row) => row.cells.map((c) => c.text)),
      );
  }
  return { sentences, cells };
}

describe.each(Object.entries(DEMO_STUDIES).filter(([name]) => name !== "planning"))(
  "the sentences on %s",
  (_, study) => {
    const { definition, table } = study();
    const settings = { ...definition.settings, replications: 200 };
    const made = { ...definition, settings };
    const evidence = analyse(made, table);
    const names = new Set([
      ...table.columns.map((column) => column.name),
      ...[...definition.theory.matchAll(/^measure (\S+)/gm)].map(([, name]) => name!),
      "n",
      "α",
    ]);

    it("are whole on the screen: reasons, sentences for the paper, cautions, warnings", () => {
      const told = [
        ...evidence.hypotheses.flatMap((h) => [
          h.reason,
          h.report,
          ...h.cautions.map((c) => c.message),
        ]),
        ...evidence.warnings.map((w) => w.message),
      ].filter((text): text is string => typeof text === "string" && text !== "");
      expect(told.length).toBeGreaterThan(0);
      expect(notWhole(told, names)).toEqual([]);
    });

    it("and its numbers are one: slopes on Probe are the effects that Evidence tells", () => {
      const known = new Map(evidence.effects.map((effect) => [effect.id, effect]));
      const named = evidence.moderations.flatMap((m) => m.slopes.filter((s) => s.effect !== null));
      expect(named.length > 0).toBe(evidence.effects.some((f) => f.kind === "conditional_direct"));
      for (const slope of named)
        expect(known.get(slope.effect!)!.estimate).toBeCloseTo(slope.estimate!, 12);
    });

    it("are whole in the report, and its cells hold words and rounded numbers", () => {
      const data = dataEvidence(made, table);
      const { sentences, cells } = textsOf(
        composeReport({ evidence, data, definition: made }, completeChoices({})).blocks,
      );
      expect(notWhole(sentences, names)).toEqual([]);
      expect(cells.flatMap(faultsOf)).toEqual([]);
    });
  },
);
