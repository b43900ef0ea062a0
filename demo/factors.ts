import {
  DEFAULT_SETTINGS,
  guessVariable,
  newDefinition,
  TableBuilder,
  type Variable,
} from "../core";
import { RandomStream } from "../core/numerics/random";
import type { LoadedStudy } from "../formats";

const SEED = 20262;
export const FACTOR_ROWS = 360;

/** Loadings of the items on what they measure. */
const ITEMS = {
  conf: [0.82, 0.8, -0.76, 0.78],
  // The last one fails: most of what it says is something else.
  sup: [0.84, 0.8, 0.78, 0.28],
  bel: [0.82, 0.78, 0.76, 0.76, 0.74],
};

/**
 * The known truth of the third demo study: support raises confidence, confidence raises belonging,
 * more of it than support does directly. Two items of belonging are worded alike (their residuals
 * go together), so the first model fits poorly; the last item of support hardly measures it.
 */
export const FACTOR_TRUTH = {
  supportToConfidence: 0.45,
  confidenceToBelonging: 0.5,
  supportToBelonging: 0.15,
  wordedAlike: 0.6,
};

const COLUMNS = [
  "id",
  "site",
  ...Object.entries(ITEMS).flatMap(([stem, all]) => all.map((_, i) => name(stem, i))),
  "hours",
];

function name(stem: string, i: number): string {
  return `${stem}${i + 1}${stem === "conf" && i === 2 ? "r" : ""}`;
}

function row(i: number): string[] {
  const random = new RandomStream(SEED, i);
  const t = FACTOR_TRUTH;
  const support = random.normal();
  const confidence = t.supportToConfidence * support + 0.89 * random.normal();
  const belonging =
    t.confidenceToBelonging * confidence + t.supportToBelonging * support + 0.8 * random.normal();
  const factors = { conf: confidence, sup: support, bel: belonging };
  const alike = random.normal();
  const answers = Object.entries(ITEMS).flatMap(([stem, loadings]) =>
    loadings.map((loading, k) => {
      const share = stem === "bel" && k >= 3 ? t.wordedAlike : 0;
      const own = Math.sqrt(Math.max(0.05, 1 - loading * loading - share * share));
      const factor = factors[stem as keyof typeof factors];
      const value = 4 + 1.3 * (loading * factor + share * alike + own * random.normal());
      return random.uniform() < 0.008 ? "" : String(Math.min(7, Math.max(1, Math.round(value))));
    }),
  );
  const hours = Math.max(0, Math.round(10 * (2.5 + 0.5 * confidence + 1.2 * random.normal())) / 10);
  const site = random.uniform() < 0.5 ? "old town" : "harbour";
  return [`T${String(i + 1).padStart(3, "0")}`, site, ...answers, String(hours)];
}

const ANSWERS: Partial<Variable> = {
  range: [1, 7],
  labels: { "1": "not at all", "4": "partly", "7": "entirely" },
};

const LABELS: Record<string, string> = {
  conf1: "I start conversations",
  conf2: "I make myself understood",
  conf3r: "I avoid speaking",
  conf4: "I speak up in a group",
  sup1: "A neighbour helps me with letters",
  sup2: "I can ask next door for advice",
  sup3: "Somebody would look after my keys",
  sup4: "My street is quiet at night",
  bel1: "This town feels like home",
  bel2: "People here know me",
  bel3: "I would miss this place",
  bel4: "I belong to something here",
  bel5: "I belong to a group here",
};

const THEORY = `measure confidence reflects conf1, conf2, reversed conf3r, conf4
measure support reflects sup1, sup2, sup3, sup4
measure belonging reflects bel1, bel2, bel3, bel4, bel5
H1: support raises belonging through confidence
H2: confidence raises belonging`;

/**
 * The third demo study: the same questions among latent variables, with a fit that is poor at first
 * and an item that fails.
 */
export function demoFactorsStudy(): LoadedStudy {
  const builder = new TableBuilder(COLUMNS);
  for (let i = 0; i < FACTOR_ROWS; i++) builder.add(row(i));
  const table = builder.build();
  const variables = table.columns.map((column): Variable => ({
    ...guessVariable(column),
    ...(LABELS[column.name] ? { label: LABELS[column.name]!, ...ANSWERS } : {}),
    ...(column.name === "site" ? { label: "site of the café" } : {}),
    ...(column.name === "hours" ? { label: "hours at the café", unit: "a week" } : {}),
  }));
  return {
    table,
    definition: {
      ...newDefinition("Language café, by factors", variables),
      question: "Does neighbours' support build belonging because it lets people speak up?",
      theory: THEORY,
      settings: { ...DEFAULT_SETTINGS },
    },
  };
}
