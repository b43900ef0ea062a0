import {
  intervalName,
  pClause,
  percent,
  plain,
  pValue,
  thousands,
  type DataEvidence,
  type Evidence,
} from "../core";

const VERDICTS = {
  supported: "supported",
  not_supported: "not supported",
  opposite: "opposite",
  unsettled: "unsettled",
  undirected: "needs a comparison",
  not_testable: "cannot be tested",
  pending: "pending",
};

/** Evidence as a readable table for a terminal. */
export function readable(evidence: Evidence): string {
  const { sample, roles, bootstrap } = evidence;
  const lines = [
    evidence.title,
    "=".repeat(evidence.title.length),
    `${sample.n} of ${sample.rowsRead} ${evidence.unit} used`,
    `predictors: ${roles.predictors.join(", ")}; mediators: ${roles.mediators.join(", ") || "none"}; outcomes: ${roles.outcomes.join(", ")}; covariates: ${roles.covariates.join(", ") || "none"}`,
    bootstrap
      ? `${thousands(bootstrap.done)} resamples of ${bootstrap.resampling}, ${bootstrap.failed} failed, seed ${bootstrap.seed}`
      : "no resamples",
    ...evidence.warnings.map((w) => `! ${w.message}`),
    "",
    ...evidence.hypotheses.flatMap((h) => [
      `${h.label}  ${h.sentence}`,
      `    ${VERDICTS[h.verdict]}. ${h.reason}`,
      ...h.cautions.map(({ message }) => `    ! ${message}`),
      ...(h.adjusted ? [`    corrected (Holm): ${pClause(h.adjusted.p, h.adjusted.isBound)}`] : []),
    ]),
    ...(evidence.several ? [evidence.several.words] : []),
    "",
  ];
  const level = percent(evidence.settings.level);
  const rows = evidence.effects.map(({ kind, label, estimate, shown, withheld }) => [
    `${kind.replaceAll("_", " ")}: ${label}`,
    shown ? plain(estimate) : "–",
    plain(shown?.se),
    plain(shown?.lower),
    plain(shown?.upper),
    shown ? pValue(shown.p, shown.pIsBound) : "–",
    shown ? intervalName(shown) : `not reported: ${withheld}`,
  ]);
  return [
    ...lines,
    ...columns([
      ["effect", "estimate", "SE", `${level} % lower`, `${level} % upper`, "p", "interval"],
      ...rows,
    ]),
  ].join("\n");
}

/** What the data say, as a readable table for a terminal. */
export function readableData(data: DataEvidence): string {
  const rows = Object.values(data.descriptives).map((v) => [
    v.name,
    String(v.n),
    plain(v.mean),
    plain(v.sd),
    plain(v.min, 2),
    plain(v.max, 2),
    "",
  ]);
  const measures = data.measures.map(({ name, reliability: { value, problem } }) =>
    value
      ? `${name}: alpha ${plain(value.alpha)}, omega ${plain(value.omega?.total)}, ${value.k} items, n ${value.n}`
      : `${name}: ${problem!.message}`,
  );
  const findings = data.findings.map((f) => `${f.weight === "look" ? "!" : "-"} ${f.message}`);
  return [
    ...columns([["variable", "n", "mean", "SD", "min", "max", ""], ...rows]),
    "",
    ...measures,
    "",
    ...findings,
  ].join("\n");
}

function columns(rows: string[][]): string[] {
  const widths = rows[0]!.map((_, j) => Math.max(...rows.map((row) => row[j]!.length)));
  return rows.map((row) =>
    row
      .map((text, j) => (j === 0 || j === 6 ? text.padEnd(widths[j]!) : text.padStart(widths[j]!)))
      .join("  ")
      .trimEnd(),
  );
}
