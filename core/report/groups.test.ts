import { describe, expect, it } from "vitest";
import {
  analyse,
  studiesOf,
  type CompositeSection,
  type Evidence,
  type StructureSection,
  type StudyDefinition,
  type Table,
} from "..";
import { demoCompositesStudy } from "../../demo/composites";
import { demoFactorsStudy } from "../../demo/factors";
import {
  completeChoices,
  composeReport,
  DEFAULT_REPORT,
  PARTS,
  type Block,
  type TableBlock,
} from ".";

/** A demo study with another theory, and what its report says of it. */
function reported(
  { definition, table }: { definition: StudyDefinition; table: Table },
  theory: string[],
  options: Record<string, number> = {},
): { evidence: Evidence; blocks: readonly Block[] } {
  const study: StudyDefinition = {
    ...definition,
    theory: theory.join("\n"),
    settings: { ...definition.settings, replications: 0, options },
  };
  const evidence = analyse(study, table);
  const { blocks } = composeReport(
    { evidence, data: null, definition: study },
    completeChoices(undefined),
  );
  return { evidence, blocks };
}

const tables = (blocks: readonly Block[]): TableBlock[] =>
  blocks.flatMap((b) => (b.kind === "table" ? [b] : []));
const titled = (blocks: readonly Block[], title: string): TableBlock =>
  tables(blocks).find((t) => t.title === title)!;
const values = (of: TableBlock): unknown[][] => of.rows.map((r) => r.cells.map((c) => c.value));

describe("groups of composites in a report", () => {
  const { evidence, blocks } = reported(
    demoCompositesStudy(),
    [
      "measure routine combines days, minutes, variety weighted by regression",
      "measure belonging combines bel1, bel2, bel3, bel4",
      "H1: routine raises belonging",
      "groups by site",
    ],
    { permutations: 40, folds: 4, exact_fit: 20 },
  );
  const section = evidence.sections.find((s): s is CompositeSection => s.kind === "composites")!;
  const [comparison] = section.comparisons;

  it("say that nothing describes the data, where they were not described", () => {
    const words = blocks.flatMap((b) => ("text" in b ? [JSON.stringify(b)] : [])).join(" ");
    expect(words).toContain("the data could not be described");
  });

  it("are told apart by measurement and by paths", () => {
    const alike = titled(blocks, `Measurement in ${comparison!.first} and ${comparison!.second}`);
    expect(values(alike).map((r) => r.slice(0, 4))).toEqual(
      comparison!.constructs.map(({ construct, compositional: c }) => [
        construct,
        c.estimate,
        c.limit,
        c.p,
      ]),
    );
    const paths = titled(blocks, `Paths in ${comparison!.first} and ${comparison!.second}`);
    expect(values(paths).map((r) => [r[1], r[2], r[3], r[4], r.at(-1)])).toEqual(
      comparison!.paths.map((p) => [p.from, p.first, p.second, p.estimate, p.p]),
    );
    const prose = blocks.flatMap((b) => (b.kind === "paragraph" ? b.text : []));
    const said = comparison!.words.join(" ");
    const pair = `${comparison!.first} and ${comparison!.second}`;
    expect(prose).toContain(`${pair}: ${said.charAt(0).toLowerCase()}${said.slice(1)}`);
  });

  it("have exact fit and prediction each, under their names", () => {
    expect(section.byGroup).toHaveLength(2);
    for (const { group, exactFit, prediction } of studiesOf(section)) {
      const exact = titled(blocks, `Exact fit, ${group}`);
      expect(values(exact).map((r) => [r[2], r[3], r[5]])).toEqual(
        exactFit!.measures.map((m) => [m.value, m.upper95, m.p]),
      );
      const predicted = titled(blocks, `Prediction of new cases, ${group}`);
      expect(values(predicted).map((r) => [r[0], r[2], r[4]])).toEqual(
        prediction!.items.map((i) => [i.item, i.q2, i.benchmark.rmse]),
      );
    }
    expect(section.fitWords).toHaveLength(2);
    section.byGroup.forEach(({ group }, g) =>
      expect(section.fitWords[g]).toMatch(new RegExp(`^${group}: if all constructs`)),
    );
  });

  it("bring the sources of what was done", () => {
    const items = blocks.flatMap((b) => (b.kind === "references" ? b.items : []));
    const ids = items.map((i) => i.id);
    for (const id of ["henseler2016", "shmueli2016", "beran1985"]) expect(ids).toContain(id);
  });
});

it("steps of invariance among factors, and paths held equal, stand in a report", () => {
  const { evidence, blocks } = reported(demoFactorsStudy(), [
    "measure confidence reflects conf1, conf2, reversed conf3r, conf4",
    "measure belonging reflects bel1, bel2, bel3, bel4",
    "H1: confidence raises belonging",
    "H2: site alters confidence to belonging",
  ]);
  const section = evidence.sections.find((s): s is StructureSection => s.kind === "structure")!;
  const steps = titled(blocks, "Invariance of measurement");
  expect(values(steps).map((r) => [r[1], r[2], r[6]])).toEqual(
    section.invariance.map((s) => [s.words, s.fit?.plain.chi2 ?? null, s.difference?.chi2 ?? null]),
  );
  expect(section.differences.length).toBeGreaterThan(0);
  const held = titled(blocks, "Paths held equal against paths that differ between groups");
  expect(values(held).map((r) => [r[0], r[2], r[4]])).toEqual(
    section.differences.map((d) => [d.what, d.chi2, d.p]),
  );
  expect(section.differences[0]!.what).toBe("belonging on confidence equal in all groups");
  // What a group adds to one path is an interaction; nothing is mediated.
  const [, moderated] = evidence.hypotheses;
  const [claimed] = evidence.effects.filter((e) => moderated!.effects.includes(e.id));
  expect(claimed!.kind).toBe("interaction");
  expect(claimed!.label).toMatch(/^confidence × site\b.* on belonging$/);
  expect(moderated!.quantity).toMatch(/^interaction/);
  expect(JSON.stringify(blocks)).not.toContain("moderated mediation");
});

describe("choices made before a part existed", () => {
  it("keep their order, with the new part after what comes before it in papers", () => {
    const old = DEFAULT_REPORT.parts.filter((p) => !["groups", "prediction"].includes(p.id));
    expect(completeChoices({ parts: old }).parts).toEqual(DEFAULT_REPORT.parts);
    const turned = [...old].reverse();
    const parts = completeChoices({ parts: turned }).parts.map((p) => p.id);
    expect(parts.filter((id) => turned.some((p) => p.id === id))).toEqual(turned.map((p) => p.id));
    expect(parts.indexOf("groups")).toBe(parts.indexOf("fit") + 1);
    expect([...parts].sort()).toEqual([...PARTS].sort());
  });
});
