import {
  DEFAULT_SETTINGS,
  guessVariable,
  newDefinition,
  TableBuilder,
  type Variable,
} from "../core";
import { RandomStream } from "../core/numerics/random";
import type { LoadedStudy } from "../formats";
import { simulatePeople, type Person } from "./random-people";

export const DEMO_SEED = 20261;
export const DEMO_ROWS = 420;

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
  "friends",
  "renewed",
];

/**
 * The rows of the demo data as text cells; some answers are missing, and some months are coded -99.
 */
export function demoRows(): string[][] {
  return simulatePeople(DEMO_ROWS, DEMO_SEED).map((p, i) =>
    withGaps(cells(p), new RandomStream(DEMO_SEED + 1, i)),
  );
}

function cells(p: Person): string[] {
  return [
    p.id,
    p.group,
    String(p.hours),
    String(p.age),
    String(p.months),
    p.schooling,
    ...[...p.conf, ...p.sup, ...p.bel].map(String),
    String(p.friends),
    p.renewed,
  ];
}

/** Blanks a few cells. */
function withGaps(row: string[], random: RandomStream): string[] {
  const gap = (name: string, share: number, text = ""): void => {
    if (random.uniform() < share) row[DEMO_COLUMNS.indexOf(name)] = text;
  };
  gap("months", 0.01, "-99");
  gap("schooling", 0.03);
  gap("friends", 0.012);
  for (const item of ["conf1", "sup1", "bel1"]) gap(item, 0.008);
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
  friends: { label: "local friends", unit: "count" },
  renewed: { label: "renewed the membership", one: "yes" },
};

/** What the answers of every item mean. */
const ANSWERS: Partial<Variable> = {
  range: [1, 5],
  labels: { "1": "not at all", "2": "a little", "3": "somewhat", "4": "quite", "5": "very much" },
};

const ITEMS: Record<string, string> = {
  conf1: "I start conversations",
  conf2: "I make myself understood",
  conf3r: "I avoid speaking",
  conf4: "I speak up in a group",
  sup1: "A neighbour helps me with letters",
  sup2: "I can ask next door for advice",
  sup3: "Somebody would look after my keys",
  sup4: "Neighbours invite me in",
  bel1: "This town feels like home",
  bel2: "People here know me",
  bel3: "I would miss this place",
  bel4: "I belong to something here",
  bel5: "I plan to stay",
};

/** The constructs of the demo study as scale scores of their items. */
export const DEMO_MEASURES = `measure confidence averages conf1, conf2, reversed conf3r, conf4 on 1 to 5
measure support averages sup1, sup2, sup3, sup4
measure belonging averages bel1, bel2, bel3, bel4, bel5`;

const THEORY = `${DEMO_MEASURES}
H1: hours raises belonging through confidence
H2: hours raises belonging through confidence then friends
H3: confidence raises belonging
H4: months lowers belonging
adjust confidence, friends, belonging for age, months
define share as H1 / total hours to belonging`;

/** For whom? The second demo study asks about moderation. */
const LEVER_THEORY = `${DEMO_MEASURES}
H1: support strengthens hours to confidence
H2: support strengthens hours to belonging through confidence on hours to confidence
H3: support strengthens hours to friends
adjust confidence, belonging, friends for age, months`;

/** What would have been? A treatment, the hours it brings, and whether people stay. */
const TREATMENT_THEORY = `H1: group ("weekly cafe" against "waiting list") raises renewed through hours
adjust hours, renewed for age, months
control hours at 1, 3, 5`;

/**
 * The same people: does the café keep them because they come more often? A response that is yes or
 * no.
 */
export function demoTreatmentStudy(): LoadedStudy {
  const { definition, table } = demoStudy();
  return {
    table,
    definition: {
      ...definition,
      title: "Language café, who stays",
      question: "Do people renew because the café brings them hours together?",
      theory: TREATMENT_THEORY,
    },
  };
}

/** The same people and measures with a theory of moderation. */
export function demoLeverStudy(): LoadedStudy {
  const { definition, table } = demoStudy();
  return {
    table,
    definition: {
      ...definition,
      title: "Language café, for whom",
      question: "Whom do the hours help to speak up?",
      theory: LEVER_THEORY,
    },
  };
}

/** The demo study, as if imported and described by hand. */
export function demoStudy(): LoadedStudy {
  const builder = new TableBuilder(DEMO_COLUMNS);
  for (const row of demoRows()) builder.add(row);
  const table = builder.build();
  const variables = table.columns.map((column): Variable => ({
    ...guessVariable(column),
    ...(ITEMS[column.name] ? { label: ITEMS[column.name]!, ...ANSWERS } : {}),
    ...LABELS[column.name],
  }));
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
