import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { BELONGS, CROSSES, plain, pValue, withoutZero, type Exploration } from "../../../core";
import { ItemWords } from "./item-words";
import { NumberTable } from "../ui/number-table";

/** Loadings sorted by factor, with what crosses and what belongs nowhere. */
export function LoadingsTable({
  found,
  names,
  wordings,
}: {
  found: Exploration;
  names: readonly string[];
  wordings: ReadonlyMap<string, string>;
}) {
  const { rows, explained } = found.solution;
  const total = explained.reduce((sum, x) => sum + x, 0);
  const shown = (value: number, own: boolean, crosses: boolean) => ({
    shown: (
      <Box
        component="span"
        sx={{
          fontWeight: own ? 650 : 400,
          color: own ? "inherit" : crosses ? "var(--rust)" : "var(--quiet)",
        }}
      >
        {withoutZero(value)}
        {crosses && <span title="also loads here"> ◆</span>}
      </Box>
    ),
    value,
  });
  return (
    <NumberTable
      title="Loadings of the items"
      heading={<Typography variant="h3">Loadings</Typography>}
      columns={["Item", ...names, "Communality"]}
      rows={[
        ...rows.map((row) => ({
          key: row.item,
          quiet: row.factor === null,
          cells: [
            {
              shown: <ItemWords item={row.item} wording={wordings.get(row.item)} />,
              value: row.item,
            },
            ...row.loadings.map((value, t) =>
              shown(value, row.factor === t, row.crosses.includes(t)),
            ),
            { shown: withoutZero(row.communality), value: row.communality },
          ],
        })),
        {
          key: " explained",
          quiet: true,
          cells: [
            "Share of all variance",
            ...explained.map((value) => ({ shown: withoutZero(value), value })),
            { shown: withoutZero(total), value: total },
          ],
        },
      ]}
      note={
        <>
          Bold: where an item belongs (its largest loading, {withoutZero(BELONGS)} and more). ◆: it
          also loads {withoutZero(CROSSES)} and more elsewhere. Pale rows belong nowhere.
        </>
      }
    />
  );
}

/** Correlations of the factors, below the diagonal. */
export function FactorCorrelations({
  found,
  names,
}: {
  found: Exploration;
  names: readonly string[];
}) {
  const { correlations } = found.solution;
  return (
    <NumberTable
      title="Correlations of the factors"
      heading={<Typography variant="h3">How the factors correlate</Typography>}
      columns={["Factor", ...names.slice(0, -1)]}
      rows={correlations.slice(1).map((row, i) => ({
        key: names[i + 1]!,
        cells: [
          names[i + 1]!,
          ...row
            .slice(0, -1)
            .map((value, j) =>
              j <= i ? { shown: withoutZero(value), value } : { shown: "", value: null },
            ),
        ],
      }))}
    />
  );
}

/** One factor beside two and so on: the fit of each number. */
export function FactorFits({ found }: { found: Exploration }) {
  const cell = (value: number | null, digits: number) =>
    value === null ? null : { shown: plain(value, digits), value };
  return (
    <NumberTable
      title="Fit by number of factors"
      heading={<Typography variant="h3">Fit by number of factors</Typography>}
      columns={["Factors", "χ²", "df", "p", "RMSEA", "Residuals", "BIC"]}
      rows={found.fits.map(({ test, rmsea, rmsr, bic }, m) => ({
        key: String(m + 1),
        selected: m + 1 === found.factors,
        cells: [
          String(m + 1),
          cell(test?.chiSquare ?? null, 2),
          test ? { shown: String(test.df), value: test.df } : null,
          test ? { shown: pValue(test.p), value: test.p } : null,
          cell(rmsea, 3),
          cell(rmsr, 3),
          cell(bic, 1),
        ],
      }))}
      note={
        <>
          The χ² test says whether so many factors are enough; residuals are the root mean square of
          what the correlations have beyond the factors; a lower BIC is better. Of polychoric
          correlations there are residuals alone: the tests would take them for those of numbers.
        </>
      }
    />
  );
}
