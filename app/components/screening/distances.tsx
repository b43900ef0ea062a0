import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import {
  distanceWorking,
  mardiaWorking,
  pClause,
  plain,
  pValue,
  type SetEvidence,
} from "../../../core";
import { WorkingView } from "../ui/working-view";
import { NumberTable } from "../ui/number-table";

/** Rows that are unusual in combination, and joint normality. */
export function Distances({ set }: { set: SetEvidence }) {
  const { mahalanobis, mardia } = set;
  const heading = <Typography variant="h3">Unusual combinations of values</Typography>;
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(0, 1fr) minmax(0, 1fr)" },
        gap: { xs: 2, md: 4.5 },
      }}
    >
      <div>
        {mahalanobis.problem ? (
          <>
            {heading}
            <p className="quiet">{mahalanobis.problem.message}</p>
          </>
        ) : (
          <NumberTable
            title="Mahalanobis distances"
            heading={heading}
            columns={["row", "squared distance", "p"]}
            rows={mahalanobis.value.top.map((r) => ({
              key: String(r.row),
              marked: r.p < 0.001,
              working: () => distanceWorking(mahalanobis.value, r.row)!,
              cells: [
                String(r.row),
                { shown: plain(r.d2, 2), value: r.d2 },
                { shown: pValue(r.p), value: r.p },
              ],
            }))}
            note={`The five most distant of ${mahalanobis.value.n} complete rows (Mahalanobis; χ² with ${mahalanobis.value.df} degrees of freedom); marked: p below .001.`}
          />
        )}
      </div>
      <div>
        <Typography variant="h3" sx={{ mb: 0.75 }}>
          Multivariate normality
        </Typography>
        {mardia.problem ? (
          <p className="quiet">{mardia.problem.message}</p>
        ) : (
          <>
            <p className="serif">
              Mardia&apos;s skewness {plain(mardia.value.skewness, 2)} (χ²{" "}
              {plain(mardia.value.skewnessChiSquareSmallSample, 1)}, df {mardia.value.skewnessDf},{" "}
              {pClause(mardia.value.skewnessPSmallSample)}), kurtosis{" "}
              {plain(mardia.value.kurtosis, 2)} (z {plain(mardia.value.kurtosisZ, 2)},{" "}
              {pClause(mardia.value.kurtosisP)}). With many rows such tests reject trivial
              departures, with few they miss large ones; bootstrap intervals do not assume
              normality.
            </p>
            <WorkingView working={mardiaWorking(mardia.value)} />
          </>
        )}
      </div>
    </Box>
  );
}
