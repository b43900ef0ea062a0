import Typography from "@mui/material/Typography";
import {
  arrowEnd,
  arrowWorking,
  differenceWorking,
  invarianceWorking,
  percent,
  plain,
  type ArrowEvidence,
  type FitEvidence,
  type ScaledFitEvidence,
  type ShiftedFitEvidence,
  type StructureSection,
} from "../../../core";
import { limitsCell, pCell, whole } from "./cells";
import { NumberTable, type Cell, type TableRowSpec } from "../ui/number-table";

/** Estimate, error, z, p, limits and what it is in SDs. */
const columnsAt = (level: number): string[] => [
  "estimate",
  "SE",
  "z",
  "p",
  `${percent(level)} % CI`,
  "standardised",
];

function cells(arrow: ArrowEvidence, errors: string): Cell[] {
  const { estimate, se, z, p, lower, upper, full, free } = arrow;
  return [
    estimate,
    free ? (se[errors] ?? null) : { shown: "held", value: null },
    z,
    pCell(p),
    limitsCell(lower, upper),
    full.estimate,
  ];
}

interface ArrowTableProps {
  section: StructureSection;
  of: ArrowEvidence["role"];
  title: string;
  /** Heads of what the arrow leads from and to. */
  heads: [string, string];
  note?: string;
}

/** Arrows of one role, group by group. */
export function ArrowTable({ section, of: role, title, heads, note }: ArrowTableProps) {
  const several = section.groups.length > 1;
  const rows = section.arrows
    .filter((a) => a.role === role)
    .map((arrow): TableRowSpec => {
      const r2 = section.r2.find((r) => r.variable === arrow.to && r.group === arrow.group);
      const ends =
        role === "variance" || role === "intercept" ? [] : [arrowEnd(arrow.from, section)];
      return {
        key: `${arrow.group} ${arrow.arrow}`,
        quiet: !arrow.free,
        working: () => arrowWorking(arrow, section),
        cells: [
          arrow.to,
          ...ends,
          ...(several ? [arrow.group] : []),
          ...cells(arrow, section.method.errors),
          ...(role === "path" || role === "loading" ? [r2?.value ?? null] : []),
        ],
      };
    });
  if (rows.length === 0) return null;
  const ends = role === "variance" || role === "intercept" ? [heads[0]] : heads;
  return (
    <div>
      <NumberTable
        title={title}
        heading={<Typography variant="h2">{title}</Typography>}
        columns={[
          ...ends,
          ...(several ? ["group"] : []),
          ...columnsAt(section.method.level),
          ...(role === "path" || role === "loading" ? ["R²"] : []),
        ]}
        words={[...(ends.length > 1 ? [1] : []), ...(several ? [ends.length] : [])]}
        rows={rows}
        note={note}
      />
    </div>
  );
}

type Column = [
  name: string,
  fit: FitEvidence["plain"] | ScaledFitEvidence | ShiftedFitEvidence | null,
];

/** Every index of fit, plain and scaled side by side. */
export function FitTable({ section }: { section: StructureSection }) {
  const { fit, information } = section;
  if (!fit) return null;
  const columns: Column[] = [
    ["unscaled", fit.plain],
    ...(fit.satorraBentler
      ? [["scaled (Satorra-Bentler)", fit.satorraBentler] satisfies Column]
      : []),
    ...(fit.yuanBentler ? [["scaled (Yuan-Bentler)", fit.yuanBentler] satisfies Column] : []),
    ...(fit.shifted ? [["scaled and shifted", fit.shifted] satisfies Column] : []),
    ...(fit.scaled
      ? [[fit.shifted ? "mean-adjusted" : "scaled", fit.scaled] satisfies Column]
      : []),
  ];
  const row = (
    name: string,
    of: (each: NonNullable<Column[1]>, plainOne: boolean) => Cell,
  ): TableRowSpec => ({
    key: name,
    cells: [name, ...columns.map(([, each], j) => (each ? of(each, j === 0) : null))],
  });
  const hidden = (value: number | null, plainOne: boolean): number | null =>
    plainOne && !fit.chiSquared ? null : value;
  const robust = (each: NonNullable<Column[1]>): ScaledFitEvidence["robust"] | null =>
    "robust" in each ? each.robust : null;
  const one = (name: string, value: number | null): TableRowSpec => ({
    key: name,
    cells: [name, value, ...columns.slice(1).map(() => null)],
  });
  return (
    <NumberTable
      title="Fit of the model"
      columns={["", ...columns.map(([name]) => name)]}
      rows={[
        row("χ²", (f) => f.chi2),
        row("degrees of freedom", (f) => whole(f.df)),
        row("p, exact fit", (f, own) => pCell(hidden(f.p, own))),
        row("scaling factor", (f) => ("scaling" in f ? f.scaling : "scale" in f ? f.scale : null)),
        ...(fit.shifted ? [row("shift", (f) => ("shift" in f ? f.shift : null))] : []),
        row("CFI", (f, own) => hidden(f.cfi, own)),
        row("TLI", (f, own) => hidden(f.tli, own)),
        row("RMSEA", (f, own) => hidden(f.rmsea, own)),
        row("RMSEA, 90 % CI", (f, own) =>
          own && !fit.chiSquared
            ? null
            : {
                shown: `${plain(f.rmseaLimits[0], 3)} to ${plain(f.rmseaLimits[1], 3)}`,
                value: f.rmseaLimits.join(" "),
              },
        ),
        row("p, close fit (RMSEA ≤ .05)", (f, own) => pCell(hidden(f.closeFit, own))),
        row("robust CFI", (f) => robust(f)?.cfi ?? null),
        row("robust TLI", (f) => robust(f)?.tli ?? null),
        row("robust RMSEA", (f) => robust(f)?.rmsea ?? null),
        one("SRMR", fit.srmr),
        one("SRMR, covariances alone", fit.srmrCovariances),
        ...(information
          ? [
              one("log-likelihood", information.logLikelihood),
              one("AIC", information.aic),
              one("BIC", information.bic),
              one("sample-size adjusted BIC", information.sabic),
            ]
          : []),
      ]}
      note={`${momentsWords(section)}; the baseline model has all observed variables uncorrelated (χ² ${plain(fit.plain.baseline.chi2, 2)}, ${fit.plain.baseline.df} degrees of freedom).`}
    />
  );
}

/** What a model was fitted to, and how many parameters it has. */
const momentsWords = ({ counts, ordered }: StructureSection): string =>
  ordered
    ? `${ordered.statistics} thresholds, correlations and moments, ${ordered.parameters} free parameters, thresholds among both; the scaled and shifted statistic is the factor times χ² plus the shift`
    : `${counts.moments} means, variances and covariances, ${counts.parameters} free parameters`;

/** What groups have in common, step by step, and whether moderated paths differ. */
export function GroupTables({ section }: { section: StructureSection }) {
  const { invariance, differences } = section;
  if (invariance.length === 0 && differences.length === 0) return null;
  return (
    <>
      {invariance.length > 0 && (
        <div>
          <NumberTable
            title="Invariance of measurement"
            heading={<Typography variant="h2">Invariance of measurement</Typography>}
            columns={[
              "step",
              "what is equal",
              "χ²",
              "df",
              "CFI",
              "RMSEA",
              "Δχ²",
              "Δdf",
              "p",
              "scaled Δχ²",
              "p of it",
            ]}
            words={[1]}
            rows={invariance.map(({ step, words, fit, difference, problem }, at) => ({
              key: step,
              ...(fit && { working: () => invarianceWorking(section, at)! }),
              cells: problem
                ? [step, { shown: problem, value: problem, span: 10 }]
                : [
                    step,
                    words,
                    fit?.plain.chi2 ?? null,
                    whole(fit?.plain.df ?? null),
                    fit?.plain.cfi ?? null,
                    fit?.plain.rmsea ?? null,
                    difference?.chi2 ?? null,
                    whole(difference?.df ?? null),
                    pCell(difference?.p ?? null),
                    difference?.scaled?.chi2 ?? null,
                    pCell(difference?.scaled?.p ?? null),
                  ],
            }))}
            note="Each step against the one before (chi-squared difference; scaled after Satorra & Bentler 2001). Unstandardised paths are comparable where loadings are equal, means of latent variables where intercepts are, too."
          />
        </div>
      )}
      {differences.length > 0 && (
        <div>
          <NumberTable
            title="Paths that differ between groups"
            heading={<Typography variant="h2">Paths that differ between groups</Typography>}
            columns={[
              "held equal",
              "for",
              "Δχ²",
              "df",
              "p",
              "scaled Δχ²",
              "p of it",
              "Wald χ²",
              "p of Wald",
            ]}
            words={[1]}
            rows={differences.map((d) => ({
              key: d.what,
              working: () =>
                differenceWorking(d.what, d, { tight: null, loose: null }, section.counts.n),
              cells: [
                d.what,
                d.hypothesis,
                d.chi2,
                whole(d.df),
                pCell(d.p),
                d.scaled?.chi2 ?? null,
                pCell(d.scaled?.p ?? null),
                d.wald?.wald ?? null,
                pCell(d.wald?.p ?? null),
              ],
            }))}
          />
        </div>
      )}
    </>
  );
}

/** What each line that holds arrows costs. */
export function ConstraintTable({ section }: { section: StructureSection }) {
  const { constraints } = section;
  if (constraints.length === 0) return null;
  return (
    <NumberTable
      title="What is held, tested"
      heading={<Typography variant="h2">What is held, tested</Typography>}
      columns={["line", "Δχ²", "df", "p", "scaled Δχ²", "p of it"]}
      rows={constraints.map((d) => ({
        key: d.what,
        working: () => differenceWorking(d.what, d, { tight: null, loose: null }, section.counts.n),
        cells: [
          d.what,
          d.chi2,
          whole(d.df),
          pCell(d.p),
          d.scaled?.chi2 ?? null,
          pCell(d.scaled?.p ?? null),
        ],
      }))}
      note="The model against the one without that line, all other lines kept. A small p: the data speak against it."
    />
  );
}
