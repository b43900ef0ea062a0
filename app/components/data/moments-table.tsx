import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import { plain, sdsOf, type Moments } from "../../../core";
import { Screen } from "../ui/layout";

/** A covariance matrix in place of rows. */
export function MomentsTable({ moments, unit }: { moments: Moments; unit: string }) {
  const { names, n, means, covariance, standardised } = moments;
  const sds = sdsOf(moments);
  return (
    <Screen className="moments-screen">
      <p className="serif">
        This study knows its {unit} only by the means and covariances of {n} of them.
        {standardised &&
          " The correlations came without standard deviations, so every variable counts in standard deviations."}
      </p>
      <Table>
        <caption className="visually-hidden">Covariances</caption>
        <TableHead>
          <TableRow>
            <TableCell scope="col">covariance</TableCell>
            {names.map((name) => (
              <TableCell key={name} scope="col">
                {name}
              </TableCell>
            ))}
            <TableCell scope="col">mean</TableCell>
            <TableCell scope="col">SD</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {names.map((name, i) => (
            <TableRow key={name}>
              <TableCell>{name}</TableCell>
              {names.map((other, j) => (
                <TableCell key={other}>{j <= i ? plain(covariance[i]![j]!) : ""}</TableCell>
              ))}
              <TableCell>{plain(means[i]!)}</TableCell>
              <TableCell>{plain(sds[i]!)}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Screen>
  );
}
