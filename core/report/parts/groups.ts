import type { CompositeSection, GroupComparisonEvidence, StructureSection } from "../../estimators";
import {
  heading,
  limits,
  number,
  paragraphs,
  row,
  sentence,
  table,
  word,
  type Part,
  type ReportContext,
} from "../context";
import type { Block, Column } from "../document";

/** Whether groups measure alike, and whether their paths differ. */
export const groups: Part = (context) => {
  const blocks = context.evidence.sections.flatMap((s): Block[] =>
    s.kind === "structure"
      ? [...invariance(s, context), ...differences(s, context)]
      : s.kind === "composites"
        ? comparisons(s, context)
        : [],
  );
  return blocks.length === 0 ? [] : [heading("Differences between groups"), ...blocks];
};

const CHI_SQUARED: Column[] = [number("Δχ²"), number("Δdf"), number("p")];
const SCALED: Column[] = [number("Scaled Δχ²"), number("p of it")];

/** Steps of invariance, each against the one before. */
function invariance({ invariance: steps }: StructureSection, { cell }: ReportContext): Block[] {
  if (steps.length === 0) return [];
  return [
    table(
      "invariance",
      "Invariance of measurement",
      [
        word("Step"),
        word("Equal in all groups"),
        number("χ²"),
        number("df"),
        number("CFI"),
        number("RMSEA"),
        ...CHI_SQUARED,
        ...SCALED,
      ],
      steps.map(({ step, words, fit, difference, problem }) =>
        row(
          cell.words(sentence(step)),
          cell.words(problem ?? words),
          cell.number(fit?.plain.chi2, 2),
          cell.count(fit?.plain.df),
          cell.bounded(fit?.plain.cfi, 3),
          cell.bounded(fit?.plain.rmsea, 3),
          cell.number(difference?.chi2, 2),
          cell.count(difference?.df),
          cell.p(difference?.p),
          cell.number(difference?.scaled?.chi2, 2),
          cell.p(difference?.scaled?.p),
        ),
      ),
      ["Each step is tested against the one before."],
    ),
  ];
}

/** Moderated paths: held equal against free. */
function differences({ differences: tests }: StructureSection, { cell }: ReportContext): Block[] {
  if (tests.length === 0) return [];
  return [
    table(
      "group-differences",
      "Paths held equal against paths that differ between groups",
      [
        word("Held equal"),
        word("Hypothesis"),
        ...CHI_SQUARED,
        ...SCALED,
        number("Wald χ²"),
        number("p of Wald"),
      ],
      tests.map((d) =>
        row(
          cell.words(d.what),
          cell.words(d.hypothesis),
          cell.number(d.chi2, 2),
          cell.count(d.df),
          cell.p(d.p),
          cell.number(d.scaled?.chi2, 2),
          cell.p(d.scaled?.p),
          cell.number(d.wald?.wald, 2),
          cell.p(d.wald?.p),
        ),
      ),
    ),
  ];
}

const comparisons = (section: CompositeSection, context: ReportContext): Block[] =>
  section.comparisons.flatMap((each) => [
    ...paragraphs([`${each.first} and ${each.second}: ${lowered(each.words.join(" "))}`]),
    measuredAlike(each, context),
    pathsCompared(each, context),
  ]);

const lowered = (text: string): string => `${text.charAt(0).toLowerCase()}${text.slice(1)}`;

const STEPS = { none: "no", partial: "yes", full: "fully" };

function measuredAlike(
  { first, second, constructs, permutations, failed }: GroupComparisonEvidence,
  { cell, write }: ReportContext,
): Block {
  return table(
    `alike ${first} ${second}`,
    `Measurement in ${first} and ${second}`,
    [
      word("Construct"),
      number("r"),
      number("5 % limit"),
      number("p"),
      number("ΔM"),
      number("p of ΔM"),
      number("ln VR"),
      number("p of ln VR"),
      word("Alike"),
    ],
    constructs.map(({ construct, compositional: c, means, variances, step }) =>
      row(
        cell.words(construct),
        cell.bounded(c.estimate, 3),
        cell.bounded(c.limit, 3),
        cell.p(c.p),
        cell.number(means.estimate),
        cell.p(means.p),
        cell.number(variances.estimate),
        cell.p(variances.p),
        cell.words(STEPS[step]),
      ),
    ),
    [
      `r: correlation of the scores by the weights of either group, on the data of both; ΔM: difference of means; ln VR: natural logarithm of the ratio of variances. Fully alike: equal means and variances, too. ${write.count(permutations - failed)} permutations of cases between the groups.`,
    ],
  );
}

function pathsCompared(
  { first, second, paths }: GroupComparisonEvidence,
  { cell }: ReportContext,
): Block {
  return table(
    `paths ${first} ${second}`,
    `Paths in ${first} and ${second}`,
    [
      word("Outcome"),
      word("Explained by"),
      number(first),
      number(second),
      number("Difference"),
      limits("95 % of permutations"),
      number("p"),
    ],
    paths.map((p) =>
      row(
        cell.words(p.to),
        cell.words(p.from.replace(" x ", " × ")),
        cell.number(p.first),
        cell.number(p.second),
        cell.number(p.estimate),
        cell.limits(p.lower, p.upper),
        cell.p(p.p),
      ),
    ),
  );
}
