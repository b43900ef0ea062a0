import { plain } from "../evidence";
import type { EffectScale, NaturalEffect, NaturalEffectsEvidence } from "../estimators";
import { operand } from "./paper";
import type { Working, WorkingStep } from "./types";

/** Two potential means by their place: the outcome under a value, the mediator as under another. */
type Pair = readonly [first: string, second: string];

/** What each effect sets against what (Robins & Greenland 1992; VanderWeele 2015, ch. 2). */
const PAIRS: Partial<Record<NaturalEffect["kind"], Pair>> = {
  total_effect: ["x1_m_x1", "x0_m_x0"],
  pure_natural_direct: ["x1_m_x0", "x0_m_x0"],
  total_natural_indirect: ["x1_m_x1", "x1_m_x0"],
  total_natural_direct: ["x1_m_x1", "x0_m_x1"],
  pure_natural_indirect: ["x0_m_x1", "x0_m_x0"],
};

const SCALES: Partial<Record<EffectScale, (a: string, b: string) => string>> = {
  difference: (a, b) => `${a} − ${b}`,
  risk_ratio: (a, b) => `${a} / ${b}`,
  mean_ratio: (a, b) => `${a} / ${b}`,
  odds_ratio: (a, b) => `(${a} / (1 − ${a})) / (${b} / (1 − ${b}))`,
};

const SOURCE = "Robins & Greenland 1992, Epidemiology 3; VanderWeele 2015, ch. 2";

const symbolOf = (name: string): string => {
  const [x, m] = name.split("_m_") as [string, string];
  return `E[Y(${x}, M(${m}))]`;
};

/**
 * How the effects of a treatment follow from the four potential means, and the share that is
 * mediated from the effects: differences and ratios of numbers that stand in the table above them.
 */
export function naturalWorking(natural: NaturalEffectsEvidence): Working {
  const { upper, lower, treatment, mediator, means, effects } = natural;
  const meanOf = (name: string): number => means.find((m) => m.name === name)!.estimate;
  const steps = Object.entries(SCALES).flatMap(([scale, join]) =>
    (effects[scale as EffectScale] ?? []).flatMap((effect): WorkingStep[] => {
      const pair = PAIRS[effect.kind];
      if (!pair) return [];
      const [a, b] = pair;
      return [
        {
          what: effect.words,
          formula: join(symbolOf(a), symbolOf(b)),
          numbers: `${join(operand(meanOf(a)), operand(meanOf(b)))} = ${plain(effect.estimate)}`,
          source: effect.kind === "total_effect" && scale === "difference" ? SOURCE : null,
        },
      ];
    }),
  );
  return {
    title: `Effects of ${treatment} through ${mediator}`,
    steps: [...steps, ...heldSteps(natural), ...shareStep(effects.difference ?? [])],
    rows: `x1: ${treatment} ${upper}, x0: ${treatment} ${lower}; M(x): ${mediator} as it would be under x. Each mean is over all rows with their own covariates.`,
  };
}

/** With the mediator held: one effect for each value. */
function heldSteps({ controlled, effects }: NaturalEffectsEvidence): WorkingStep[] {
  const list = (effects.difference ?? []).filter((e) => e.kind === "controlled_direct");
  return list.flatMap(({ held, words, estimate }): WorkingStep[] => {
    const means = controlled.find(({ at }) => at.join() === held?.join());
    return means
      ? [
          {
            what: words,
            formula: "E[Y(x1, m)] − E[Y(x0, m)]",
            numbers: `${operand(means.x1)} − ${operand(means.x0)} = ${plain(estimate)}`,
            source: null,
          },
        ]
      : [];
  });
}

function shareStep(list: readonly NaturalEffect[]): WorkingStep[] {
  const of = (kind: NaturalEffect["kind"]): NaturalEffect | undefined =>
    list.find((e) => e.kind === kind);
  const [share, through, total] = [
    of("proportion_mediated"),
    of("total_natural_indirect"),
    of("total_effect"),
  ];
  return share && share.withheld === null && through && total
    ? [
        {
          what: share.words,
          formula: "through the mediator / in total",
          numbers: `${operand(through.estimate)} / ${operand(total.estimate)} = ${plain(share.estimate)}`,
          source: null,
        },
      ]
    : [];
}
