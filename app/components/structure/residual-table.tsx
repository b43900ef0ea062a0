import Box from "@mui/material/Box";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import type { StructureSection } from "../../../core";

const LARGE = 0.1;

/**
 * Correlations as observed less as implied: the larger, the darker; beyond .10 in the ink of what
 * deserves a look.
 */
export function ResidualTable({ section }: { section: StructureSection }) {
  return (
    <>
      {section.residuals.map(({ group, variables, correlation }) => (
        <Box
          key={group}
          role="region"
          tabIndex={0}
          aria-label={`Residual correlations${section.groups.length > 1 ? `, ${group}` : ""}`}
          sx={{ overflowX: "auto" }}
        >
          <Table sx={{ width: "auto", "& td, & th": { px: 0.75, py: 0.25, fontSize: 13 } }}>
            <TableHead>
              <TableRow>
                <TableCell component="td" />
                {variables.slice(0, -1).map((name) => (
                  <TableCell key={name} scope="col">
                    {name}
                  </TableCell>
                ))}
              </TableRow>
            </TableHead>
            <TableBody>
              {variables.slice(1).map((name, i) => (
                <TableRow key={name}>
                  <TableCell component="th" scope="row" sx={{ textAlign: "left" }}>
                    {name}
                  </TableCell>
                  {variables.slice(0, -1).map((other, j) => {
                    const r = correlation[i + 1]![j]!;
                    const large = Math.abs(r) >= LARGE;
                    return (
                      <TableCell
                        key={other}
                        sx={
                          large
                            ? { color: "var(--rust)", fontWeight: 600, bgcolor: "var(--rust-wash)" }
                            : { color: "var(--quiet)" }
                        }
                      >
                        {j > i ? "" : r.toFixed(2).replace("-", "−")}
                      </TableCell>
                    );
                  })}
                </TableRow>
              ))}
            </TableBody>
          </Table>
        </Box>
      ))}
      <p className="quiet">Correlation observed less correlation implied; beyond .10 marked.</p>
    </>
  );
}
