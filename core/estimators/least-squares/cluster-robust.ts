import { EigenvalueDecomposition, Matrix } from "ml-matrix";
import type { OrthogonalFactor } from "../../numerics/orthogonal";

/**
 * An eigenvalue of H_gg nearer to one leaves the cluster without a residual of its own in that
 * direction.
 */
const FULL = 1 - 1e-10;
/** Less than this share of the variance is what rounding leaves of nothing. */
const NOTHING_LEFT = 1e-9;
/** Below this the adjustment is its series' first term, one half. */
const SMALL = 1e-7;

/**
 * The bias-reduced linearisation CR2 of one equation (Bell & McCaffrey 2002, Survey Methodology 28;
 * Pustejovsky & Tipton 2018, J Bus Econ Stat 36): residuals of cluster g are multiplied by B_g = (I
 * - H_gg)^(-1/2), the symmetric root with the generalised inverse, so that the covariance is
 * unbiased when errors are independent with equal variance. Degrees of freedom follow from that
 * working model.
 *
 * H_gg = Q_g Q_g' for the orthonormal columns Q of the design (intercept included), so B_g differs
 * from the identity only in the span of Q_g, and a p x p matrix per cluster is all that is kept,
 * whatever the size of the cluster.
 */
export class ClusterRobust {
  /** Orthonormal columns of the design, the constant first. */
  private readonly q: Float64Array[];
  /** For each cluster the p x p matrix M with B_g x = x + Q_g M Q_g' x. */
  private readonly inner: Float64Array[];

  /**
   * @param fit an equation; only the space of its columns matters
   * @param members row positions of each cluster; together every row once
   */
  constructor(
    fit: { factor: OrthogonalFactor; n: number },
    readonly members: Int32Array[],
  ) {
    this.q = [new Float64Array(fit.n).fill(1 / Math.sqrt(fit.n)), ...fit.factor.q];
    this.inner = members.map((rows) => this.innerOf(rows));
  }

  private innerOf(rows: Int32Array): Float64Array {
    const p = this.q.length;
    const gram = Matrix.zeros(p, p);
    for (let a = 0; a < p; a++) {
      for (let c = a; c < p; c++) {
        let sum = 0;
        for (const i of rows) sum += this.q[a]![i]! * this.q[c]![i]!;
        gram.set(a, c, sum);
        gram.set(c, a, sum);
      }
    }
    const { realEigenvalues: values, eigenvectorMatrix: vectors } = new EigenvalueDecomposition(
      gram,
      { assumeSymmetric: true },
    );
    const out = new Float64Array(p * p);
    values.forEach((d, k) => {
      const factor = d >= FULL ? -1 / d : d < SMALL ? 0.5 : (1 / Math.sqrt(1 - d) - 1) / d;
      for (let a = 0; a < p; a++)
        for (let c = 0; c < p; c++)
          out[a * p + c] = out[a * p + c]! + factor * vectors.get(a, k) * vectors.get(c, k);
    });
    return out;
  }

  /** Q_g' x of one cluster. */
  private project(rows: Int32Array, x: Float64Array, out: Float64Array): void {
    for (let a = 0; a < out.length; a++) {
      const column = this.q[a]!;
      let sum = 0;
      for (const i of rows) sum += column[i]! * x[i]!;
      out[a] = sum;
    }
  }

  /** B x, cluster by cluster. */
  adjust(x: Float64Array): Float64Array {
    const out = x.slice();
    const p = this.q.length;
    const projected = new Float64Array(p);
    this.members.forEach((rows, g) => {
      const m = this.inner[g]!;
      this.project(rows, x, projected);
      for (let a = 0; a < p; a++) {
        let weight = 0;
        for (let c = 0; c < p; c++) weight += m[a * p + c]! * projected[c]!;
        const column = this.q[a]!;
        for (const i of rows) out[i] = out[i]! + weight * column[i]!;
      }
    });
    return out;
  }

  /**
   * Satterthwaite degrees of freedom of the CR2 variance of a linear function c'b.
   * @param line X (X'X)^-1 c: how the function weighs the rows
   */
  df(line: Float64Array): number {
    return this.jointDf([line]);
  }

  /**
   * Degrees of freedom eta of the approximate Hotelling test of q linear functions (Pustejovsky &
   * Tipton 2018, section 3.2): the Wishart distribution whose total variance agrees. For q = 1
   * these are Satterthwaite's, 2 E(V)²/Var(V). The expectation is the covariance's own under the
   * working model: where a cluster alone holds a level, I - H_gg is singular, no adjustment makes
   * the covariance unbiased, and its expectation lies below what it estimates.
   * @param lines X (X'X)^-1 c of each function
   * @returns NaN where nothing of the covariance is left: every cluster that carries a function
   *   stands alone, and shows no spread
   */
  jointDf(lines: Float64Array[]): number {
    const size = lines.length;
    const unit = whiten(lines, omegaOf(lines));
    const first = unit.map((line) => this.partsOf(line));
    const expected = Matrix.zeros(size, size);
    for (let s = 0; s < size; s++)
      for (let t = 0; t < size; t++) expected.set(s, t, expectedProduct(first[s]!, first[t]!));
    const least = Math.min(
      ...new EigenvalueDecomposition(expected, { assumeSymmetric: true }).realEigenvalues,
    );
    if (!(least > NOTHING_LEFT)) return NaN;
    const parts = whiten(unit, expected).map((line) => this.partsOf(line));
    let spread = 0;
    for (let s = 0; s < size; s++)
      for (let t = 0; t < size; t++) spread += productVariance(parts[s]!, parts[t]!);
    return (size * (size + 1)) / spread;
  }

  /** Of B_g l_g for each cluster: itself, and its projections u_g = Q_g' B_g l_g. */
  private partsOf(line: Float64Array): Parts {
    const p = this.q.length;
    const adjusted = this.adjust(line);
    const u = this.members.map((rows) => {
      const out = new Float64Array(p);
      this.project(rows, adjusted, out);
      return out;
    });
    return { adjusted, u, members: this.members };
  }
}

interface Parts {
  adjusted: Float64Array;
  u: Float64Array[];
  members: Int32Array[];
}

/** Expectation of sum_g (w_gs'e)(w_gt'e) for standard normal e. */
function expectedProduct(s: Parts, t: Parts): number {
  let sum = 0;
  s.members.forEach((rows, g) => {
    for (const i of rows) sum += s.adjusted[i]! * t.adjusted[i]!;
    sum -= dot(s.u[g]!, t.u[g]!);
  });
  return sum;
}

/**
 * Variance of sum_g (w_gs'e)(w_gt'e) for standard normal e, where w_gs'w_ht = delta_gh a_st(g) -
 * u_gs'u_ht, found from p x p cross-products instead of clusters by clusters.
 */
function productVariance(s: Parts, t: Parts): number {
  const p = s.u[0]!.length;
  const cross = new Float64Array(p * p);
  let sum = 0;
  s.members.forEach((rows, g) => {
    const [us, ut] = [s.u[g]!, t.u[g]!];
    let [ss, tt, st] = [0, 0, 0];
    for (const i of rows) {
      ss += s.adjusted[i]! ** 2;
      tt += t.adjusted[i]! ** 2;
      st += s.adjusted[i]! * t.adjusted[i]!;
    }
    const [qs, qt, qst] = [dot(us, us), dot(ut, ut), dot(us, ut)];
    sum += ss * tt - ss * qt - tt * qs + st * st - 2 * st * qst;
    for (let a = 0; a < p; a++)
      for (let c = 0; c < p; c++) cross[a * p + c] = cross[a * p + c]! + us[a]! * ut[c]!;
  });
  for (let a = 0; a < p; a++)
    for (let c = 0; c < p; c++)
      sum += cross[a * p + c]! ** 2 + cross[a * p + c]! * cross[c * p + a]!;
  return sum;
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}

/** Covariance of the functions under the working model. */
function omegaOf(lines: Float64Array[]): Matrix {
  const omega = Matrix.zeros(lines.length, lines.length);
  lines.forEach((a, i) => lines.forEach((b, j) => omega.set(i, j, dot(a, b))));
  return omega;
}

/** Lines mixed by the inverse root of a matrix, so that it becomes the identity for them. */
function whiten(lines: Float64Array[], omega: Matrix): Float64Array[] {
  const q = lines.length;
  const scale = lines.map((_, i) => Math.sqrt(omega.get(i, i)));
  const unit = Matrix.zeros(q, q);
  for (let i = 0; i < q; i++)
    for (let j = 0; j < q; j++) unit.set(i, j, omega.get(i, j) / (scale[i]! * scale[j]!));
  const { realEigenvalues: values, eigenvectorMatrix: vectors } = new EigenvalueDecomposition(
    unit,
    { assumeSymmetric: true },
  );
  // Any root will do: the degrees of freedom do not change when the whitened functions are rotated.
  return values.map((value, k) => {
    const out = new Float64Array(lines[0]!.length);
    lines.forEach((line, j) => {
      const weight = vectors.get(j, k) / (Math.sqrt(value) * scale[j]!);
      for (let i = 0; i < out.length; i++) out[i] = out[i]! + weight * line[i]!;
    });
    return out;
  });
}
