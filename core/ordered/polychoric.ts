import { Phi2 } from "../numerics/bivariate-normal";
import { Phi, phi } from "../numerics/distributions";
import { exp, ln } from "../numerics/elementary";
import { gaussLegendre } from "../numerics/gauss-legendre";
import { climbCorrelation } from "./bounded-correlation";

/** A correlation of two ordered variables, and what its errors are made of. */
export interface Polychoric {
  r: number;
  /** Expected information of one case. */
  information: number;
  /** d log(share of a cell) / dr, rows x columns. */
  scores: Float64Array;
  /** Expected cross-information of r with the thresholds of the rows, and of the columns. */
  withRows: Float64Array;
  withColumns: Float64Array;
  /** Sum of n log(share), without constants. */
  logLikelihood: number;
  /** A table of two by two had an empty cell, and was corrected. */
  corrected: boolean;
}

/**
 * The polychoric correlation of a table, thresholds held (Olsson 1979, Psychometrika 44): maximises
 * sum n_ab log pi_ab(r), the share of a cell being a rectangle of the bivariate normal
 * distribution.
 * @param table counts, row-major; @param rows, columns thresholds, one less than levels
 * @param start where to begin, e.g. the correlation in the sample
 * @param close where to stop, as a slope per case; to the last digit where it is left out
 * @returns null where the likelihood has no maximum inside (-1, 1)
 */
export function polychoric(
  table: Float64Array,
  rows: Float64Array,
  columns: Float64Array,
  start = 0,
  close?: number,
): Polychoric | null {
  const two = table.length === 4;
  const empty = two ? table.filter((count) => count === 0).length : 0;
  if (empty > 1) return null;
  const counts = empty === 1 ? correctedTable(table) : table;
  const cells = new Rectangles(rows, columns);
  const n = counts.reduce((sum, count) => sum + count, 0);
  const found = climbCorrelation(
    (r) => {
      cells.at(r);
      let score = 0;
      let information = 0;
      for (let at = 0; at < counts.length; at++) {
        const ratio = cells.slopes[at]! / cells.shares[at]!;
        if (counts[at]! > 0) score += counts[at]! * ratio;
        information += cells.slopes[at]! * ratio;
      }
      return { score: score / n, information };
    },
    start,
    close,
  );
  if (!found) return null;
  cells.at(found.r, close === undefined);
  return {
    ...found,
    ...cells.cross(found.r),
    logLikelihood: counts.reduce(
      (sum, count, at) => (count > 0 ? sum + count * ln(cells.shares[at]!) : sum),
      0,
    ),
    corrected: empty === 1,
  };
}

/** Half a case in the empty cell and the one opposite, taken from the others: margins stay. */
function correctedTable(table: Float64Array): Float64Array {
  const at = table.indexOf(0);
  const diagonal = at === 0 || at === 3;
  return table.map((count, cell) =>
    (cell === 0 || cell === 3) === diagonal ? count + 0.5 : count - 0.5,
  );
}

/** No share is smaller, so that nothing is divided by zero. */
const LEAST = 1e-300;

/**
 * From one correlation to another so near, both so far from one, a short rule does for the
 * integral between them.
 */
const NEAR = 0.25;
const FLAT = 0.9;
const SHORT = { step: 0.04, nodes: 4 };
const LONG = 6;
/** From zero on, by the tangent of half the angle. */
const FROM_ZERO = [
  { below: 0.45, nodes: 8 },
  { below: 0.7, nodes: 12 },
  { below: 1, nodes: 16 },
];

/** Shares of the cells between thresholds, with their derivatives in r; holds its arrays. */
class Rectangles {
  readonly shares: Float64Array;
  readonly slopes: Float64Array;
  private readonly a: number;
  private readonly b: number;
  private readonly corners: Float64Array;
  private readonly densities: Float64Array;
  /** Of each inner corner: its place, the product of its thresholds, half of the sum of their squares. */
  private readonly places: Int32Array;
  private readonly products: Float64Array;
  private readonly squares: Float64Array;
  /** What they would be at r = 0. */
  private readonly margins: Float64Array;
  /** Where the corners are known. */
  private known = NaN;

  constructor(
    private readonly rows: Float64Array,
    private readonly columns: Float64Array,
  ) {
    this.a = rows.length + 1;
    this.b = columns.length + 1;
    this.shares = new Float64Array(this.a * this.b);
    this.slopes = new Float64Array(this.a * this.b);
    // Borders at minus and plus infinity stay as they are.
    const width = this.b + 1;
    this.corners = new Float64Array((this.a + 1) * width);
    this.densities = new Float64Array((this.a + 1) * width);
    for (let j = 1; j < this.b; j++) this.corners[this.a * width + j] = Phi(columns[j - 1]!);
    for (let i = 1; i < this.a; i++) this.corners[i * width + this.b] = Phi(rows[i - 1]!);
    this.corners[this.a * width + this.b] = 1;
    const inner = rows.length * columns.length;
    this.places = new Int32Array(inner);
    this.products = new Float64Array(inner);
    this.squares = new Float64Array(inner);
    this.margins = new Float64Array(inner);
    for (let i = 0, k = 0; i < rows.length; i++)
      for (let j = 0; j < columns.length; j++, k++) {
        const [x, y] = [rows[i]!, columns[j]!];
        this.places[k] = (i + 1) * width + j + 1;
        this.products[k] = x * y;
        this.squares[k] = (x * x + y * y) / 2;
        this.margins[k] =
          this.corners[(i + 1) * width + this.b]! * this.corners[this.a * width + j + 1]!;
      }
  }

  /** @param exact the corners themselves, not what steps between correlations add up to */
  at(r: number, exact = false): void {
    const { a, b, places, products, squares, corners, densities, shares, slopes } = this;
    const step =
      Math.abs(r - this.known) < NEAR && Math.max(Math.abs(r), Math.abs(this.known)) < FLAT;
    if (step && !exact) this.stepTo(r);
    else if (!exact && Math.abs(r) < FLAT) this.fromZero(r);
    else
      for (let k = 0; k < places.length; k++) {
        const i = Math.floor(k / this.columns.length);
        corners[places[k]!] = Phi2(this.rows[i]!, this.columns[k % this.columns.length]!, r);
      }
    this.known = r;
    const rest = (1 - r) * (1 + r);
    const scale = 1 / (2 * Math.PI * Math.sqrt(rest));
    for (let k = 0; k < places.length; k++)
      densities[places[k]!] = scale * exp((r * products[k]! - squares[k]!) / rest);
    const width = b + 1;
    for (let i = 0; i < a; i++)
      for (let j = 0; j < b; j++) {
        const at = i * width + j;
        shares[i * b + j] = Math.max(
          LEAST,
          corners[at + width + 1]! - corners[at + 1]! - corners[at + width]! + corners[at]!,
        );
        slopes[i * b + j] =
          densities[at + width + 1]! - densities[at + 1]! - densities[at + width]! + densities[at]!;
      }
  }

  /** As `Phi2`, all corners at once, to about 1e-11. */
  private fromZero(r: number): void {
    const { places, products, squares, corners, margins } = this;
    const size = FROM_ZERO.find(({ below }) => Math.abs(r) < below)!.nodes;
    const { nodes, weights } = gaussLegendre(size);
    const half = r / (1 + Math.sqrt((1 - r) * (1 + r))) / 2;
    for (let k = 0; k < places.length; k++) corners[places[k]!] = margins[k]!;
    for (let m = 0; m < size; m++) {
      const u = half * (nodes[m]! + 1);
      const uu = u * u;
      const t = (2 * u) / (1 + uu);
      const cosine = (1 - uu) / (1 + uu);
      const inverse = 1 / (cosine * cosine);
      const weight = (weights[m]! * half) / (Math.PI * (1 + uu));
      for (let k = 0; k < places.length; k++) {
        const at = places[k]!;
        corners[at] = corners[at]! + weight * exp((t * products[k]! - squares[k]!) * inverse);
      }
    }
  }

  /** dPhi2/dr is the density (Plackett 1954), integrated from where the corners are known. */
  private stepTo(r: number): void {
    const { places, products, squares, corners, known } = this;
    const size = Math.abs(r - known) < SHORT.step ? SHORT.nodes : LONG;
    const { nodes, weights } = gaussLegendre(size);
    const half = (r - known) / 2;
    for (let m = 0; m < size; m++) {
      const t = known + half * (nodes[m]! + 1);
      const rest = (1 - t) * (1 + t);
      const inverse = 1 / rest;
      const weight = (half * weights[m]!) / (2 * Math.PI * Math.sqrt(rest));
      for (let k = 0; k < places.length; k++) {
        const at = places[k]!;
        corners[at] = corners[at]! + weight * exp((t * products[k]! - squares[k]!) * inverse);
      }
    }
  }

  /** Scores of the cells, and the cross-information of r with all thresholds. */
  cross(r: number): Pick<Polychoric, "scores" | "withRows" | "withColumns"> {
    const { a, b, rows, columns, shares, slopes } = this;
    const scores = slopes.map((slope, at) => slope / shares[at]!);
    const rest = Math.sqrt((1 - r) * (1 + r));
    const along = (
      own: Float64Array,
      other: Float64Array,
      score: (mine: number, theirs: number) => number,
    ): Float64Array =>
      own.map((tau, c) => {
        let sum = 0;
        let below = 0;
        for (let k = 0; k <= other.length; k++) {
          const upTo = k === other.length ? 1 : Phi((other[k]! - r * tau) / rest);
          sum += (upTo - below) * (score(c, k) - score(c + 1, k));
          below = upTo;
        }
        return phi(tau) * sum;
      });
    return {
      scores,
      withRows: along(rows, columns, (i, j) => scores[i * b + j]!),
      withColumns: along(columns, rows, (j, i) => (i < a ? scores[i * b + j]! : 0)),
    };
  }
}
