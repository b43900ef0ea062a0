import { ERRORS, type ErrorKind } from "../../study";
import type { Engine } from "../engine";
import { LeastSquaresFit } from "./least-squares-fit";
import { LeastSquaresKernel } from "./refit";
import type { RefitProblem } from "./refit-problem";

/**
 * Ordinary least squares, equation by equation: recursive path models of observed variables, with
 * products; classical, heteroscedasticity-consistent (HC0 to HC4) and cluster-robust (CR2) errors.
 * Complete cases only.
 */
export const leastSquares: Engine<RefitProblem> = {
  id: "least_squares",
  label: "least squares",
  options: [],
  errors: ERRORS,
  tried: ["classical", "HC3", "HC4"],
  settings: (settings) => ({ ...settings, errors: regressionErrors(settings.errors) }),
  suits: ({ holds, frees, covariances, groups }) =>
    groups || [holds, frees, covariances].some((lines) => lines.length > 0)
      ? { suits: false, reason: TOGETHER }
      : { suits: true },
  fit: (theory, data, settings) => new LeastSquaresFit(theory, data, settings),
  kernel: (problem) => new LeastSquaresKernel(problem),
};

const TOGETHER =
  "Least squares estimate each equation by itself, so they cannot hold arrows equal or at values, let residuals covary, or estimate groups side by side. Choose maximum likelihood, or leave those lines out.";

/** Errors that were chosen for models of covariances, as their like here. */
function regressionErrors(errors: ErrorKind): ErrorKind {
  if (ERRORS.some((kind) => kind === errors)) return errors;
  return errors.startsWith("robust") ? "HC3" : "classical";
}
