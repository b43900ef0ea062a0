import Typography from "@mui/material/Typography";
import {
  coefficientWorking,
  percent,
  plain,
  pClause,
  type Evidence,
  type ResponseModelEvidence,
} from "../../../core";
import { limitsCell, pCell } from "../structure/cells";
import { NumberTable } from "../ui/number-table";

const FAMILY_WORDS = {
  linear: "straight line",
  logistic: "logistic model, log odds",
  probit: "probit model",
  poisson: "Poisson model, log counts",
  negative_binomial: "negative binomial model, log counts",
};

/** One response with its coefficients, odds or rate ratios, average effects and measures of fit. */
export function ModelTable({
  model,
  evidence,
}: {
  model: ResponseModelEvidence;
  evidence: Evidence;
}) {
  const { outcome, family, coefficients, marginal, fit, exposure, n } = model;
  const level = percent(evidence.settings.level);
  const robust = evidence.errors === "HC0";
  const counted = family === "poisson" || family === "negative_binomial";
  const ratios = family === "logistic" ? "odds ratio" : counted ? "rate ratio" : null;
  return (
    <div>
      <NumberTable
        title={`Model of ${outcome}`}
        heading={<Typography variant="h2">{outcome}</Typography>}
        columns={[
          "term",
          "b",
          robust ? "SE (robust)" : "SE",
          family === "linear" ? "t" : "z",
          "p",
          `${level} % CI`,
          ...(ratios ? [ratios, `${level} % CI`] : []),
          "average effect",
          "SE",
        ]}
        rows={coefficients.map((c) => {
          const own = marginal.find((m) => m.column === c.term);
          return {
            key: c.term,
            working: () => coefficientWorking(model, c.term, evidence)!,
            cells: [
              c.term.replaceAll(":", " × "),
              c.estimate,
              robust ? c.se.hc0 : c.se.classical,
              c.z,
              pCell(c.p),
              limitsCell(c.lower, c.upper),
              ...(ratios
                ? [
                    c.ratio?.estimate ?? null,
                    limitsCell(c.ratio?.lower ?? null, c.ratio?.upper ?? null),
                  ]
                : []),
              own?.estimate ?? null,
              own ? (robust ? own.robust.se : own.model.se) : null,
            ],
          };
        })}
        note={`${FAMILY_WORDS[family]}${exposure ? `, over the exposure ${exposure}` : ""}; ${n} rows${model.size === null ? "" : `, θ ${plain(model.size, 2)} (variance μ + μ²/θ)`}. Average effect: mean change of ${outcome} with the column, from 0 to 1 or per unit; its error holds the covariates of this sample fixed. ${fitSentence(fit)}`}
      />
    </div>
  );
}

function fitSentence(fit: ResponseModelEvidence["fit"]): string {
  const { likelihoodRatio: lr, tjur, nagelkerke, mcFadden, devianceR2, rSquared, aic, bic } = fit;
  const shares = [
    ["R²", rSquared],
    ["Tjur's R²", tjur],
    ["Nagelkerke's R²", nagelkerke],
    ["McFadden's R²", mcFadden],
    ["R² of the deviance", devianceR2],
  ] as const;
  const known = shares.flatMap(([name, value]) =>
    value === null ? [] : [`${name} ${plain(value)}`],
  );
  return `Against no predictors χ²(${lr.df}) = ${plain(lr.chi2, 2)}, ${pClause(lr.p)}; ${known.join(", ")}; AIC ${plain(aic, 1)}, BIC ${plain(bic, 1)}.`;
}
