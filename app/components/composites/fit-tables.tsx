import {
  exactFitWorking,
  thousands,
  type CompositeFitEvidence,
  type CompositeSection,
  type ExactFitEvidence,
} from "../../../core";
import { pCell } from "../structure/cells";
import { NumberTable } from "../ui/number-table";

const NAMES = {
  srmr: "SRMR",
  dUls: "squared discrepancy (d_ULS)",
  dG: "geodesic discrepancy (d_G)",
};
const MODELS = { saturated: "all constructs correlate", estimated: "paths of the theory" };

/**
 * How far implied correlations are from observed ones: with all constructs correlated, and with the
 * paths of the theory.
 */
export function DiscrepancyTable({ section }: { section: CompositeSection }) {
  const rows = section.groups.flatMap(({ group, result }) => {
    const fit: CompositeFitEvidence | null = result.consistent?.fit ?? result.fit;
    if (!fit) return [];
    return (["saturated", "estimated"] as const).flatMap((model) => {
      const own = fit[model];
      return own
        ? [
            {
              key: `${group} ${model}`,
              cells: [
                MODELS[model],
                ...(section.groups.length > 1 ? [group] : []),
                own.srmr,
                own.dUls,
                own.dG,
              ],
            },
          ]
        : [];
    });
  });
  if (rows.length === 0)
    return <p className="quiet">With products of items there is no measure of fit.</p>;
  return (
    <NumberTable
      title="Misfit"
      columns={[
        "model",
        ...(section.groups.length > 1 ? ["group"] : []),
        NAMES.srmr,
        NAMES.dUls,
        NAMES.dG,
      ]}
      words={section.groups.length > 1 ? [1] : []}
      rows={rows}
      note="All three are zero where the model implies exactly what was observed. How large they would be by chance is told by resamples of exact fit, in the analysis settings."
    />
  );
}

/**
 * How large misfit would be by chance.
 * @param where of which group, as the title ends
 */
export function ExactFitTable({ study, where }: { study: ExactFitEvidence; where: string }) {
  return (
    <NumberTable
      title={`Exact fit${where}`}
      columns={["model", "measure", "observed", "95 % of resamples below", "99 % below", "p"]}
      words={[1]}
      rows={study.measures.map((found) => {
        const { model, measure, value, upper95, upper99, p } = found;
        return {
          key: `${model} ${measure}`,
          working: () => exactFitWorking(study, found),
          marked: value > upper95,
          cells: [MODELS[model], NAMES[measure], value, upper95, upper99, pCell(p)],
        };
      })}
      note={`${thousands(study.replicates - study.failed)} resamples of data that have been made to fit (Beran & Srivastava 1985)${study.failed > 0 ? `, ${study.failed} failed` : ""}; p: share of them with at least this misfit.`}
    />
  );
}
