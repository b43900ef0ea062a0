import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  analyse,
  dataEvidence,
  registrationOf,
  type Evidence,
  type StudyDefinition,
  type Table,
} from "..";
import { demoCompositesStudy } from "../../demo/composites";
import { demoFactorsStudy } from "../../demo/factors";
import { demoLeverStudy, demoStudy, demoTreatmentStudy } from "../../demo/study";
import {
  captionNames,
  completeChoices,
  composeReport,
  PARTS,
  partsWithContent,
  plainText,
  type Block,
  type ReportChoices,
  type TableBlock,
} from ".";
import { Figures } from "./figures";
import { Presenter } from "./present";

interface Made {
  evidence: Evidence;
  data: ReturnType<typeof dataEvidence>;
  definition: StudyDefinition;
}

function made({ definition, table }: { definition: StudyDefinition; table: Table }): Made {
  const study = { ...definition, settings: { ...definition.settings, replications: 200 } };
  return { evidence: analyse(study, table), data: dataEvidence(study, table), definition: study };
}

const studies = {
  mediation: made(demoStudy()),
  moderation: made(demoLeverStudy()),
  treatment: made(demoTreatmentStudy()),
  factors: made(demoFactorsStudy()),
  composites: made(demoCompositesStudy()),
};
const reportOf = (of: Made, chosen: Partial<ReportChoices> = {}) =>
  composeReport(of, completeChoices(chosen));
const tableIn = (blocks: readonly Block[], id: string): TableBlock =>
  blocks.find((b): b is TableBlock => b.kind === "table" && b.id === id)!;
const textOf = (blocks: readonly Block[]): string =>
  JSON.stringify(blocks.filter((b) => b.kind !== "references"));

describe("numbers of a report", () => {
  const behavioural = new Figures({ journal: "behavioural", digits: 2 });
  const medical = new Figures({ journal: "medical", digits: 3 });

  it("have no zero before the point where they cannot exceed one, unless a style keeps it", () => {
    expect(behavioural.bounded(-0.456)).toBe("−.46");
    expect(behavioural.bounded(1)).toBe("1.00");
    expect(medical.bounded(0.456)).toBe("0.46");
    expect(behavioural.number(0.456)).toBe("0.46");
  });

  it("give p exactly, to as many places as the style has", () => {
    expect(behavioural.pClause(0.0312)).toBe("p = .031");
    expect(behavioural.pClause(0.0004)).toBe("p < .001");
    expect(medical.pClause(0.312)).toBe("P = 0.31");
    expect(medical.pClause(0.0312)).toBe("P = 0.03");
    expect(medical.pClause(0.0041)).toBe("P = 0.004");
    expect(medical.pClause(0.0004)).toBe("P < 0.001");
    expect(medical.pClause(0.002, true)).toBe("P < 0.002");
  });

  it("are never carried over the limit of significance by rounding", () => {
    fc.assert(
      fc.property(fc.double({ min: 0.0006, max: 0.9994, noNaN: true }), (p) => {
        for (const write of [behavioural, medical]) {
          const shown = Number(write.p(p).replace("< ", ""));
          // Three places at the least where it matters: .0496 may be shown as .050, but not .0460
          // as .05.
          if (Math.abs(p - 0.05) > 0.0005) expect(shown < 0.05).toBe(p < 0.05);
        }
      }),
    );
  });

  it("stand with both limits, or say which of them there is", () => {
    expect(behavioural.limits(0.1, 0.35)).toBe("[0.10, 0.35]");
    expect(medical.limits(-0.1, 0.35)).toBe("−0.100 to 0.350");
    expect(medical.limits(0.1, null)).toBe("above 0.100");
    expect(medical.limits(null, 0.1)).toBe("below 0.100");
  });
});

describe("words of a report", () => {
  const american = { journal: "behavioural", decimal: ",", spelling: "american" } as const;

  it("have decimal commas, semicolons between limits, and thousands apart", () => {
    const write = new Presenter(american, []);
    expect(write.text("95 % CI [−0.012, 0.053], 5,000 samples, p < .001, F(2, 406) = 4.12")).toBe(
      "95% CI [−0,012; 0,053], 5\u202f000 samples, p < ,001, F(2; 406) = 4,12",
    );
  });

  it("are spelled as chosen, names of the study never", () => {
    const write = new Presenter(american, ["centred 1.5", "Behaviour"]);
    expect(write.text("Standardised centred 1.5 on Behaviour, 2.5, behaviour")).toBe(
      "Standardized centred 1.5 on Behaviour, 2,5, behavior",
    );
  });

  it("set statistical symbols in italics where a number follows, and only there", () => {
    const write = new Presenter({ ...american, decimal: "." }, []);
    expect(write.runs(["p = .03, hours p, F(2, 3) = 1.2"])).toEqual([
      { italic: "p" },
      " = .03, hours p, ",
      { italic: "F" },
      "(2, 3) = 1.2",
    ]);
  });

  it("leave any name as it is", () => {
    fc.assert(
      fc.property(fc.string({ minLength: 2, maxLength: 12 }), (name) => {
        const write = new Presenter({ ...american, journal: "medical" }, [name]);
        expect(write.text(`“${name}”`)).toBe(`“${name}”`);
      }),
    );
  });
});

describe("a report", () => {
  it("holds every number of the evidence as it stands there", () => {
    for (const of of Object.values(studies)) {
      const { blocks } = reportOf(of);
      const effects = [
        ...tableIn(blocks, "effects").rows,
        ...(tableIn(blocks, "conditional")?.rows ?? []),
        ...(tableIn(blocks, "indices")?.rows ?? []),
      ].flatMap(({ cells, heading }) => (heading ? [] : [cells]));
      const known = of.evidence.effects.filter((e) => e.shown);
      expect(effects.length).toBeGreaterThan(2);
      for (const cells of effects) {
        const found = known.some(
          ({ estimate, shown }) =>
            estimate === cells[1]!.value &&
            shown!.se === cells[2]!.value &&
            shown!.lower === cells[3]!.limits![0] &&
            shown!.upper === cells[3]!.limits![1],
        );
        if (cells[1]!.text !== "–") expect(found).toBe(true);
      }
      const claims = tableIn(blocks, "hypotheses");
      expect(claims.rows.map((r) => r.cells[0]!.text)).toEqual(
        of.evidence.hypotheses.map((h) => h.label),
      );
      const [at, decision] = ["Estimate", "Decision"].map((head) =>
        claims.columns.findIndex((c) => c.head === head),
      );
      of.evidence.hypotheses.forEach((h, i) => {
        expect(claims.rows[i]!.cells[at!]!.value).toBe(h.claim!.estimate);
        expect(claims.rows[i]!.cells[decision!]!.text).toBe(
          { supported: "supported", not_supported: "not supported" }[h.verdict as "supported"] ??
            h.verdict,
        );
      });
    }
  });

  it("has the parts that were chosen, in their order", () => {
    const headings = (chosen: Partial<ReportChoices>): string[] =>
      reportOf(studies.mediation, chosen).blocks.flatMap((b) =>
        b.kind === "heading" && b.level === 1 ? [b.text] : [],
      );
    const parts = [...PARTS].reverse().map((id) => ({
      id,
      shown: id !== "methods" && id !== "working",
    }));
    const usual = headings({});
    expect(usual[0]).toBe("Sample and screening");
    expect(headings({ parts })).toEqual(
      [...usual].reverse().filter((text) => text !== "Statistical analysis"),
    );
    // Choices of an earlier time know nothing of later parts.
    expect(headings({ parts: [{ id: "references", shown: true }] })[0]).toBe("References");
  });

  it("counts tables and figures through, and refers to those that are there", () => {
    for (const of of Object.values(studies)) {
      const { blocks } = reportOf(of);
      const names = captionNames(blocks);
      const numbers = blocks.flatMap((b) => (b.kind === "table" ? [b.number] : []));
      expect(numbers).toEqual(numbers.map((_, i) => i + 1));
      expect(new Set(names.keys()).size).toBe(
        blocks.filter((b) => b.kind === "table" || b.kind === "figure").length,
      );
      for (const block of blocks)
        if (block.kind === "paragraph")
          plainText(block.text, (id) => {
            expect(names.has(id)).toBe(true);
            return names.get(id)!;
          });
    }
  });

  it("has the workings in an appendix for those who ask for it", () => {
    const parts = PARTS.map((id) => ({ id, shown: id === "working" }));
    const { blocks } = reportOf(studies.mediation, { parts, decimal: "," });
    expect(textOf(blocks)).toContain("0,123 × 0,233 = 0,029");
    expect(textOf(reportOf(studies.mediation).blocks)).not.toContain("Appendix");
  });

  it("has the workings of every engine's models and of every decision", () => {
    const parts = PARTS.map((id) => ({ id, shown: id === "working" }));
    const titlesOf = (of: Made): string[] =>
      reportOf(of, { parts }).blocks.flatMap((b) => (b.kind === "table" ? [b.title] : []));
    const expected: Partial<Record<keyof typeof studies, string[]>> = {
      mediation: ["Equation of confidence", "Reliability of confidence"],
      treatment: ["hours, model of renewed", "Effects of group through hours"],
      factors: ["Fit of the model", "belonging on support"],
      composites: ["Prediction of bel1"],
    };
    for (const [name, of] of Object.entries(studies)) {
      const titles = titlesOf(of);
      for (const title of expected[name as keyof typeof studies] ?? [])
        expect(titles, name).toContain(title);
      for (const h of of.evidence.hypotheses) expect(titles).toContain(`${h.label}: ${h.sentence}`);
      expect(new Set(titles).size).toBeGreaterThan(of.evidence.hypotheses.length);
    }
  });

  it("keeps to what hypotheses claim where nobody could read all effects, and says how many are left out", () => {
    const many = 400;
    const { evidence } = studies.mediation;
    const [first] = evidence.effects;
    const crowded: Made = {
      ...studies.mediation,
      evidence: {
        ...evidence,
        effects: [
          ...evidence.effects,
          ...Array.from({ length: many }, (_, i) => ({
            ...first!,
            id: `more ${i}`,
            kind: "specific_indirect" as const,
          })),
        ],
      },
    };
    const table = tableIn(reportOf(crowded).blocks, "effects");
    const usual = tableIn(reportOf(studies.mediation).blocks, "effects");
    expect(table.rows.length).toBeLessThanOrEqual(usual.rows.length);
    for (const { effects: ids } of evidence.hypotheses)
      for (const id of ids) {
        const { estimate } = evidence.effects.find((e) => e.id === id)!;
        expect(table.rows.some((r) => r.cells[1]?.value === estimate)).toBe(true);
      }
    const kept = table.rows.filter((r) => !r.heading).length;
    const all = usual.rows.filter((r) => !r.heading).length + many;
    expect(JSON.stringify(table.notes)).toContain(`${all - kept} further effects`);
  });

  it("tells which parts have something to say", () => {
    const filled = (of: Made) => partsWithContent(of, completeChoices({}));
    expect(filled(studies.mediation).has("conditional")).toBe(false);
    expect(filled(studies.moderation).has("conditional")).toBe(true);
    expect(filled(studies.treatment).has("treatment")).toBe(true);
    expect(filled(studies.factors).has("fit")).toBe(true);
    expect(filled(studies.composites).has("measurement")).toBe(true);
    expect(filled(studies.mediation).has("robustness")).toBe(false);
  });

  it("names the estimator, the interval, the samples and the seed", () => {
    const text = textOf(reportOf(studies.mediation).blocks);
    expect(text).toContain("ordinary least squares");
    expect(text).toContain("95% BCa intervals from 200 bootstrap samples (seed 20261)");
    expect(textOf(reportOf(studies.factors).blocks)).toContain("maximum likelihood");
    expect(textOf(reportOf(studies.treatment).blocks)).toContain("logistic for renewed");
  });

  it("says what differs from the plan, or that nothing does", () => {
    const { definition } = studies.mediation;
    const registered = registrationOf(definition, "2026-05-04T10:00:00.000Z");
    const told = (settings: StudyDefinition["settings"]): string =>
      textOf(
        reportOf({ ...studies.mediation, definition: { ...definition, settings, registered } })
          .blocks,
      );
    expect(told(definition.settings)).toContain(
      "A plan was laid down on 2026-05-04 and followed without change.",
    );
    expect(told({ ...definition.settings, errors: "HC3" })).toContain(
      "Deviations from it: Standard errors: planned classical, now HC3.",
    );
    expect(textOf(reportOf(studies.mediation).blocks)).not.toContain("plan");
  });

  it("gives no p of a ratio, whose null value is not zero", () => {
    const { blocks } = reportOf(studies.treatment);
    const ratios = tableIn(blocks, "natural risk_ratio 0");
    expect(ratios.columns.map((c) => c.head)).not.toContain("p");
    const differences = tableIn(blocks, "natural difference 0");
    const at = differences.columns.findIndex((c) => c.head === "p");
    expect(differences.columns.map((c) => c.head)).toContain("p");
    // 200 resamples cannot show less than one in 200.
    const least = Math.min(...differences.rows.map((r) => Number(r.cells[at]!.value ?? 1)));
    expect(least).toBeGreaterThanOrEqual(1 / 200);
  });

  it("cites the methods it used and no others", () => {
    const ids = (of: Made): string[] =>
      reportOf(of).blocks.flatMap((b) => (b.kind === "references" ? b.items.map((r) => r.id) : []));
    expect(ids(studies.mediation)).toContain("efron1987");
    expect(ids(studies.mediation)).not.toContain("johnson1936");
    expect(ids(studies.moderation)).toContain("johnson1936");
    expect(ids(studies.treatment)).toContain("vanderweele2015");
    expect(ids(studies.factors)).toContain("hu1999");
  });

  it("keeps every number when signs, spelling and decimals change", () => {
    const values = (chosen: Partial<ReportChoices>) =>
      reportOf(studies.moderation, chosen).blocks.flatMap((b) =>
        b.kind === "table"
          ? b.rows.flatMap((r) =>
              r.cells.map((c) => (typeof c.value === "number" ? c.value : c.limits)),
            )
          : [],
      );
    const style = { decimal: ",", spelling: "american", journal: "medical", digits: 2 } as const;
    expect(values(style)).toEqual(values({}));
    const text = textOf(
      reportOf(studies.moderation, style).blocks.filter((b) => b.kind === "table"),
    );
    expect(text.match(/"text":"[−\d]*\.\d/)).toBeNull();
  });
});
