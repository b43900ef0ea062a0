import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import {
  compositePathsWorking,
  plain,
  studiesOf,
  type CompositeSection,
  type Evidence,
} from "../../../core";
import { limitsCell, pCell } from "../structure/cells";
import { Words } from "../structure/structure-view";
import { Disclosure } from "../ui/disclosure";
import { NumberTable, type Cell, type TableRowSpec } from "../ui/number-table";
import { WorkingView } from "../ui/working-view";
import { ComparisonTables } from "./comparison-tables";
import { DiscrepancyTable, ExactFitTable } from "./fit-tables";
import { PredictionTable } from "./prediction-table";

/**
 * A composite model on the Evidence screen: method and fit in sentences, paths with their sizes,
 * then groups and prediction.
 */
export function CompositeView({
  section,
  evidence,
}: {
  section: CompositeSection;
  evidence: Evidence;
}) {
  const { method, fitWords, comparisons } = section;
  const studies = studiesOf(section);
  return (
    <Box sx={{ display: "grid", gap: 3, mt: 4, gridTemplateColumns: "minmax(0, 1fr)" }}>
      <div>
        <Typography variant="h2" id="structural-paths">
          Structural paths
        </Typography>
        <Words words={[method.words]} />
        <PathTable section={section} evidence={evidence} />
        {section.groups.map((group) => (
          <WorkingView
            key={group.group}
            working={compositePathsWorking(group)}
            summary={`Show the working of f² and SRMR${section.groups.length > 1 ? `, ${group.group}` : ""}`}
          />
        ))}
      </div>
      <section aria-labelledby="fit">
        <Typography variant="h2" id="fit">
          Fit
        </Typography>
        <Words words={fitWords} />
        <Disclosure summary="All measures of misfit">
          <DiscrepancyTable section={section} />
        </Disclosure>
        {studies.map(
          ({ group, exactFit }) =>
            exactFit && (
              <ExactFitTable key={group} study={exactFit} where={group && `, ${group}`} />
            ),
        )}
        <p className="quiet">
          Weights, loadings and reliability stand on <Link to="../checks">Checks</Link>.
        </p>
      </section>
      {comparisons.map((comparison) => (
        <ComparisonTables
          key={`${comparison.first} ${comparison.second}`}
          comparison={comparison}
        />
      ))}
      {studies.map(
        ({ group, prediction }) =>
          prediction && (
            <PredictionTable
              key={group}
              prediction={prediction}
              unit={evidence.unit}
              where={group && `, ${group}`}
            />
          ),
      )}
    </Box>
  );
}

const isStep = (cell: Cell): boolean =>
  typeof cell === "object" && String(cell?.shown).endsWith("†");

/** Every path with its interval, f², VIF, and the R² of what it leads to. */
function PathTable({ section, evidence }: { section: CompositeSection; evidence: Evidence }) {
  const several = section.groups.length > 1;
  const rows = section.groups.flatMap(({ group, paths, result }) =>
    paths.map((path, i): TableRowSpec => {
      const { from, to, estimate, reported, f2, vif, product, partOfProduct } = path;
      const inSteps = reported !== null && Math.abs(reported.estimate - estimate) > 1e-9;
      const first = paths.findIndex((p) => p.to === to) === i;
      const structure = result.stageTwo ?? result.consistent ?? result;
      return {
        key: `${group} ${from} ${to}`,
        cells: [
          to,
          product ? from.replace(" x ", " × ") : from,
          ...(several ? [group] : []),
          inSteps ? { shown: `${plain(reported.estimate)} †`, value: reported.estimate } : estimate,
          reported?.se ?? null,
          limitsCell(reported?.lower ?? null, reported?.upper ?? null),
          pCell(reported?.p ?? null, reported?.pIsBound),
          f2 === null
            ? null
            : { shown: `${f2.toFixed(3)}${partOfProduct && !product ? " *" : ""}`, value: f2 },
          vif,
          first ? (structure.r2[to] ?? null) : null,
          first ? (structure.r2Adjusted[to] ?? null) : null,
        ],
      };
    }),
  );
  const marked = section.groups.some((g) => g.paths.some((p) => p.partOfProduct && !p.product));
  const steps = rows.some((row) => row.cells.some(isStep));
  const level = Math.round(evidence.settings.level * 100);
  return (
    <NumberTable
      title="Structural paths"
      columns={[
        "outcome",
        "explained by",
        ...(several ? ["group"] : []),
        "path",
        "SE",
        `${level} % CI`,
        "p",
        "f²",
        "VIF",
        "R²",
        "adjusted R²",
      ]}
      words={several ? [1, 2] : [1]}
      rows={rows}
      note={`Paths are in SDs of scores${steps ? "; †: from one value to the other of what has only two" : ""}. f² of .02, .15 and .35: small, medium, large (Cohen 1988)${marked ? "; of a product .005, .01 and .025 (Kenny 2018). * Of a main effect that is part of a product f² depends on where zero lies" : ""}. VIF from 3.3 or 5 on: predictors overlap.`}
    />
  );
}
