import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { plain, type MeasurementEvidence, type StructureSection } from "../../../core";
import { NumberTable } from "../ui/number-table";
import { pCell, whole } from "./cells";

/** Conventional thresholds, as guidance with their sources. */
const LOADING = 0.5;
const RELIABILITY = 0.7;
const REDUNDANT = 0.95;
const AVE = 0.5;
const HTMT = 0.85;

/** How well the items measure: what falls short of common guidance is marked; nothing here is a verdict. */
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
          several={section.measurement.length > 1}
          leaveOut={leaveOut}
        />
      ))}
    </>
  );
}

function Group({
  group,
  several,
  leaveOut,
}: {
  group: MeasurementEvidence;
  several: boolean;
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
            f.omega < RELIABILITY ||
            f.omega > REDUNDANT ||
            f.ave < AVE ||
            f.fornellLarcker === false,
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
        note="Guidance, not rules: reliability of .70 and more (Nunnally & Bernstein 1994), beyond .95 items repeat one another; AVE of .50 and more, and its root above every correlation with another latent variable (Fornell & Larcker 1981). A single item is as reliable as it was said to be."
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
                  <Button
                    variant="text"
                    aria-label={`Leave ${item.item} out of ${item.factor}`}
                    onClick={() => leaveOut(item.factor, item.item)}
                  >
                    Leave out
                  </Button>
                ),
                value: null,
              },
            ],
          };
        })}
        note="Guidance: standardised loadings of .50 and more in factor models (Hair et al. 2010). Loadings elsewhere are named where a score test has p below .01."
      />
      {group.htmt.length > 0 && <Discriminant group={group} where={where} />}
    </Box>
  );
}

function Discriminant({ group, where }: { group: MeasurementEvidence; where: string }) {
  const names = group.factors.map((f) => f.factor);
  const correlation = (a: string, b: string): number =>
    group.correlations[names.indexOf(a)]![names.indexOf(b)]!;
  return (
    <NumberTable
      title={`Pairs of latent variables${where}`}
      heading={<Typography variant="h3">Pairs of latent variables{where}</Typography>}
      columns={["pair", "correlation", "HTMT", "95 % CI", "HTMT2"]}
      rows={group.htmt.map((pair) => ({
        key: `${pair.first} ${pair.second}`,
        marked: (pair.htmt ?? 0) >= HTMT,
        cells: [
          `${pair.first}, ${pair.second}`,
          correlation(pair.first, pair.second),
          pair.htmt,
          pair.lower === null
            ? null
            : {
                shown: `${plain(pair.lower, 2)} to ${plain(pair.upper!, 2)}`,
                value: `${pair.lower} ${pair.upper}`,
              },
          pair.htmt2,
        ],
      }))}
      note="HTMT below .85 (strict) or .90 (Henseler, Ringle & Sarstedt 2015); its interval, by percentiles of 1,000 resamples, appears with the bootstrap."
    />
  );
}

/** What falls short, in sentences. */
function shortcomings({ factors, items, htmt }: MeasurementEvidence): string[] {
  const weak = items.filter((i) => Math.abs(i.standardised) < LOADING);
  const low = factors.filter((f) => f.items > 1 && f.omega < RELIABILITY);
  const narrow = factors.filter((f) => f.items > 1 && f.ave < AVE);
  const alike = factors.filter((f) => f.fornellLarcker === false);
  const pairs = htmt.filter((p) => (p.htmt ?? 0) >= HTMT);
  const list = (names: string[]): string => names.join(", ");
  return [
    ...(weak.length > 0
      ? [
          `${list(weak.map((i) => i.item))} ${weak.length === 1 ? "loads" : "load"} below .50 on what ${weak.length === 1 ? "it is" : "they are"} meant to measure.`,
        ]
      : []),
    ...(low.length > 0
      ? [`The reliability of ${list(low.map((f) => f.factor))} is below .70 (omega).`]
      : []),
    ...(narrow.length > 0
      ? [
          `The items of ${list(narrow.map((f) => f.factor))} share less than half of their variance with what they measure (AVE).`,
        ]
      : []),
    ...(alike.length > 0
      ? [
          `${list(alike.map((f) => f.factor))} correlate${alike.length === 1 ? "s" : ""} with another latent variable more than with ${alike.length === 1 ? "its" : "their"} own items (Fornell-Larcker).`,
        ]
      : []),
    ...(pairs.length > 0
      ? [
          `${list(pairs.map((p) => `${p.first} and ${p.second}`))} are hard to tell apart (HTMT of .85 or more).`,
        ]
      : []),
  ];
}
