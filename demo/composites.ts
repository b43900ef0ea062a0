import {
  DEFAULT_SETTINGS,
  guessVariable,
  newDefinition,
  TableBuilder,
  type Variable,
} from "../core";
import { RandomStream } from "../core/numerics/random";
import type { LoadedStudy } from "../formats";

const SEED = 20263;
export const COMPOSITE_ROWS = 320;

/**
 * The known truth of the fourth demo study: a learning routine is made of days, minutes and
 * variety, which hardly go together; it raises confidence, more so where support is strong, and
 * confidence raises belonging. People of the harbour go by days, people of the old town by minutes,
 * so a routine is not the same thing at both sites.
 */
export const COMPOSITE_TRUTH = {
  routineToConfidence: 0.5,
  supportToConfidence: 0.3,
  together: 0.22,
  confidenceToBelonging: 0.5,
  routineToBelonging: 0.12,
};

const LOADINGS = {
  conf: [0.84, 0.8, -0.78, 0.8],
  sup: [0.84, 0.82, 0.8],
  bel: [0.84, 0.8, 0.78, 0.8],
};

const COLUMNS = ["id", "site", "days", "minutes", "variety"].concat(
  Object.entries(LOADINGS).flatMap(([stem, all]) => all.map((_, i) => itemName(stem, i))),
);

function itemName(stem: string, i: number): string {
  return `${stem}${i + 1}${stem === "conf" && i === 2 ? "r" : ""}`;
}

function row(i: number): string[] {
  const random = new RandomStream(SEED, i);
  const t = COMPOSITE_TRUTH;
  const harbour = random.uniform() < 0.5;
  const common = random.normal();
  const days = 0.4 * common + 0.92 * random.normal();
  const minutes = 0.4 * common + 0.92 * random.normal();
  const variety = 0.3 * common + 0.95 * random.normal();
  const [wd, wm] = harbour ? [0.85, 0.2] : [0.2, 0.85];
  const routine = (wd * days + wm * minutes + 0.35 * variety) / 1.12;
  const support = random.normal();
  const confidence =
    t.routineToConfidence * routine +
    t.supportToConfidence * support +
    t.together * routine * support +
    0.78 * random.normal();
  const belonging =
    t.confidenceToBelonging * confidence + t.routineToBelonging * routine + 0.82 * random.normal();
  const scores = { conf: confidence, sup: support, bel: belonging };
  const answers = Object.entries(LOADINGS).flatMap(([stem, loadings]) =>
    loadings.map((loading) => {
      const own = Math.sqrt(1 - loading * loading) * random.normal();
      const value = 4 + 1.3 * (loading * scores[stem as keyof typeof scores] + own);
      return random.uniform() < 0.004 ? "" : String(within(Math.round(value), 1, 7));
    }),
  );
  return [
    `S${String(i + 1).padStart(3, "0")}`,
    harbour ? "harbour" : "old town",
    String(within(Math.round(3 + 1.6 * days), 0, 7)),
    String(within(5 * Math.round(7 + 3.2 * minutes), 0, 120)),
    String(within(Math.round(3 + 1.3 * variety), 1, 6)),
    ...answers,
  ];
}

const within = (value: number, low: number, high: number): number =>
  Math.min(high, Math.max(low, value));

const DESCRIBED: Record<string, Partial<Variable>> = {
  site: { label: "site of the café" },
  days: { label: "days with practice", unit: "a week", level: "continuous" },
  minutes: { label: "minutes of practice", unit: "a day", level: "continuous" },
  variety: { label: "ways of practising", unit: "ways", level: "continuous" },
};

const ANSWERS: Partial<Variable> = {
  range: [1, 7],
  labels: { "1": "not at all", "4": "partly", "7": "entirely" },
};

const THEORY = `measure routine combines days, minutes, variety weighted by regression
measure support combines sup1, sup2, sup3
measure confidence combines conf1, conf2, reversed conf3r, conf4
measure belonging combines bel1, bel2, bel3, bel4
H1: routine raises belonging through confidence
H2: support strengthens routine to confidence`;

/**
 * The fourth demo study: constructs that are made of their items, an interaction of two of them,
 * and two sites to compare.
 */
export function demoCompositesStudy(): LoadedStudy {
  const builder = new TableBuilder(COLUMNS);
  for (let i = 0; i < COMPOSITE_ROWS; i++) builder.add(row(i));
  const table = builder.build();
  const variables = table.columns.map((column): Variable => ({
    ...guessVariable(column),
    ...(/^(conf|sup|bel)/.test(column.name) ? ANSWERS : {}),
    ...DESCRIBED[column.name],
  }));
  return {
    table,
    definition: {
      ...newDefinition("Language café, by composites", variables),
      question: "Does a learning routine build belonging, and does it take neighbours' support?",
      theory: THEORY,
      settings: { ...DEFAULT_SETTINGS },
    },
  };
}
