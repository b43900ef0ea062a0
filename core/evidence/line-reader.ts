import type { Moderator } from "../effects";
import type { Line } from "../estimators";
import { bilinearForm, coefficientTest, type CoefficientTest } from "../model";
import type { CovarianceKind } from "../study";

/** Values of a moderator at which the degrees of freedom of cluster-robust slopes are looked at. */
const DF_GRID = 11;

/**
 * Reads numbers off one line: linear functions of its coefficients, with their errors and tests.
 */
export class LineReader {
  constructor(
    readonly line: Line,
    /** Where a column is centred within products. */
    readonly centre: (key: string) => number,
    readonly level: number,
  ) {}

  /** a' V c. */
  form(a: Float64Array, c: Float64Array, kind: CovarianceKind): number {
    return bilinearForm(a, c, this.line.covariances[kind]);
  }

  value(g: Float64Array): number {
    return g.reduce((sum, weight, i) => sum + weight * this.line.b[i]!, 0);
  }

  /**
   * The t test of a linear function of the coefficients; null where there are no errors of this
   * kind.
   */
  test(g: Float64Array, kind: CovarianceKind): CoefficientTest | null {
    const variance = this.form(g, g, kind);
    if (!Number.isFinite(variance)) return null;
    return coefficientTest(this.value(g), Math.max(0, variance), this.line.df(kind, g), this.level);
  }

  /**
   * Degrees of freedom along a moderator: those of the residuals; under cluster-robust errors,
   * which have their own at every value, the smallest within the observed range, so that one
   * critical value holds throughout.
   * @param at weights of the slope at a value of the moderator about its centre
   */
  dfAlong(over: Moderator, at: (value: number) => Float64Array, kind: CovarianceKind): number {
    if (kind !== "CR2") return this.line.df(kind, at(0));
    const centre = this.centre(over.columns[0]!.key);
    const values = Array.from(
      { length: DF_GRID },
      (_, i) => over.min + ((over.max - over.min) * i) / (DF_GRID - 1),
    );
    return Math.min(...values.map((w) => this.line.df(kind, at(w - centre))));
  }
}
