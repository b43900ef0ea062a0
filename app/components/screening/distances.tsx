import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import { pClause, plain, pValue, type SetEvidence } from "../../../core";

/** Rows that are unusual in combination, and joint normality. */
export function Distances({ set }: { set: SetEvidence }) {
  const { mahalanobis, mardia } = set;
  return (
    <div className="distances">
      <div>
        <h3>Unusual combinations</h3>
        {mahalanobis.problem ? (
          <p className="quiet">{mahalanobis.problem.message}</p>
        ) : (
          <Table>
            <TableHead>
              <TableRow>
                <TableCell scope="col">row</TableCell>
                <TableCell scope="col">squared distance</TableCell>
                <TableCell scope="col">p</TableCell>
              </TableRow>
            </TableHead>
            <TableBody>
              {mahalanobis.value.top.map((r) => (
                <TableRow key={r.row}>
                  <TableCell>
                    {r.row}
                    {r.p < 0.001 && <span className="flag"> unusual</span>}
                  </TableCell>
                  <TableCell>{plain(r.d2, 2)}</TableCell>
                  <TableCell>{pValue(r.p)}</TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        )}
        {mahalanobis.value && (
          <p className="quiet">
            The five most distant of {mahalanobis.value.n} complete rows (Mahalanobis; χ² with{" "}
            {mahalanobis.value.df} degrees of freedom).
          </p>
        )}
      </div>
      <div>
        <h3>Joint normality</h3>
        {mardia.problem ? (
          <p className="quiet">{mardia.problem.message}</p>
        ) : (
          <p className="serif">
            Mardia&apos;s skewness {plain(mardia.value.skewness, 2)} (χ²{" "}
            {plain(mardia.value.skewnessChiSquareSmallSample, 1)}, df {mardia.value.skewnessDf},{" "}
            {pClause(mardia.value.skewnessPSmallSample)}), kurtosis{" "}
            {plain(mardia.value.kurtosis, 2)} (z {plain(mardia.value.kurtosisZ, 2)},{" "}
            {pClause(mardia.value.kurtosisP)}). With many rows such tests reject trivial departures,
            with few they miss large ones; bootstrap intervals do not assume normality.
          </p>
        )}
      </div>
    </div>
  );
}
