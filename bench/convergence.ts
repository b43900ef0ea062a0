import { Analysis, StudyProblem } from "../core";
import { deltaTest } from "../core/inference";
import { firstFixed, gradient } from "../core/model";
import { latentStudy } from "./latent";

const SETS = 1000;
const NOMINAL = 0.95;
/** The indirect effect behind the data: 0.5 x 0.4. */
const TRUTH = 0.2;

/**
 * Simulated data sets of a model that is right: how many converge, how many are improper, and how
 * often the 95 % interval (delta method, expected information) holds the true indirect effect,
 * standardised in the latent variables as they were made.
 * @param wanted data sets a design
 */
export function measureConvergence(wanted = SETS): void {
  console.log(
    ["n", "loadings", "converged", "improper", "coverage", "mean chi2/df"]
      .map((head) => head.padStart(13))
      .join(""),
  );
  for (const n of [100, 200, 400])
    for (const loading of [0.5, 0.7, 0.9]) {
      let converged = 0;
      let improper = 0;
      let covered = 0;
      let known = 0;
      let ratio = 0;
      for (let set = 0; set < wanted; set++) {
        const { study, table } = latentStudy(
          n,
          { replications: 0, interval: "delta" },
          { seed: 7000 + set, loading },
        );
        try {
          const { prepared } = Analysis.of(study, table);
          const { fit, theta, quantities, estimates } = prepared;
          converged += 1;
          improper += theta[fit.parameters.index.get("improper")!]!;
          // Marker scaling: in the units of the first items, whose loadings are all the same.
          const at = quantities.findIndex((q) => q.id === "indirect F > G > H");
          const test = deltaTest(
            estimates[at]!,
            gradient(quantities[at]!.expression, theta),
            fit.covariances.expected,
            NOMINAL,
            firstFixed(fit.parameters),
          );
          if (test) {
            known += 1;
            covered += test.lower <= TRUTH && test.upper >= TRUTH ? 1 : 0;
          }
          const section = fit.sections!({
            level: NOMINAL,
            errors: "expected",
            bootstrap: null,
            drawn: null,
            flags: null,
            complete: false,
            interval: "delta",
            exact: new Set(),
          }).find((s) => s.kind === "structure")!;
          ratio += section.fit!.plain.chi2 / section.fit!.plain.df;
        } catch (error) {
          if (!(error instanceof StudyProblem)) throw error;
        }
      }
      const share = (count: number, of: number): string =>
        `${((100 * count) / of).toFixed(1)} %`.padStart(13);
      console.log(
        `${String(n).padStart(13)}${String(loading).padStart(13)}${share(converged, wanted)}${share(improper, wanted)}${share(covered, known)}${(ratio / converged).toFixed(3).padStart(13)}`,
      );
    }
}
