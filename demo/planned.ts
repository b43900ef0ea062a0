import { DEFAULT_SETTINGS, newDefinition, tableOfNames, type Variable } from "../core";
import type { LoadedStudy } from "../formats";

const item = (name: string): Variable => ({ name, level: "ordinal", range: [1, 5] });

const THEORY = `measure confidence averages conf1, conf2, reversed conf3r, conf4 on 1 to 5
measure belonging averages bel1, bel2, bel3, bel4, bel5
H1: hours raises belonging through confidence
H2: support strengthens hours to confidence
H3: confidence raises belonging
adjust confidence, belonging for months`;

/**
 * A study that has no data yet: who will be asked what, and how large effects are expected to be.
 */
export function demoPlannedStudy(): LoadedStudy {
  const variables: Variable[] = [
    { name: "hours", level: "continuous", label: "hours at the café", unit: "a week" },
    { name: "support", level: "continuous", label: "support by neighbours" },
    { name: "months", level: "continuous", label: "time in the country", unit: "months" },
    ...["conf1", "conf2", "conf3r", "conf4"].map(item),
    ...["bel1", "bel2", "bel3", "bel4", "bel5"].map(item),
  ];
  return {
    table: tableOfNames(variables.map((v) => v.name)),
    definition: {
      ...newDefinition("Language café, next year", variables),
      question: "How many people do we need to see what the café does for belonging?",
      theory: THEORY,
      settings: { ...DEFAULT_SETTINGS, interval: "percentile" },
      plan: {
        sizes: [
          { from: ["hours"], to: "confidence", size: 0.3 },
          { from: ["support"], to: "confidence", size: 0.2 },
          { from: ["hours", "support"], to: "confidence", size: 0.15 },
          { from: ["confidence"], to: "belonging", size: 0.35 },
          { from: ["hours"], to: "belonging", size: 0.1 },
          { from: ["months"], to: "belonging", size: 0.1 },
        ],
        correlations: [{ a: "hours", b: "support", r: 0.2 }],
        variables: { months: { shape: "skewed" } },
        reliabilities: { confidence: 0.8, belonging: 0.85 },
        n: 200,
        samples: 500,
        replications: 500,
      },
    },
  };
}
