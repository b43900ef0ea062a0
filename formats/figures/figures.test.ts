import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  analyse,
  completeChoices,
  composeReport,
  type Evidence,
  type FigureBlock,
} from "../../core";
import { demoCompositesStudy } from "../../demo/composites";
import { demoLeverStudy, demoStudy, demoTreatmentStudy } from "../../demo/study";
import { DEFAULT_FIGURE, drawFigure, pathFigure, type FigureStyle } from ".";

const evidenceOf = ({ definition, table }: ReturnType<typeof demoStudy>) => {
  const study = { ...definition, settings: { ...definition.settings, replications: 200 } };
  const evidence = analyse(study, table);
  const { blocks } = composeReport(
    { evidence, data: null, definition: study },
    completeChoices({
      figures: { ...completeChoices({}).figures, diagram: "both", surface: true },
    }),
  );
  return { evidence, figures: blocks.filter((b) => b.kind === "figure") };
};
const studies = [demoStudy(), demoLeverStudy(), demoTreatmentStudy(), demoCompositesStudy()].map(
  evidenceOf,
);
const each = (of: (figure: FigureBlock, evidence: Evidence) => void): void =>
  studies.forEach(({ evidence, figures }) => figures.forEach((f) => of(f, evidence)));

const numbersIn = (svg: string, name: string): number[] =>
  [...svg.matchAll(new RegExp(` ${name}="(-?[\\d.]+)"`, "g"))].map((m) => Number(m[1]));

describe("figures", () => {
  it("are as wide as asked for, in millimetres, with nothing outside and no letter too small", () => {
    each((figure, evidence) => {
      for (const widthMm of [85, 120, 175]) {
        const style: FigureStyle = { ...DEFAULT_FIGURE, widthMm };
        const { svg, heightMm } = drawFigure(figure, evidence, style)!;
        expect(svg).toContain(`width="${widthMm}mm"`);
        expect(heightMm).toBeGreaterThan(15);
        expect(heightMm).toBeLessThan(widthMm);
        expect(svg).not.toMatch(/NaN|Infinity|undefined/);
        const scale = Number(/scale\(([\d.]+)\)/.exec(svg)?.[1] ?? 1);
        for (const size of numbersIn(svg, "font-size"))
          if (size !== DEFAULT_FIGURE.fontPt) expect(size * scale).toBeGreaterThan(4.8);
        const points = (widthMm * 72) / 25.4;
        for (const x of [...numbersIn(svg, "x"), ...numbersIn(svg, "cx")]) {
          expect(x * (svg.includes("scale(") ? scale : 1)).toBeGreaterThanOrEqual(-0.01);
          expect(x * (svg.includes("scale(") ? scale : 1)).toBeLessThanOrEqual(points + 0.01);
        }
      }
    });
  });

  it("show the numbers of the evidence", () => {
    const { evidence, figures } = studies[0]!;
    const path = figures.find((f) => f.figure.kind === "path" && f.figure.estimates === "raw")!;
    const { svg } = drawFigure(path, evidence, { ...DEFAULT_FIGURE, decimal: "," })!;
    const direct = evidence.effects.find((e) => e.label === "confidence on friends")!;
    expect(svg).toContain(`>${direct.estimate!.toFixed(2).replace(".", ",")}<`);
    const concepts = figures.find(
      (f) => f.figure.kind === "path" && f.figure.estimates === "none",
    )!;
    expect(drawFigure(concepts, evidence, DEFAULT_FIGURE)!.svg).not.toMatch(/>−?0\.\d/);
  });

  it("show a surface as high as what is predicted, with a line where the slope ceases to be clear", () => {
    const { evidence, figures } = studies[1]!;
    const surface = figures.find((f) => f.figure.kind === "surface")!;
    const { svg } = drawFigure(surface, evidence, DEFAULT_FIGURE)!;
    const own = evidence.moderations.find(
      (m) => surface.figure.kind === "surface" && m.id === surface.figure.moderation,
    )!;
    const { rootsInRange } = own.johnsonNeyman[0]!.tests[evidence.errors]!.pointwise;
    expect(svg.match(/stroke-dasharray="4 2"/g) ?? []).toHaveLength(rootsInRange.length);
    expect(rootsInRange.length).toBeGreaterThan(0);
    // The darkest cell and the lightest one are those of the highest and the lowest predictions.
    const greys = [...svg.matchAll(/fill="#([0-9a-f]{2})\1\1" stroke="none"/g)].map((m) =>
      parseInt(m[1]!, 16),
    );
    expect(greys).toHaveLength(14 * 14);
    expect(Math.max(...greys)).toBeGreaterThan(245);
    expect(Math.min(...greys)).toBeLessThan(160);
    for (const { name } of own.moderators) expect(svg).toContain(`>${name}<`);
    expect(svg).toContain(`>${own.outcome}<`);
  });

  it("have no surface where a moderator has levels or there are several", () => {
    const { evidence } = studies[0]!;
    for (const m of evidence.moderations) {
      const drawn = drawFigure(
        { figure: { kind: "surface", moderation: m.id }, title: "A surface" },
        evidence,
        DEFAULT_FIGURE,
      );
      const plain = m.moderators.length === 1 && m.moderators[0]!.columns.length === 1;
      if (!plain) expect(drawn).toBeNull();
    }
    expect(
      drawFigure(
        { figure: { kind: "surface", moderation: "gone" }, title: "" },
        evidence,
        DEFAULT_FIGURE,
      ),
    ).toBeNull();
  });

  it("use no colour but greys", () => {
    each((figure, evidence) => {
      const { svg } = drawFigure(figure, evidence, DEFAULT_FIGURE)!;
      const colours = [...svg.matchAll(/(?:fill|stroke)="#([0-9a-f]+)"/g)].map((m) => m[1]!);
      for (const c of colours)
        expect(c.length === 3 ? new Set(c).size : new Set(c.match(/../g)).size).toBe(1);
    });
  });

  it("hold intervals in any width from 120 mm on, and say where they do not", () => {
    const path = { kind: "path", estimates: "raw", beside: "interval" } as const;
    const drawn = (widthMm: number): string =>
      drawFigure({ figure: path, title: "x" }, studies[0]!.evidence, {
        ...DEFAULT_FIGURE,
        widthMm,
      })!.svg;
    for (const widthMm of [120, 175]) expect(drawn(widthMm)).toMatch(/>\[−?0\.\d+, /);
    expect(drawn(85)).toContain("Intervals have no room at this width");
  });

  it("carry their font where one is given", () => {
    const { evidence, figures } = studies[0]!;
    const style = { ...DEFAULT_FIGURE, fontUrl: "data:font/woff2;base64,AAAA" };
    expect(drawFigure(figures[0]!, evidence, style)!.svg).toContain(
      "src:url(data:font/woff2;base64,AAAA)",
    );
  });

  it("hold any name as text and never as markup", () => {
    const { evidence } = studies[0]!;
    fc.assert(
      fc.property(fc.string({ minLength: 1, maxLength: 30 }), (name) => {
        const roles = JSON.stringify(evidence.roles).replaceAll('"hours"', () =>
          JSON.stringify(name),
        );
        const renamed: Evidence = {
          ...evidence,
          roles: JSON.parse(roles) as Evidence["roles"],
          paths: evidence.paths.map((p) => ({
            ...p,
            from: p.from === "hours" ? name : p.from,
          })),
        };
        const { svg } = pathFigure(
          renamed,
          { estimates: "none", beside: "nothing", items: false },
          name,
          DEFAULT_FIGURE,
        );
        // As many tags as marks: nothing in a name opens or closes one.
        expect(svg.match(/</g)!.length).toBe(svg.match(/>/g)!.length);
        expect(svg).not.toMatch(/<(?!\/?(?:svg|title|rect|g|path|text|style)\b)/);
      }),
      { numRuns: 60 },
    );
  });
});
