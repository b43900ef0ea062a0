import { styled } from "@mui/material/styles";
import { percent, plain, type MeasureEvidence } from "../../../core";
import { Note } from "../ui/layout";

const WIDTH = 240;
/** Nunnally & Bernstein (1994); guidance, never a verdict. */
const USUAL = 0.7;

const List = styled("dl")({
  display: "grid",
  gridTemplateColumns: "116px minmax(0, 1fr)",
  gap: "2px 12px",
  margin: 0,
  fontSize: 14,
  "& dt": { color: "var(--quiet)" },
  "& dd": { margin: 0, display: "flex", alignItems: "center", gap: 10, flexWrap: "wrap" },
  "& dd strong": { minWidth: 44 },
});

/** Alpha with its interval on a scale from 0 to 1, omega, and what they rest on. */
export function ReliabilitySummary({
  evidence,
  level,
}: {
  evidence: MeasureEvidence;
  level: number;
}) {
  const { value, problem } = evidence.reliability;
  if (problem) {
    return <Note role="status">{problem.message}</Note>;
  }
  const {
    alpha,
    alphaCi,
    omega,
    meanInterItemCorrelation,
    n,
    k,
    spearmanBrown,
    alphaStandardised,
  } = value;
  const x = (v: number): number => Math.min(WIDTH, Math.max(0, v * WIDTH));
  return (
    <List>
      <dt>alpha</dt>
      <dd>
        <strong>{plain(alpha)}</strong>
        {alphaCi && (
          <>
            {" "}
            <svg
              width={WIDTH}
              height={18}
              role="img"
              aria-label={`${percent(level)} % CI ${plain(alphaCi[0])} to ${plain(alphaCi[1])}, on a scale from 0 to 1`}
            >
              <path stroke="var(--line)" d={`M0 9H${WIDTH}`} />
              <path stroke="var(--quiet)" strokeDasharray="2 2" d={`M${x(USUAL)} 2V16`} />
              <path
                stroke="var(--petrol)"
                strokeWidth={4}
                opacity={0.55}
                d={`M${x(alphaCi[0])} 9H${x(alphaCi[1])}`}
              />
              {alpha !== null && <circle cx={x(alpha)} cy={9} r={4} fill="var(--petrol)" />}
            </svg>{" "}
            <span className="quiet">
              {percent(level)} % CI {plain(alphaCi[0])} to {plain(alphaCi[1])}
            </span>
          </>
        )}
      </dd>
      <dt>omega</dt>
      <dd>
        {omega ? (
          <strong>{plain(omega.total)}</strong>
        ) : (
          <span className="quiet">needs three items</span>
        )}
        {omega?.test && (
          <span className="quiet">
            {" "}
            from one common factor (χ² {plain(omega.test.chiSquare, 1)}, df {omega.test.df})
          </span>
        )}
      </dd>
      {spearmanBrown !== null && (
        <>
          <dt>Spearman-Brown</dt>
          <dd>
            <strong>{plain(spearmanBrown)}</strong>
          </dd>
        </>
      )}
      <dt>rests on</dt>
      <dd className="quiet">
        {n} complete rows, {k} items, mean inter-item correlation{" "}
        {plain(meanInterItemCorrelation, 2)}, standardised alpha {plain(alphaStandardised)}
      </dd>
    </List>
  );
}
