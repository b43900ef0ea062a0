import { log10 } from "../../numerics/elementary";
import { summarise } from "../../data";
import type { Dataset } from "../../dataset";
import { plain, pClause } from "../../wording/numbers";
import type {
  DataEvidence,
  Finding,
  MeasureEvidence,
  SetEvidence,
  VariableEvidence,
} from "./types";

/**
 * Beyond these a distribution counts as far from normal (Curran, West & Finch 1996, Psychol Methods
 * 1).
 */
const HIGH_SKEWNESS = 2;
const HIGH_KURTOSIS = 7;
const MUCH_MISSING = 0.05;
const NEARLY_THE_SAME = 0.95;
/** Rows named one by one; more are counted. */
const NAMED_ROWS = 6;

type Found = Omit<DataEvidence, "findings" | "warnings">;

/**
 * What deserves a decision first, then what is good to know; each in a sentence with its remedies.
 */
export function findingsOf(data: Found, dataset: Dataset): Finding[] {
  const all = [
    ...wordsAmongNumbers(dataset),
    ...Object.values(data.descriptives).flatMap(aboutVariable),
    ...duplicates(data),
    ...data.sets.flatMap(aboutSet),
    ...data.measures.flatMap(aboutMeasure),
  ];
  return [...all.filter((f) => f.weight === "look"), ...all.filter((f) => f.weight === "note")];
}

function finding(
  id: string,
  topic: Finding["topic"],
  weight: Finding["weight"],
  message: string,
  rest: Partial<Pick<Finding, "variables" | "rows" | "remedies">>,
): Finding {
  return { id, topic, weight, message, variables: [], rows: [], remedies: [], ...rest };
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** “row 17”, “rows 3, 8 and 12”, “12 rows (3, 8, 12, …)”. */
export function rowWords(rows: number[]): string {
  if (rows.length === 1) return `row ${rows[0]}`;
  if (rows.length > NAMED_ROWS) return `${rows.length} rows (${rows.slice(0, 4).join(", ")}, …)`;
  return `rows ${rows.slice(0, -1).join(", ")} and ${rows.at(-1)}`;
}

const exclude = (rows: number[], filter: string, why: string): Finding["remedies"][number] => ({
  kind: "exclude",
  words: rows.length > 2 ? `Leave these ${rows.length} rows out` : `Leave ${rowWords(rows)} out`,
  filter,
  rows,
  why,
});

function wordsAmongNumbers({ table, variables }: Dataset): Finding[] {
  return variables.flatMap((variable, j) => {
    if (variable.level !== "continuous" && variable.level !== "ordinal") return [];
    const { notNumeric } = summarise(table.columns[j]!, variable);
    if (!notNumeric) return [];
    const { count, example, row } = notNumeric;
    const message = `${count === 1 ? "One cell" : `${count} cells`} of ${variable.name} ${count === 1 ? "is not a number" : "are not numbers"}: “${example}” in row ${row}${count > 1 ? " is the first" : ""}. The column cannot be analysed before that is settled.`;
    const why = `“${example}” is not a number`;
    return [
      finding(`words ${variable.name}`, "values", "look", message, {
        variables: [variable.name],
        rows: [row],
        remedies: [
          {
            kind: "missing_codes",
            words: `Count “${example}” as missing`,
            variable: variable.name,
            codes: [example],
            why,
          },
        ],
      }),
    ];
  });
}

function aboutVariable(v: VariableEvidence): Finding[] {
  const { name } = v;
  const of = { variables: [name] };
  if (v.n === 0)
    return [
      finding(
        `empty ${name}`,
        "values",
        "look",
        `${name} has no answer at all. Leave it out of the theory.`,
        of,
      ),
    ];
  if (v.zeroVariance) {
    const message = `${name} never varies: it is ${plain(v.mean, 2)} for everybody. It can neither explain anything nor be explained; leave it out of the theory.`;
    return [finding(`constant ${name}`, "values", "look", message, of)];
  }
  return [
    ...rangeFindings(v),
    ...outlierFindings(v),
    ...missingFindings(v),
    ...shapeFindings(v),
    ...unitFindings(v),
  ];
}

function rangeFindings({ name, rangeErrors }: VariableEvidence): Finding[] {
  if (rangeErrors.length === 0) return [];
  const rows = rangeErrors.map((e) => e.row);
  const values = [...new Set(rangeErrors.map((e) => e.value))];
  const message = `${name} is ${values.slice(0, 4).join(", ")} in ${rowWords(rows)}, beyond its declared range. Such a value is a slip of the keyboard or a code for a missing answer.`;
  const why = `beyond the declared range of ${name}`;
  return [
    finding(`range ${name}`, "values", "look", message, {
      variables: [name],
      rows,
      remedies: [
        {
          kind: "missing_codes",
          words: `Count ${values.slice(0, 4).join(", ")} as missing`,
          variable: name,
          codes: values.map(String),
          why,
        },
        exclude(rows, `${name} beyond its range`, why),
      ],
    }),
  ];
}

function outlierFindings({ name, outliers, level }: VariableEvidence): Finding[] {
  const { rows, z, rule } = outliers;
  if (rows.length === 0 || level === "binary" || level === "ordinal") return [];
  const far = z.reduce((worst, value, i) => (Math.abs(value) > Math.abs(z[worst]!) ? i : worst), 0);
  const spread = rule === "mad" ? "robust standard deviations" : "scaled mean deviations";
  const message = `${name} is far from the rest in ${rowWords(rows)}; row ${rows[far]} is ${plain(Math.abs(z[far]!), 1)} ${spread} ${z[far]! > 0 ? "above" : "below"} the median. Least squares follows such rows: check them, and see whether a verdict changes without them.`;
  const why = `robust z beyond 3.5 on ${name}`;
  return [
    finding(`outliers ${name}`, "outliers", "look", message, {
      variables: [name],
      rows,
      remedies: [exclude(rows, `outliers of ${name}`, why)],
    }),
  ];
}

function missingFindings({ name, missing, missingShare, origin }: VariableEvidence): Finding[] {
  if (missingShare < MUCH_MISSING || origin === "measure") return [];
  const message = `${Math.round(100 * missingShare)} % of ${name} is missing (${missing} rows). Rows with a missing value on a variable of the theory are left out. That costs precision; coefficients are biased by it where being missing depends on the outcome even among cases alike in the predictors.`;
  return [finding(`missing ${name}`, "missing", "note", message, { variables: [name] })];
}

function shapeFindings({
  name,
  level,
  skewness,
  excessKurtosis,
  min,
}: VariableEvidence): Finding[] {
  if (skewness === null || excessKurtosis === null || level === "binary") return [];
  if (Math.abs(skewness) <= HIGH_SKEWNESS && Math.abs(excessKurtosis) <= HIGH_KURTOSIS) return [];
  const skewed = Math.abs(skewness) > HIGH_SKEWNESS;
  const message = `${name} is ${skewed ? `strongly skewed (${plain(skewness, 2)})` : `heavy in the tails (excess kurtosis ${plain(excessKurtosis, 2)})`}. Bootstrap intervals allow for that; a straight line may still fit badly at the far end.`;
  const remedies: Finding["remedies"] = [];
  if (skewness > HIGH_SKEWNESS && min !== null && min >= 0) {
    const add = min > 0 ? 0 : 1;
    remedies.push({
      kind: "derive",
      words: add === 0 ? "Make its logarithm" : "Add 1 and make its logarithm",
      name: `log_${name}`,
      recipe: { kind: "log", of: name, base: "e", add },
      why: `${name} is strongly skewed`,
    });
  }
  return [finding(`shape ${name}`, "shape", "note", message, { variables: [name], remedies })];
}

/** Beyond these a coefficient for one unit has more zeros than anybody reads. */
const WIDE_SD = 1000;
const NARROW_SD = 0.001;

/** A unit that makes coefficients tiny or huge, with the offer of another one. */
function unitFindings({ name, sd, level, origin }: VariableEvidence): Finding[] {
  if (sd === null || level !== "continuous" || origin === "measure") return [];
  if (sd < WIDE_SD && sd > NARROW_SD) return [];
  const power = Math.floor(log10(sd));
  const per = Number(`1e${power}`);
  const short = sd >= WIDE_SD ? "tiny" : "huge";
  const message = `${name} has an SD of ${plain(sd)}, so that a coefficient for one unit of it is ${short}. In units of ${per} it can be read; tests and standardised sizes stay the same.`;
  return [
    finding(`unit ${name}`, "shape", "note", message, {
      variables: [name],
      remedies: [
        {
          kind: "derive",
          words: `Make it in units of ${per}`,
          name: `${name}_per_${sd >= WIDE_SD ? per : `1e${power}`}`.replace(
            /[^\p{L}\p{N}_]/gu,
            "_",
          ),
          recipe: { kind: "rescale", of: name, per },
          why: `one unit of ${name} is too ${sd >= WIDE_SD ? "small" : "large"} to read coefficients`,
        },
      ],
    }),
  ];
}

function duplicates({ duplicates: { rows, identifiers } }: Found): Finding[] {
  const list: Finding[] = [];
  if (rows.length > 0) {
    const later = rows.flatMap((group) => group.slice(1)).sort((a, b) => a - b);
    const message = `${later.length === 1 ? "One row repeats" : `${later.length} rows repeat`} an earlier one in every cell (${rows.slice(0, 3).map(rowWords).join("; ")}${rows.length > 3 ? "; …" : ""}). Counting a person twice makes every result look surer than it is.`;
    list.push(
      finding("repeated rows", "duplicates", "look", message, {
        rows: later,
        remedies: [exclude(later, "repeated rows", "the same cells as an earlier row")],
      }),
    );
  }
  for (const variable of new Set(identifiers.map((i) => i.variable))) {
    const own = identifiers.filter((i) => i.variable === variable);
    const later = own.flatMap((i) => i.rows.slice(1)).sort((a, b) => a - b);
    const message = `${own.length === 1 ? `The identifier “${own[0]!.value}” stands` : `${own.length} identifiers of ${variable} stand`} in more than one row (${own
      .slice(0, 3)
      .map((i) => `“${i.value}”: ${rowWords(i.rows)}`)
      .join("; ")}${own.length > 3 ? "; …" : ""}). Is it the same person twice?`;
    const remedies = [
      exclude(later, `repeated ${variable}`, `an earlier row has the same ${variable}`),
    ];
    list.push(
      finding(`repeated ${variable}`, "duplicates", "look", message, {
        variables: [variable],
        rows: later,
        remedies,
      }),
    );
  }
  return list;
}

function aboutSet(set: SetEvidence): Finding[] {
  const list: Finding[] = [];
  const { flagged, df, n } = set.mahalanobis.value ?? { flagged: [], df: 0, n: 0 };
  if (flagged.length > 0) {
    const rows = flagged.map((r) => r.row);
    const message = `${capital(rowWords(rows))} ${rows.length === 1 ? "is" : "are"} an unusual combination on ${set.name} (Mahalanobis distance, p < .001; about ${Number((n / 1000).toFixed(1))} such rows are expected by chance when the ${df} variables are normal).`;
    list.push(
      finding(`distance ${set.name}`, "outliers", "look", message, {
        variables: set.variables,
        rows,
        remedies: [exclude(rows, `unusual on ${set.name}`, "Mahalanobis distance, p < .001")],
      }),
    );
  }
  const little = set.little.value;
  if (little?.p != null) {
    const random = little.p >= 0.05;
    const message = random
      ? `Little's test finds no departure from values missing completely at random in ${set.name} (chi-squared ${plain(little.d2, 2)}, df ${little.df}, ${pClause(little.p)}). A test that finds nothing is no proof, above all with few cases or few gaps: why values are missing has to be argued from how the data came about.`
      : `The gaps in ${set.name} are not completely random (Little's test: chi-squared ${plain(little.d2, 2)}, df ${little.df}, ${pClause(little.p)}). Leaving incomplete rows out may then shift the results: say who is missing.`;
    list.push(
      finding(`gaps ${set.name}`, "missing", random ? "note" : "look", message, {
        variables: set.variables,
      }),
    );
  }
  for (const { x, y, pearson } of set.correlations.pairwise.cells) {
    if (!pearson || Math.abs(pearson.r) <= NEARLY_THE_SAME) continue;
    const message = `${x} and ${y} correlate ${plain(pearson.r, 3)}: they are nearly the same variable, and an equation with both cannot tell them apart.`;
    list.push(finding(`same ${x} ${y}`, "relations", "look", message, { variables: [x, y] }));
  }
  if (set.pairwisePositiveDefinite === false) {
    const message = `The pairwise correlations of ${set.name} contradict one another (the matrix is not positive definite), because they come from different rows. Use the listwise table for anything that needs a matrix.`;
    list.push(
      finding(`matrix ${set.name}`, "relations", "note", message, { variables: set.variables }),
    );
  }
  const normal = set.mardia.value;
  if (normal && (normal.skewnessPSmallSample < 0.05 || normal.kurtosisP < 0.05)) {
    const message = `${capital(set.name)} are not jointly normal (Mardia: skewness ${pClause(normal.skewnessPSmallSample)}, kurtosis ${pClause(normal.kurtosisP)}). With ${normal.n} rows such a test ${normal.n > 300 ? "rejects trivial departures" : "may miss large ones"}; bootstrap intervals do not need it.`;
    list.push(
      finding(`normality ${set.name}`, "shape", "note", message, { variables: set.variables }),
    );
  }
  return list;
}

function aboutMeasure({ name, items, reliability, straightLining }: MeasureEvidence): Finding[] {
  const list: Finding[] = [];
  const against = reliability.value?.warnings.find((w) => w.code === "negative_item_total");
  if (against) {
    const remedies = against.about.map((item) => {
      const turned = items.find((i) => i.item === item)?.reversed ?? false;
      const why = `${item} runs against the other items of ${name}`;
      return {
        kind: "reverse" as const,
        words: turned ? `Take the reversal of ${item} back` : `Reverse ${item}`,
        measure: name,
        item,
        why,
      };
    });
    list.push(
      finding(`keyed ${name}`, "answers", "look", `${name}: ${against.message}`, {
        variables: against.about,
        remedies,
      }),
    );
  }
  const rows = straightLining.value?.flaggedRows ?? [];
  if (rows.length > 0 && items.length >= 3) {
    const message = `${capital(rowWords(rows))} ${rows.length === 1 ? "gives" : "give"} the same answer to every item of ${name}${items.some((i) => i.reversed) ? ", also to those worded the other way round" : ""}. That can be an opinion, or somebody who did not read.`;
    list.push(
      finding(`straight ${name}`, "answers", "note", message, {
        variables: items.map((i) => i.item),
        rows,
        remedies: [
          exclude(rows, `straight answers to ${name}`, `the same answer to every item of ${name}`),
        ],
      }),
    );
  }
  return list;
}
