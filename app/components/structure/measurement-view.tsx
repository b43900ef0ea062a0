import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import {
  measurementWorking,
  percent,
  type MeasurementEvidence,
  type StructureSection,
} from "../../../core";
import { WorkingView } from "../ui/working-view";
import { NumberTable } from "../ui/number-table";
import { limitsCell, pCell, whole } from "./cells";
import { AVE, GUIDANCE, HTMT, REDUNDANT, RELIABLE, shortcomingWords } from "./guidance";
import { LeaveOut } from "./leave-out";

/** Standardised loadings of factors below this are called weak (Hair et al. 2010). */
const LOADING = 0.5;

/**
 * How well the items measure: what falls short of common guidance is marked; nothing here is a
 * verdict.
 */
export function MeasurementView({
  section,
  leaveOut,
}: {
  section: StructureSection;
  /** Tries the model without an item. */
  leaveOut: (measure: string, item: string) => void;
}) {
  return (
    <>
      {section.measurement.map((group) => (
        <Group
          key={group.group}
          group={group}
          level={section.method.level}
          incomplete={section.method.missing === "everybody"}
          several={section.measurement.length > 1}
          leaveOut={leaveOut}
        />
      ))}
    </>
  );
}

function Group({
  group,
  level,
  several,
  incomplete,
  leaveOut,
}: {
  group: MeasurementEvidence;
  level: number;
  several: boolean;
  /** Everybody is kept, gaps and all. */
  incomplete: boolean;
  leaveOut: (measure: string, item: string) => void;
}) {
  const where = several ? `, ${group.group}` : "";
  const short = shortcomings(group);
  return (
    <Box sx={{ display: "grid", gap: 2, gridTemplateColumns: "minmax(0, 1fr)" }}>
      <Typography sx={{ fontFamily: "var(--serif)", maxWidth: "80ch" }}>
        {short.length === 0
          ? `Nothing in the measurement${where} falls short of common guidance.`
          : `${short.join(" ")}`}
      </Typography>
      <NumberTable
        title={`Measures${where}`}
        heading={<Typography variant="h3">Measures{where}</Typography>}
        columns={[
          "latent variable",
          "items",
          "alpha",
          "omega",
          "composite reliability",
          "AVE",
          "√AVE",
          "largest correlation",
          "Fornell-Larcker",
        ]}
        rows={group.factors.map((f) => ({
          key: f.factor,
          marked:
            f.omega < RELIABLE || f.omega > REDUNDANT || f.ave < AVE || f.fornellLarcker === false,
          cells: [
            f.factor,
            whole(f.items),
            f.alpha,
            f.omega,
            f.compositeReliability,
            f.ave,
            f.rootAve,
            f.largestCorrelation,
            f.fornellLarcker === null ? null : f.fornellLarcker ? "holds" : "does not hold",
          ],
        }))}
        note={`${GUIDANCE.reliability} A single item is as reliable as it was said to be.`}
      />
      <NumberTable
        title={`Items${where}`}
        heading={<Typography variant="h3">Items{where}</Typography>}
        columns={[
          "item",
          "measures",
          "loading",
          "standardised",
          "R²",
          "VIF",
          "would also load on",
          "χ² falls by",
          "p",
          "",
        ]}
        names={[
          "item",
          "measures",
          "loading",
          "standardised",
          "R²",
          "VIF",
          "would also load on",
          "χ² falls by",
          "p",
          "without it",
        ]}
        words={[1, 6]}
        rows={group.items.map((item) => {
          const cross = item.crossLoading && item.crossLoading.p < 0.01 ? item.crossLoading : null;
          const alone = group.factors.find((f) => f.factor === item.factor)!.items < 2;
          return {
            key: `${item.factor} ${item.item}`,
            marked: Math.abs(item.standardised) < LOADING || cross !== null,
            cells: [
              item.item,
              item.factor,
              item.loading,
              item.standardised,
              item.r2,
              item.vif,
              cross?.factor ?? null,
              cross?.mi ?? null,
              pCell(cross?.p ?? null),
              {
                shown: alone ? null : (
                  <LeaveOut item={item.item} from={item.factor} leaveOut={leaveOut} />
                ),
                value: null,
              },
            ],
          };
        })}
        note="Guidance: standardised loadings of .50 and more in factor models (Hair et al. 2010). Loadings elsewhere are named where a score test has p below .01."
      />
      {group.factors.some((f) => f.items > 1) && (
        <WorkingView
          working={measurementWorking(group)}
          summary="Show the working of reliability, variance extracted and ratios"
        />
      )}
      {group.htmt.length > 0 && <Discriminant {...{ group, level, where, incomplete }} />}
    </Box>
  );
}

function Discriminant({
  group,
  level,
  where,
  incomplete,
}: {
  group: MeasurementEvidence;
  level: number;
  where: string;
  incomplete: boolean;
}) {
  const names = group.factors.map((f) => f.factor);
  const correlation = (a: string, b: string): number =>
    group.correlations[names.indexOf(a)]![names.indexOf(b)]!;
  return (
    <NumberTable
      title={`Pairs of latent variables${where}`}
      heading={<Typography variant="h3">Pairs of latent variables{where}</Typography>}
      columns={["pair", "correlation", "HTMT", `${percent(level)} % CI`, "HTMT2"]}
      rows={group.htmt.map((pair) => ({
        key: `${pair.first} ${pair.second}`,
        marked: (pair.htmt ?? 0) >= HTMT,
        cells: [
          `${pair.first}, ${pair.second}`,
          correlation(pair.first, pair.second),
          pair.htmt,
          limitsCell(pair.lower, pair.upper, 2),
          pair.htmt2,
        ],
      }))}
      note={`${GUIDANCE.htmt} ${incomplete ? "It has no interval here: that is made by drawing complete rows again, and here everybody is kept." : "Its interval, by percentiles of 1,000 resamples, appears with the bootstrap."}`}
    />
  );
}

/** What falls short, in sentences. */
const shortcomings = ({ factors, items, htmt }: MeasurementEvidence): string[] =>
  shortcomingWords({
    weakItems: items.filter((i) => Math.abs(i.standardised) < LOADING).map((i) => i.item),
    loading: ".50",
    unreliable: factors.filter((f) => f.items > 1 && f.omega < RELIABLE).map((f) => f.factor),
    coefficient: "omega",
    narrow: factors.filter((f) => f.items > 1 && f.ave < AVE).map((f) => f.factor),
    alike: factors.filter((f) => f.fornellLarcker === false).map((f) => f.factor),
    pairs: htmt.filter((p) => (p.htmt ?? 0) >= HTMT).map((p) => [p.first, p.second]),
  });
