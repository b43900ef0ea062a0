import { bandKind, INTERVAL_WORDS, percent, plain, thousands } from "../evidence";
import type { Evidence, RegionEvidence } from "../evidence";
import { sourced, step } from "./paper";
import type { Working, WorkingStep } from "./types";

/** Where the band of a conditional indirect effect comes from, and where it leaves zero. */
export function bandWorking(region: RegionEvidence, evidence: Evidence): Working {
  const { grid, over, bands, percentSignificant } = region;
  const kind = bandKind(evidence.settings.interval);
  const band = bands?.[kind];
  const apart = grid[1]! - grid[0]!;
  const steps: WorkingStep[] = [
    sourced(
      "Effect",
      `a × b with every slope at a value of ${over}`,
      `at ${grid.length} values from ${plain(grid[0])} to ${plain(grid.at(-1))}, ${plain(apart)} apart; between two of them along a straight line`,
      "Preacher, Rucker & Hayes 2007, Multivar Behav Res 42",
    ),
  ];
  if (band) {
    const { bootstrap, settings } = evidence;
    const used = bootstrap ? bootstrap.done - bootstrap.failed : 0;
    steps.push(
      sourced(
        `${percent(settings.level)} % band`,
        `the ${INTERVAL_WORDS[kind]} interval at each value, one value at a time`,
        `from the effects at that value in ${thousands(used)} resamples`,
        "Efron & Tibshirani 1993",
      ),
      step(
        "Where it leaves zero",
        "where a limit crosses zero, between neighbouring values",
        band.boundaries.length === 0
          ? "No limit crosses zero within the observed values."
          : `${over} = ${band.boundaries.map((b) => plain(b)).join(", ")}`,
      ),
    );
    if (percentSignificant)
      steps.push(
        step(
          "Share",
          `rows whose ${over} lies where the band excludes zero / rows`,
          `${plain(percentSignificant[kind], 1)} % of ${thousands(evidence.sample.n)}`,
        ),
      );
  }
  return {
    title: `${region.label} along ${over}`,
    steps,
    rows: `${thousands(evidence.sample.n)} ${evidence.unit || "rows"}.`,
  };
}
