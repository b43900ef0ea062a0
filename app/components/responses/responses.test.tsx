import { createRoutesStub } from "react-router";
import type { ReactNode } from "react";
import { describe, expect, it } from "vitest";
import {
  analyse,
  percent,
  plain,
  withheldNotes,
  type Evidence,
  type ResponseSection,
} from "../../../core";
import { demoTreatmentStudy } from "../../../demo/study";
import { EValueTable } from "../checks/e-values";
import { markupOf, textOf } from "../test-kit";
import { movedEffects } from "./effects-over";
import { ModelsView, TreatmentView } from "./response-view";
import { UnmeasuredTables } from "./unmeasured";

const { definition, table } = demoTreatmentStudy();
function evidenceAt(level = 0.95, theory = definition.theory): Evidence {
  const settings = { ...definition.settings, level, replications: 60, interval: "bca" as const };
  return analyse({ ...definition, theory, settings }, table);
}
const sectionOf = ({ sections }: Evidence): ResponseSection =>
  sections.flatMap((s) => (s.kind === "responses" ? [s] : []))[0]!;

type View = (props: { section: ResponseSection; evidence: Evidence }) => ReactNode;

function shown(View: View, evidence: Evidence): string {
  const Stub = createRoutesStub([
    { path: "/", Component: () => <View section={sectionOf(evidence)} evidence={evidence} /> },
  ]);
  return markupOf(<Stub initialEntries={["/"]} />);
}

const evidence = evidenceAt();
const section = sectionOf(evidence);
const [natural] = section.natural;

describe("what of a treatment goes through a mediator", () => {
  const html = shown(TreatmentView, evidence);
  const text = textOf(html);

  it("says the four means in sentences, with the numbers of the evidence", () => {
    for (const mean of natural!.means) {
      expect(text).toContain(mean.words);
      expect(text).toContain(plain(mean.model.se));
    }
    for (const sentence of natural!.words) expect(text).toContain(sentence);
  });

  it("lists every effect as a difference, by its words, and keeps ratios one step away", () => {
    const list = natural!.effects.difference!;
    const told = list.filter((effect) => effect.withheld === null);
    for (const effect of told) expect(text).toContain(effect.words);
    // The total may be zero here: no share is among them, and the reason is.
    expect(told.length).toBeLessThan(list.length);
    // For each treatment and scale of which it may be said, in the working of the differences, and
    // where it is said why it is not.
    const share = "share of the total through hours";
    const sayable = section.natural
      .flatMap((n) => Object.values(n.effects).flat())
      .filter((e) => e.withheld === null && e.words === share);
    const worked = sayable.filter((e) => e.name === "proportion_mediated");
    const notes = section.natural
      .flatMap((n) => Object.values(n.effects).flatMap(withheldNotes))
      .filter((note) => note.includes(share));
    expect(text.split(share).length - 1).toBe(sayable.length + worked.length + notes.length);
    expect(text).toMatch(/Not reported: share of the total through hours and \d+ others\./);
    expect(text).toContain("Ratios of probabilities");
    expect(text).toContain("Ratios of odds");
    expect(text).toContain("Show the working of the effects");
  });

  it("names every table and picture of its own, so that no two are called alike", () => {
    const names = [...html.matchAll(/<caption[^>]*>([^<]+)</g)].map((m) => m[1]);
    expect(names.length).toBeGreaterThan(2);
    expect(new Set(names).size).toBe(names.length);
  });

  it("heads limits with the level of the study", () => {
    const at90 = textOf(shown(TreatmentView, evidenceAt(0.9)));
    expect(at90).toContain("90 % CI");
    expect(at90).not.toContain("95 % CI");
    expect(text).toContain(`${percent(0.95)} % CI`);
  });
});

describe("effects of a treatment that move with something", () => {
  const moved = evidenceAt(0.95, `${definition.theory}\nH9: age alters group to hours`);
  const list = movedEffects(sectionOf(moved).natural);

  it("stand in one picture, each effect at every value of the moderator in turn", () => {
    expect(list.length).toBeGreaterThan(0);
    const [first] = list;
    const told = sectionOf(moved).natural.filter(
      (n) => n.at !== null && n.contrast === first!.contrast && n.mediator === first!.mediator,
    );
    expect(first!.rows).toHaveLength(3 * told.length);
    const indirect = first!.rows.slice(0, told.length);
    expect(indirect.map((r) => r.at)).toEqual(
      indirect.map((r) => Number(r.at)).sort((a, b) => a - b),
    );
    for (const { at, estimate, lower, upper } of indirect) {
      const own = told.find((n) => n.at!.value === at)!.effects.difference!;
      const effect = own.find((e) => e.name === "total_natural_indirect")!;
      expect([estimate, lower, upper]).toEqual([
        effect.estimate,
        effect.model!.lower,
        effect.model!.upper,
      ]);
    }
    const html = shown(TreatmentView, moved);
    expect(html).toContain(`${first!.rows.length} intervals`);
    expect(textOf(html)).toContain("as age moves");
  });

  it("have no picture where nothing moves them", () => {
    expect(movedEffects(section.natural)).toEqual([]);
  });
});

describe("responses by their models", () => {
  it("show each coefficient with its ratio, and say which model it is", () => {
    const text = textOf(shown(ModelsView, evidence));
    for (const model of section.models) {
      expect(text).toContain(model.outcome);
      for (const coefficient of model.coefficients) {
        expect(text).toContain(plain(coefficient.estimate));
        if (coefficient.ratio) expect(text).toContain(plain(coefficient.ratio.estimate));
      }
    }
    expect(text).toMatch(/logistic/i);
  });

  it("show interactions on the scale of the response under the level that was chosen", () => {
    const moderated = evidenceAt(0.9, "H1: age alters hours to renewed");
    const own = sectionOf(moderated);
    expect(own.interactions.length).toBeGreaterThan(0);
    const text = textOf(shown(ModelsView, moderated));
    expect(text).toContain("Interactions on the scale of the response");
    expect(text).toContain("90 % CI");
    expect(text).toContain(plain(own.interactions[0]!.average));
  });
});

describe("how strong something left out would have to be", () => {
  it("is told once for each treatment as a whole, effect by effect", () => {
    const text = textOf(shown(UnmeasuredTables, evidence));
    for (const cause of natural!.unmeasured) expect(text).toContain(plain(cause.eValue));
    // Each table is headed by what it compares, to be seen and not only to be read out.
    const html = shown(UnmeasuredTables, evidence);
    const heads = [...html.matchAll(/<h3[^>]*>([^<]+)</g)].map(([, head]) => head);
    expect(heads).toEqual(section.natural.map((n) => `${n.outcome}, ${n.contrast}`));
    const none = {
      ...evidence,
      sections: [{ ...section, natural: [{ ...natural!, unmeasured: [] }] }],
    } as Evidence;
    expect(shown(UnmeasuredTables, none)).toBe("");
  });

  it("has the differences that ratios were made of, where there are any", () => {
    const row = { key: "a", effect: "through m", ratio: 1.5, lower: 1.2, upper: 1.9 };
    const e = { eValue: 2.366, eValueOfLimit: 1.69 };
    const of = (rows: Parameters<typeof EValueTable>[0]["rows"]): string =>
      textOf(markupOf(<EValueTable title="E" level={0.95} rows={rows} />));
    const ratios = of([{ ...row, ...e }]);
    expect(ratios).not.toContain("estimate");
    expect(ratios).toContain("2.366");
    const differences = of([{ ...row, ...e, difference: { estimate: 0.446, se: 0.123 } }]);
    expect(differences).toContain("as a ratio");
    expect(differences).toContain("0.446");
    expect(differences).toContain("0.123");
  });
});
