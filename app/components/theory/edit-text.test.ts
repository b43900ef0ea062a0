import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { parseTheory, type Hypothesis } from "../../../core";
import {
  appendLine,
  exchange,
  namedIn,
  newHypothesis,
  nextLabel,
  ref,
  replaceLine,
  rewrite,
  freedInTheory,
} from "./edit-text";

const NAMES = ["hours", "belonging", "confidence", "weekly hours"];
const parse = (text: string) => parseTheory(text, NAMES).statements;

describe("editing the text by slots", () => {
  it("replaces one line and leaves the others as they were typed", () => {
    const text = "# why\nH1:   hours raises belonging\n\nalso hours to confidence";
    const [h1] = parse(text) as [Hypothesis];
    expect(rewrite(text, { ...h1, verb: "lowers" })).toBe(
      "# why\nH1: hours lowers belonging\n\nalso hours to confidence",
    );
    expect(replaceLine(text, 2, null)).toBe("# why\n\nalso hours to confidence");
  });

  it("puts one variable in the place of another in every sentence, quotes and comments in order", () => {
    const text =
      'H1: hours raises belonging through confidence # hours matter\nadjust confidence for hours\nH2: "weekly hours" raises belonging';
    expect(exchange(text, parse(text), "hours", "weekly hours")).toBe(
      'H1: "weekly hours" raises belonging through confidence # hours matter\nadjust confidence for "weekly hours"\nH2: "weekly hours" raises belonging',
    );
    expect(namedIn(text, parse(text), [...NAMES, "age"])).toEqual(NAMES);
  });

  it("leaves a measure its own name where it is made", () => {
    const text = "measure courage averages hours, belonging\nH1: hours raises courage";
    expect(exchange(text, parse(text), "courage", "confidence")).toBe(
      "measure courage averages hours, belonging\nH1: hours raises confidence",
    );
    expect(exchange(text, parse(text), "belonging", "age")).toBe(
      "measure courage averages hours, age\nH1: hours raises courage",
    );
    const alone = text.split("\n")[0]!;
    expect(namedIn(alone, parse(alone), ["courage", "hours"])).toEqual(["hours"]);
  });

  it("appends after the last sentence", () => {
    expect(appendLine("", "a")).toBe("a");
    expect(appendLine("a\n\n  ", "b")).toBe("a\nb");
  });

  it("numbers a new hypothesis past those that exist, and quotes where needed", () => {
    const statements = parse("H1: hours raises belonging\nH3: hours raises confidence");
    expect(nextLabel(statements, "")).toBe("H2");
    // A line that cannot be read keeps its number.
    expect(nextLabel(statements, "H2: hours frobs age\n  H3 : x")).toBe("H4");
    expect(newHypothesis(statements, "", "weekly hours", "belonging")).toBe(
      'H2: "weekly hours" raises belonging',
    );
  });

  it("a sentence changed in any slot can be read back", () => {
    const name = fc.constantFrom(...NAMES);
    fc.assert(
      fc.property(
        fc.uniqueArray(name, { minLength: 2, maxLength: 4 }),
        fc.constantFrom("raises" as const, "lowers" as const, "affects" as const),
        fc.boolean(),
        (names, verb, only) => {
          const [from, to, ...mediators] = names as [string, string, ...string[]];
          const text = "H1: hours raises belonging";
          const [old] = parse(text) as [Hypothesis];
          const changed = {
            ...old,
            from: ref(from),
            to: ref(to),
            verb,
            chains: mediators.length ? [mediators.map(ref)] : [],
            only: only && mediators.length > 0,
          };
          const [read] = parse(rewrite(text, changed)) as [Hypothesis];
          expect([
            read.from.name,
            read.verb,
            read.to.name,
            read.only,
            read.chains.map((c) => c.map((r) => r.name)),
          ]).toEqual([from, verb, to, changed.only, mediators.length ? [mediators] : []]);
        },
      ),
    );
  });
});

describe("an arrow of its own in each group", () => {
  const study = (theory: string) => ({
    theory,
    variables: ["F", "a 2", "site", "y"].map((name) => ({ name, level: "continuous" as const })),
    derived: [],
  });
  const THEORY = "H1: F raises y\ngroups by site with loadings equal\n# the end";

  it("is written into the line on groups, and after those that are there", () => {
    const once = freedInTheory(study(THEORY), { kind: "path", from: "F", to: "a 2" })!;
    expect(once).toBe(
      'H1: F raises y\ngroups by site with loadings equal but F to "a 2" free\n# the end',
    );
    expect(freedInTheory(study(once), { kind: "intercept", from: "", to: "a 2" })).toContain(
      'but F to "a 2" and intercept of "a 2" free',
    );
    expect(freedInTheory(study(THEORY), { kind: "variance", from: "y", to: "y" })).toContain(
      "but variance of y free",
    );
    expect(freedInTheory(study(THEORY), { kind: "covariance", from: "F", to: "y" })).toContain(
      "but F with y free",
    );
  });

  it("has no place where nothing is said of groups", () => {
    const free = { kind: "path", from: "F", to: "y" } as const;
    expect(freedInTheory(study("H1: F raises y"), free)).toBeNull();
  });
});
