import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { percent, plain, type OrderedEvidence, type StructureSection } from "../../../core";
import { Disclosure } from "../ui/disclosure";
import { NumberTable } from "../ui/number-table";

const AXIS = { width: 180, height: 26, edge: 3 };
const BAR = { width: 220, height: 18 };

/**
 * Answers as what they are: shares of levels, the thresholds between them on an axis of the tendency
 * behind, how alike tendencies are, how reliable the sum of answers is.
 */
export function OrderedView({ section }: { section: StructureSection }) {
  const { ordered } = section;
  if (!ordered) return null;
  const least = ordered.smallestEigenvalue;
  return (
    <Box sx={{ display: "grid", gap: 2, gridTemplateColumns: "minmax(0, 1fr)" }}>
      <NumberTable
        title="Ordered answers"
        heading={<Typography variant="h3">Ordered answers</Typography>}
        columns={["variable", "levels", "n", "share of answers, %", "thresholds", "SE", ""]}
        names={["variable", "levels", "n", "share of answers, %", "thresholds", "SE"]}
        words={[3, 4, 5]}
        rows={ordered.variables.map((v) => ({
          key: v.variable,
          cells: [
            v.variable,
            { shown: String(v.levels.length), value: v.levels.length },
            { shown: String(v.n), value: v.n },
            v.counts.map((count) => percent(Math.round((1000 * count) / v.n) / 1000)).join(" | "),
            v.thresholds.map((t) => plain(t.estimate, 2)).join(" | "),
            v.thresholds.map((t) => plain(t.se, 2)).join(" | "),
            { shown: <ThresholdAxis thresholds={v.thresholds} />, value: null },
          ],
        }))}
        note="Thresholds cut the tendency behind the answers, which has mean zero and standard deviation one, into the levels that are seen; the marks stand on an axis from −3 to 3."
      />
      {ordered.reliability.length > 0 && (
        <NumberTable
          title="Reliability of ordered answers"
          heading={<Typography variant="h3">Reliability of ordered answers</Typography>}
          columns={["latent variable", "omega of the answers", "omega of the tendencies", "alpha"]}
          rows={ordered.reliability.map((r) => ({
            key: r.factor,
            cells: [
              r.factor,
              r.omegaAnswers,
              r.omegaTendency,
              section.measurement[0]?.factors.find((f) => f.factor === r.factor)?.alpha ?? null,
            ],
          }))}
          note="Omega of the answers is that of their sum, which is what a scale score is made of (Green & Yang 2009); omega of the tendencies is what it would be if they were seen. Alpha is of the answers as numbers."
        />
      )}
      <Disclosure summary="Correlations behind the answers">
        <NumberTable
          title="Correlations behind the answers"
          columns={["variable", "with", "r", "n", "kind of correlation"]}
          words={[1, 4]}
          rows={ordered.pairs.map((p) => ({
            key: `${p.a} ${p.b}`,
            marked: p.emptyCell,
            cells: [
              p.a,
              p.b,
              p.r,
              { shown: String(p.n), value: p.n },
              `${KINDS[p.kind]}${p.emptyCell ? ", half a case added to an empty cell" : ""}`,
            ],
          }))}
          note={`Each pair by itself; ${least > 0 ? `together they are a matrix that variables can have (smallest eigenvalue ${plain(least, 3)})` : `together they are no matrix that variables can have (smallest eigenvalue ${plain(least, 3)})`}.`}
        />
      </Disclosure>
    </Box>
  );
}

const KINDS: Record<OrderedEvidence["pairs"][number]["kind"], string> = {
  polychoric: "polychoric",
  polyserial: "polyserial",
  covariance: "of numbers",
};

/** The thresholds of an item as marks on its own little axis. */
function ThresholdAxis({
  thresholds,
}: {
  thresholds: OrderedEvidence["variables"][number]["thresholds"];
}) {
  const { width, height, edge } = AXIS;
  const x = (tau: number): number =>
    Math.max(edge, Math.min(width - edge, width / 2 + (tau / 6) * (width - 2 * edge)));
  const words = thresholds.map((t) => plain(t.estimate, 2)).join(", ");
  return (
    <svg width={width} height={height} role="img" aria-label={`Thresholds at ${words}`}>
      <path d={`M0 ${height - 8}H${width}`} stroke="var(--quiet)" />
      <path d={`M${width / 2} ${height - 8}v4`} stroke="var(--quiet)" />
      {thresholds.map((t, c) => (
        <path
          key={c}
          d={`M${x(t.estimate)} 4V${height - 8}`}
          stroke="var(--petrol)"
          strokeWidth={2}
        />
      ))}
    </svg>
  );
}

/** Shares of the levels of an observed outcome at low, middle and high values of a predictor. */
export function PredictedShares({ section }: { section: StructureSection }) {
  const predicted = section.ordered?.predicted ?? [];
  if (predicted.length === 0) return null;
  return (
    <Disclosure summary="What that means for the answers: predicted shares of the levels">
      {predicted.map(({ outcome, predictor, levels, at }) => (
        <NumberTable
          key={`${outcome} ${predictor}`}
          title={`Predicted answers to ${outcome} by ${predictor}`}
          heading={
            <Typography variant="h3">
              {outcome} by {predictor}
            </Typography>
          }
          columns={[
            predictor,
            ...levels.map((level) => `% at ${level}`),
            `${percent(section.method.level)} % CI of the highest`,
            "",
          ]}
          names={[
            predictor,
            ...levels.map((level) => `share at ${level}`),
            "limits of the highest",
          ]}
          rows={at.map(({ sds, shares, topLower, topUpper }) => ({
            key: String(sds),
            cells: [
              PLACES[sds] ?? `${sds} SD`,
              ...shares.map((share) => ({ shown: plain(100 * share, 1), value: share })),
              topLower === null || topUpper === null
                ? null
                : {
                    shown: `${plain(100 * topLower, 1)} to ${plain(100 * topUpper, 1)}`,
                    value: `${topLower} ${topUpper}`,
                  },
              { shown: <ShareBar shares={shares} levels={levels} />, value: null },
            ],
          }))}
          note={`By the total effect of ${predictor}; the tendency is normal about it. Limits by the delta method.`}
        />
      ))}
    </Disclosure>
  );
}

const PLACES: Record<number, string> = {
  [-1]: "one SD below the mean",
  0: "at the mean",
  1: "one SD above the mean",
};

/** Levels side by side, the highest the darkest. */
function ShareBar({ shares, levels }: { shares: readonly number[]; levels: readonly number[] }) {
  const { width, height } = BAR;
  const starts = shares.map((_, c) => shares.slice(0, c).reduce((sum, s) => sum + s, 0));
  const words = shares.map((s, c) => `${levels[c]!}: ${plain(100 * s, 0)} %`).join(", ");
  return (
    <svg width={width} height={height} role="img" aria-label={words}>
      {shares.map((share, c) => (
        <rect
          key={c}
          x={starts[c]! * width}
          y={1}
          width={Math.max(0, share * width - 1)}
          height={height - 2}
          fill="var(--petrol)"
          fillOpacity={0.15 + (0.75 * c) / Math.max(1, shares.length - 1)}
        />
      ))}
    </svg>
  );
}
