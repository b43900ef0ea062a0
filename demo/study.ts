import { DEFAULT_SETTINGS, guessVariable, newDefinition, TableBuilder, type Variable } from "../core";
import { RandomStream } from "../core/numerics/random";
import type { LoadedStudy } from "../formats";
import { simulatePeople, type Person } from "./random-people";

export const DEMO_SEED = 20261;
export const DEMO_ROWS = 420;

const mean = (values: number[]): number => values.reduce((a, b) => a + b, 0) / values.length;
const hundredth = (value: number): string => String(Math.round(value * 100) / 100);

export const DEMO_COLUMNS = [
  "id",
  "group",
  "hours",
  "age",
  "months",
  "schooling",
  "conf1",
  "conf2",
  "conf3r",
  "conf4",
  "sup1",
  "sup2",
  "sup3",
  "sup4",
  "bel1",
  "bel2",
  "bel3",
  "bel4",
  "bel5",
  "confidence",
  "support",
  "belonging",
  "friends",
  "renewed",
];

/** The rows of the demo data as text cells; some answers are missing, and some months are coded -99. */
export function demoRows(): string[][] {
  return simulatePeople(DEMO_ROWS, DEMO_SEED).map((p, i) => withGaps(cells(p), new RandomStream(DEMO_SEED + 1, i)));
}

function cells(p: Person): string[] {
  const confidence = mean([p.conf[0]!, p.conf[1]!, 6 - p.conf[2]!, p.conf[3]!]);
  return [
    p.id,
    p.group,
    String(p.hours),
    String(p.age),
    String(p.months),
    p.schooling,
    ...[...p.conf, ...p.sup, ...p.bel].map(String),
    hundredth(confidence),
    hundredth(mean(p.sup)),
    hundredth(mean(p.bel)),
    String(p.friends),
    p.renewed,
  ];
}

/** Blanks a few cells; a scale score goes with its first item. */
function withGaps(row: string[], random: RandomStream): string[] {
  const gap = (name: string, share: number, text = ""): void => {
    if (random.uniform() < share) row[DEMO_COLUMNS.indexOf(name)] = text;
  };
  gap("months", 0.01, "-99");
  gap("schooling", 0.03);
  gap("friends", 0.012);
  for (const [item, score] of [
    ["conf1", "confidence"],
    ["sup1", "support"],
    ["bel1", "belonging"],
  ] as const) {
    if (random.uniform() < 0.008) {
      row[DEMO_COLUMNS.indexOf(item)] = "";
      row[DEMO_COLUMNS.indexOf(score)] = "";
    }
  }
  return row;
}

const LABELS: Record<string, Partial<Variable>> = {
  group: {
    label: "condition",
    levels: ["waiting list", "weekly cafe", "cafe with partner"],
    coding: "indicator",
    reference: "waiting list",
  },
  hours: { label: "hours at the café", unit: "a week" },
  age: { label: "age", unit: "years" },
  months: { label: "time in the country", unit: "months" },
  schooling: { label: "schooling", levels: ["primary", "secondary", "vocational", "university"] },
  confidence: { label: "speaking confidence, mean of 4 items", unit: "1 to 5" },
  support: { label: "neighbour support, mean of 4 items", unit: "1 to 5" },
  belonging: { label: "belonging, mean of 5 items", unit: "1 to 5" },
  friends: { label: "local friends", unit: "count" },
  renewed: { label: "renewed the membership", one: "yes" },
};

const THEORY = `H1: hours raises belonging through confidence
H2: hours raises belonging through confidence then friends
H3: confidence raises belonging
H4: months lowers belonging
adjust confidence, friends, belonging for age, months
define share as H1 / total hours to belonging`;

/** The demo study, as if imported and described by hand. */
export function demoStudy(): LoadedStudy {
  const builder = new TableBuilder(DEMO_COLUMNS);
  for (const row of demoRows()) builder.add(row);
  const table = builder.build();
  const variables = table.columns.map((column): Variable => ({ ...guessVariable(column), ...LABELS[column.name] }));
  return {
    table,
    definition: {
      ...newDefinition("Language café", variables),
      question: "Do hours at the café build belonging, and for whom?",
      theory: THEORY,
      settings: { ...DEFAULT_SETTINGS },
    },
  };
}
