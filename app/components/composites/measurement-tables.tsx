import Typography from "@mui/material/Typography";
import {
  hangsTogether,
  percent,
  type CompositeSection,
  type ResampledEvidence,
} from "../../../core";
import { limitsCell } from "../structure/cells";
import { AVE, GUIDANCE, HTMT, REDUNDANT, RELIABLE } from "../structure/guidance";
import { LeaveOut, type LeaveOutItem } from "../structure/leave-out";
import { NumberTable, type Cell } from "../ui/number-table";
import { COLLINEAR, LOADING } from "./shortcomings";

interface TableProps {
  group: CompositeSection["groups"][number];
  /** Behind headings: which group. */
  where: string;
}

/** Reliability and convergence of each construct. */
export function ConstructTable({ group: { constructs }, where }: TableProps) {
  return (
    <NumberTable
      title={`Measures${where}`}
      heading={<Typography variant="h3">Measures{where}</Typography>}
      columns={[
        "construct",
        "as",
        "alpha",
        "rho_A",
        "composite reliability",
        "AVE",
        "√AVE",
        "largest correlation",
        "Fornell-Larcker",
        "VIF",
      ]}
      words={[1]}
      rows={constructs.map((c) => {
        const { alpha, rhoA, compositeReliability: reliability, ave } = c.quality;
        const figures: Cell[] = hangsTogether(c)
          ? [
              alpha,
              c.weighting === "correlation" ? rhoA : null,
              reliability,
              ave,
              c.rootAve,
              c.largestCorrelation,
              c.fornellLarcker === null ? null : c.fornellLarcker ? "holds" : "does not hold",
            ]
          : [null, null, null, null, null, c.largestCorrelation, null];
        const short =
          reliability < RELIABLE ||
          reliability > REDUNDANT ||
          ave < AVE ||
          c.fornellLarcker === false;
        return {
          key: c.construct,
          marked: hangsTogether(c) && short,
          cells: [c.construct, c.words, ...figures, c.vif],
        };
      })}
      note={`${GUIDANCE.reliability} Items that are regressed on need not hang together, so for them, and for single items, there are no such figures. VIF: how far a construct is explained by all others (full collinearity); from 3.3 or 5 on they overlap.`}
    />
  );
}

const doubt = ({ lower, upper }: ResampledEvidence): Cell => limitsCell(lower, upper, 2);

/** Weights and loadings of every item. */
export function ItemTable({
  group: { constructs },
  where,
  level,
  leaveOut,
}: TableProps & { level: number; leaveOut: LeaveOutItem }) {
  const limits = `${percent(level)} % CI`;
  return (
    <NumberTable
      title={`Items${where}`}
      heading={<Typography variant="h3">Items{where}</Typography>}
      columns={["item", "measures", "loading", limits, "weight", limits, "VIF", "closer to", ""]}
      names={[
        "item",
        "measures",
        "loading",
        `${limits} of the loading`,
        "weight",
        `${limits} of the weight`,
        "VIF",
        "closer to",
        "without it",
      ]}
      words={[1, 7]}
      rows={constructs.flatMap((construct) =>
        construct.items.map(({ item, loading, weight, vif, closerTo }) => {
          const alone = construct.kind === "single";
          const weak = hangsTogether(construct) && Math.abs(loading.estimate) < LOADING;
          const collinear = vif === null || vif >= COLLINEAR;
          return {
            key: `${construct.construct} ${item}`,
            marked: !alone && (weak || collinear || closerTo !== null),
            cells: alone
              ? [item, { shown: "single item", value: "single item", span: 8 }]
              : [
                  item,
                  construct.construct,
                  loading.estimate,
                  doubt(loading),
                  weight.estimate,
                  doubt(weight),
                  vif ?? { shown: "∞", value: null },
                  closerTo,
                  {
                    shown: <LeaveOut item={item} from={construct.construct} leaveOut={leaveOut} />,
                    value: null,
                  },
                ],
          };
        }),
      )}
      note="Guidance: loadings of .70 and more, so that an item shares half of its variance with its score; between .40 and .70 it is left out only where that helps reliability (Hair et al. 2017). Where items are regressed on, weights count, and VIF of 5 or more makes them unsteady."
    />
  );
}

/** Can constructs be told apart? */
export function PairTable({
  group: { htmt, result, constructs },
  where,
  level,
}: TableProps & { level: number }) {
  const correlations = (result.consistent ?? result).constructCorrelations;
  const together = new Set(constructs.filter(hangsTogether).map((c) => c.construct));
  return (
    <NumberTable
      title={`Pairs of constructs${where}`}
      heading={<Typography variant="h3">Pairs of constructs{where}</Typography>}
      columns={["pair", "correlation", "HTMT", `${percent(level)} % CI`]}
      rows={htmt.map(({ first, second, htmt: ratio, lower, upper }) => {
        const counts = together.has(first) && together.has(second);
        return {
          key: `${first} ${second}`,
          marked: counts && ratio >= HTMT,
          cells: [
            `${first}, ${second}`,
            correlations[first]?.[second] ?? null,
            counts ? ratio : null,
            counts ? limitsCell(lower, upper, 2) : null,
          ],
        };
      })}
      note={`${GUIDANCE.htmt} Its interval is that of percentiles. Where items are regressed on, HTMT has no meaning.`}
    />
  );
}
