import { createRoutesStub } from "react-router";
import { describe, expect, it } from "vitest";
import { parseTheory } from "../../../core";
import { analyseMade, normals } from "../../../core/test-kit";
import { markupOf, textOf } from "../test-kit";
import { Sentences } from "./sentences";

const N = 80;
const [x, w, e, f] = [31, 32, 33, 34].map((seed) => normals(N, seed)) as [
  number[],
  number[],
  number[],
  number[],
];
const m = x.map((v, i) => 0.6 * v + 0.5 * v * w[i]! + e[i]!);
const columns = {
  x,
  w,
  m,
  y: m.map((v, i) => 0.7 * v + f[i]!),
  age: e.map((v) => 40 + v),
  i1: x,
  i2: x,
};
const VARIABLES = Object.keys(columns);

/** The markup of a theory's sentences, with what the data say of it where it can be estimated. */
function markup(theory: string, estimated = true): string {
  const { statements, complaints } = parseTheory(theory, VARIABLES);
  const evidence = estimated
    ? analyseMade({ columns, theory, settings: { replications: 5000 } })
    : null;
  const props = {
    text: theory,
    statements,
    complaints,
    variables: VARIABLES,
    groupings: ["i1"],
    evidence,
    change: () => undefined,
    focus: () => undefined,
  };
  const Stub = createRoutesStub([{ path: "/", Component: () => <Sentences {...props} /> }]);
  return markupOf(<Stub initialEntries={["/"]} />);
}

const slots = (html: string): string[] =>
  [...html.matchAll(/aria-label="([^"]+): ([^"]+)" aria-haspopup/g)].map(
    ([, label, value]) => `${label}: ${value}`,
  );

describe("the theory as sentences", () => {
  it("gives a hypothesis a slot for every part, with room for more mediators, and its verdict", () => {
    const html = markup("H1: x raises y through m");
    expect(slots(html).slice(0, 5)).toEqual([
      "Who or what: x",
      "What is affected: y",
      "Mediator: m",
      "Next mediator in series: choose",
      "Another mediator beside it: choose",
    ]);
    expect(textOf(html)).toContain("supported");
    expect(html).toContain('aria-label="Remove H1"');
  });

  it("asks on which step a moderator acts, and shows where it does", () => {
    const html = markup("H2: w strengthens x to y through m on x to m");
    expect(slots(html)).toEqual(
      expect.arrayContaining(["Moderator: w", "Mediator: m", "Joint moderator: choose"]),
    );
    expect(textOf(html)).toMatch(/acts on x to m m to y/);
    expect(html.match(/type="checkbox"/g)).toHaveLength(2);
    expect(html.match(/checked=""/g)).toHaveLength(1);
  });

  it("tells measures and adjustments briefly, and offers what can be said next", () => {
    const html = markup(
      "measure scale averages i1, reversed i2\nH1: x raises y through m\nadjust m, y for age",
    );
    const text = textOf(html);
    expect(text).toContain("scale is the mean of 2 items, 1 reversed");
    expect(slots(html)).toEqual(expect.arrayContaining(["Adjusted variable: m", "Covariate: age"]));
    for (const offer of ["covariates", "moderator", "user-defined quantity"])
      expect(text, offer).toContain(offer);
    expect(text).not.toContain("contrast");
    expect(textOf(markup("H1: x raises y\nH2: m raises y"))).toContain("contrast");
  });

  it("keeps a faulty line as it was typed, with its number and a mend; a new one gets the next", () => {
    const html = markup("H1: x raises yy", false);
    expect(html).toMatch(/<textarea[^>]*>H1: x raises yy<\/textarea>/);
    expect(textOf(html)).toMatch(/◆ No variable is called “yy”.*Write “y”/);
    expect(textOf(html)).toMatch(/H2\s*who or what/);
    expect(html).toContain('aria-invalid="true"');
  });

  it("says so when nothing is estimated yet", () =>
    expect(textOf(markup("H1: x raises y", false))).toContain("not estimated yet"));
});
