import type { ReactNode } from "react";
import { createRoutesStub } from "react-router";
import { describe, expect, it } from "vitest";
import { analyse, plain, type StructureSection } from "../../../core";
import { demoFactorsStudy } from "../../../demo/factors";
import { markupOf, textOf } from "../test-kit";
import { ChangesView } from "./changes-view";
import { MeasurementView } from "./measurement-view";
import { ResidualTable } from "./residual-table";
import { FitTable } from "./structure-tables";
import { StructureView } from "./structure-view";

const { definition, table } = demoFactorsStudy();
function sectionOf(lines: string[] = [], options: Record<string, string> = {}): StructureSection {
  const settings = { ...definition.settings, replications: 0, interval: "delta" as const, options };
  const theory = [definition.theory, ...lines].join("\n");
  const { sections } = analyse({ ...definition, theory, settings }, table);
  return sections.flatMap((s) => (s.kind === "structure" ? [s] : []))[0]!;
}

function shown(element: ReactNode): string {
  const Stub = createRoutesStub([{ path: "/", Component: () => element }]);
  return markupOf(<Stub initialEntries={["/"]} />);
}
const none = (): void => undefined;

/** Cells of the row that begins with a name, in the table with a title. */
function row(html: string, title: string, name: string): string[] {
  const from = html.indexOf(title);
  const body = html.slice(html.indexOf("<tbody", from), html.indexOf("</tbody>", from));
  // What is marked has its sign before the name.
  const words = (r: string): string => textOf(`<tr${r}`).replace(/^\s*◆?\s*/, "");
  const found = body.split("<tr").find((r) => words(r).startsWith(name));
  return [...(found ?? "").matchAll(/<t[dh][^>]*>(.*?)<\/t[dh]>/gs)].map((m) =>
    textOf(m[1]!).trim(),
  );
}

const section = sectionOf();
const groups = sectionOf(["groups by site with loadings equal"]);

describe("a model of latent variables on Evidence", () => {
  const html = shown(<StructureView section={section} />);
  const text = textOf(html);

  it("says in sentences how well it fits, and lists every path with the numbers of the evidence", () => {
    for (const sentence of section.fitWords) expect(text).toContain(sentence);
    const paths = section.arrows.filter((a) => a.role === "path");
    expect(paths.length).toBeGreaterThan(2);
    for (const { estimate, full } of paths) {
      expect(text).toContain(plain(estimate));
      expect(text).toContain(plain(full.estimate));
    }
  });

  it("calls a marker's loading held, and gives it no error", () => {
    const marker = section.arrows.find((a) => a.role === "loading" && !a.free)!;
    expect(row(html, "Loadings", marker.to)).toContain("held");
    expect(text.match(/held/g)).toHaveLength(section.arrows.filter((a) => !a.free).length);
  });

  it("has no index of fit where nothing is left out", () => {
    const saturated = analyse(
      {
        ...definition,
        theory: "H1: hours raises sup1 through conf1",
        settings: {
          ...definition.settings,
          engine: "covariance_structure",
          replications: 0,
          interval: "delta",
        },
      },
      table,
    ).sections.find((s) => s.kind === "structure")!;
    expect(saturated.counts.df).toBe(0);
    const words = textOf(shown(<StructureView section={saturated} />));
    for (const sentence of saturated.fitWords) expect(words).toContain(sentence);
    expect(textOf(shown(<ChangesView section={saturated} apply={none} />))).toContain(
      "no degrees of freedom",
    );
  });

  it("names the group of every path where there are groups", () => {
    const rows = textOf(shown(<StructureView section={groups} />));
    for (const { name } of [{ name: "old town" }, { name: "harbour" }])
      expect(rows).toContain(name);
    expect(groups.arrows.filter((a) => a.role === "path")).toHaveLength(
      2 * section.arrows.filter((a) => a.role === "path").length,
    );
  });
});

describe("all indices of fit", () => {
  it("stand in one table, scaled ones beside", () => {
    const { fit, information } = section;
    const html = shown(<FitTable section={section} />);
    expect(row(html, "Fit of the model", "χ²").slice(0, 2)).toEqual(["χ²", plain(fit!.plain.chi2)]);
    expect(row(html, "Fit of the model", "degrees of freedom")[1]).toBe(String(fit!.plain.df));
    expect(row(html, "Fit of the model", "CFI")[1]).toBe(plain(fit!.plain.cfi));
    expect(row(html, "Fit of the model", "BIC")[1]).toBe(plain(information!.bic));
    expect(textOf(html)).toContain("scaled (Satorra-Bentler)");
    expect(row(html, "Fit of the model", "scaling factor")[1]).not.toBe("1.000");
  });

  it("has neither p nor information where the estimator has none", () => {
    const uls = sectionOf([], { estimator: "uls" });
    const html = shown(<FitTable section={uls} />);
    expect(row(html, "Fit of the model", "p, exact fit")[1]).toBe("–");
    expect(textOf(html)).not.toContain("log-likelihood");
  });
});

describe("measurement on Checks", () => {
  const html = shown(<MeasurementView section={section} leaveOut={none} />);
  const [group] = section.measurement;

  it("has every measure and item with its numbers, and names what falls short", () => {
    for (const f of group!.factors) {
      const cells = row(html, "Measures", f.factor);
      const [, items, alpha, omega, cr, ave] = cells;
      expect([items, alpha, omega, cr, ave]).toEqual([
        String(f.items),
        ...[f.alpha, f.omega, f.compositeReliability, f.ave].map((v) => plain(v)),
      ]);
    }
    const weak = group!.items.filter((i) => Math.abs(i.standardised) < 0.5).map((i) => i.item);
    expect(weak).toEqual(["sup4"]);
    expect(textOf(html)).toContain("sup4 loads below .50");
    expect(html).toContain('aria-label="Leave sup4 out of support"');
  });

  it("tells groups apart by the names of their tables", () => {
    const names = [
      ...shown(<MeasurementView section={groups} leaveOut={none} />).matchAll(
        /<caption[^>]*>([^<]+)</g,
      ),
    ].map((m) => m[1]);
    expect(names.length).toBeGreaterThan(3);
    expect(new Set(names).size).toBe(names.length);
  });
});

describe("what would change the fit", () => {
  it("is listed from the largest on, with a way to try what a sentence can say", () => {
    const html = shown(<ChangesView section={section} apply={none} />);
    const listed = [...html.matchAll(/<li.*?<\/li>/gs)].map((m) => textOf(m[0]));
    const wanted = section.changes.filter((c) => c.p < 0.05).slice(0, 8);
    expect(listed).toHaveLength(wanted.length);
    wanted.forEach((change, i) => expect(listed[i]).toContain(change.words));
    expect(html.match(/aria-label="Try it: /g)!).toHaveLength(
      wanted.filter((c) => c.change).length,
    );
  });
});

describe("residual correlations", () => {
  it("are what was observed less what is implied, marked beyond .10", () => {
    const html = shown(<ResidualTable section={section} />);
    const [{ variables, correlation }] = section.residuals as [StructureSection["residuals"][0]];
    const cells = row(html, "Residual correlations", variables[3]!);
    expect(cells.slice(1, 4)).toEqual(
      correlation[3]!.slice(0, 3).map((r) => r.toFixed(2).replace("-", "−")),
    );
    expect(cells.slice(4).every((c) => c === "")).toBe(true);
  });
});
