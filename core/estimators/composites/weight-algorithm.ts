import { choleskyInPlace, choleskySolveInPlace } from "../../numerics/cholesky";
import { BY_REGRESSION, FIXED, type Layout } from "./layout";
import { NormalEquations } from "./normal-equations";
import { SINGULAR } from "./specification";

/** How the search for weights ended. */
export type Ending = "converged" | "not_converged" | "singular_block" | "singular_equation";

/** Rounds end when no weight moves by more. */
export const TOLERANCE = 1e-10;
export const MOST_ROUNDS = 3000;
const EMPTY = new Float64Array(0);

/**
 * The weights of constructs from the correlations of their indicators (Wold 1982; Lohmöller 1989):
 * scores of neighbours predict each construct, and its indicators are weighted by how they go with
 * that prediction, until nothing moves. Scores never appear: everything they would be asked for is
 * a product of weights and correlations. All constructs move at once from the scores of the round
 * before.
 */
export class WeightAlgorithm {
  /** One weight an indicator; scores have variance one. */
  readonly weights: Float64Array;
  /** Correlations of indicators with scores, indicators x constructs. */
  readonly loadings: Float64Array;
  /** Correlations of scores, constructs x constructs. */
  readonly correlations: Float64Array;
  rounds = 0;
  /**
   * R w of each construct, constructs x indicators: rows are long, so that sums over them are fast.
   */
  private readonly products: Float64Array;
  private readonly next: Float64Array;
  private readonly inner: Float64Array;
  /** Cholesky factors of the blocks that are regressed on. */
  private readonly factors: Float64Array[];
  private readonly equations: NormalEquations;
  private readonly coefficients: Float64Array;
  private readonly widest: number;
  private readonly moving: boolean;
  private readonly block: Float64Array;

  constructor(
    readonly layout: Layout,
    private readonly mostRounds = MOST_ROUNDS,
    private readonly tolerance = TOLERANCE,
  ) {
    const { indicators: p, constructs: c, start, modes, predecessors } = layout;
    this.weights = new Float64Array(p);
    this.next = new Float64Array(p);
    this.products = new Float64Array(c * p);
    this.loadings = new Float64Array(p * c);
    this.correlations = new Float64Array(c * c);
    this.inner = new Float64Array(c * c);
    this.widest = Math.max(...Array.from({ length: c }, (_, j) => start[j + 1]! - start[j]!));
    this.factors = Array.from(modes, (mode) =>
      mode === BY_REGRESSION ? new Float64Array(this.widest * this.widest) : EMPTY,
    );
    this.block = new Float64Array(this.widest);
    const most = Math.max(1, ...predecessors.map((list) => list.length));
    this.equations = new NormalEquations(most);
    this.coefficients = new Float64Array(most);
    this.moving = modes.some((mode) => mode !== FIXED);
  }

  /** @param r correlations of the indicators, row-major */
  run(r: Float64Array): Ending {
    if (!this.factorBlocks(r)) return "singular_block";
    this.begin(r);
    let ending: Ending = "not_converged";
    this.rounds = 0;
    if (!this.moving) ending = "converged";
    else
      while (this.rounds < this.mostRounds) {
        this.rounds += 1;
        if (!this.findInner()) return "singular_equation";
        if (this.findOuter(r) < this.tolerance) {
          ending = "converged";
          break;
        }
      }
    this.writeLoadings();
    this.turnToMajority();
    return ending;
  }

  /** Turns a construct: its weights, loadings and correlations change sign. */
  turn(j: number): void {
    const { start, indicators: p, constructs: c } = this.layout;
    for (let k = start[j]!; k < start[j + 1]!; k++) this.weights[k] = -this.weights[k]!;
    for (let k = 0; k < p; k++) this.loadings[k * c + j] = -this.loadings[k * c + j]!;
    for (let l = 0; l < c; l++) {
      if (l === j) continue;
      this.correlations[j * c + l] = -this.correlations[j * c + l]!;
      this.correlations[l * c + j] = -this.correlations[l * c + j]!;
    }
  }

  /** Equal weights to begin with, as scores of variance one. */
  private begin(r: Float64Array): void {
    this.weights.fill(1);
    for (let j = 0; j < this.layout.constructs; j++) this.scale(r, j, this.weights);
    this.correlate();
  }

  /** Finds R w of a construct, and scales its weights to a score of variance one. */
  private scale(r: Float64Array, j: number, w: Float64Array): void {
    const { products } = this;
    const { start, indicators: p } = this.layout;
    const from = start[j]!;
    const to = start[j + 1]!;
    const at = j * p;
    for (let k = 0; k < p; k++) {
      // R is symmetric, so a row of it is a column.
      const row = k * p;
      let sum = 0;
      for (let m = from; m < to; m++) sum += r[row + m]! * w[m]!;
      products[at + k] = sum;
    }
    let variance = 0;
    for (let k = from; k < to; k++) variance += w[k]! * products[at + k]!;
    const scale = 1 / Math.sqrt(variance);
    for (let k = from; k < to; k++) w[k] = w[k]! * scale;
    for (let k = at; k < at + p; k++) products[k] = products[k]! * scale;
  }

  /** The correlations of scores. */
  private correlate(): void {
    const { weights, products, correlations } = this;
    const { start, indicators: p, constructs: c } = this.layout;
    for (let i = 0; i < c; i++) {
      const from = start[i]!;
      const to = start[i + 1]!;
      correlations[i * c + i] = 1;
      for (let j = 0; j < i; j++) {
        const at = j * p;
        let sum = 0;
        for (let k = from; k < to; k++) sum += weights[k]! * products[at + k]!;
        correlations[i * c + j] = sum;
        correlations[j * c + i] = sum;
      }
    }
  }

  private writeLoadings(): void {
    const { loadings, products } = this;
    const { indicators: p, constructs: c } = this.layout;
    for (let j = 0; j < c; j++)
      for (let k = 0; k < p; k++) loadings[k * c + j] = products[j * p + k]!;
  }

  /**
   * Weights of neighbours: inner[l, j] is that of construct l in the prediction of j.
   * @returns false where predictors are singular
   */
  private findInner(): boolean {
    const { inner, correlations, coefficients, equations } = this;
    const { constructs: c, predecessors, successors, scheme } = this.layout;
    inner.fill(0);
    for (let j = 0; j < c; j++) {
      const before = predecessors[j]!;
      for (const l of successors[j]!) inner[l * c + j] = joint(scheme, correlations[l * c + j]!);
      if (scheme !== "path") {
        for (const l of before) inner[l * c + j] = joint(scheme, correlations[l * c + j]!);
      } else if (before.length > 0) {
        if (!(equations.solve(correlations, c, before, j, coefficients, 0) >= SINGULAR))
          return false;
        before.forEach((l, i) => (inner[l * c + j] = coefficients[i]!));
      }
    }
    return true;
  }

  /** New weights from the prediction of each construct. @returns the largest change of a weight */
  private findOuter(r: Float64Array): number {
    const { inner, products, next, weights, block, widest, factors } = this;
    const { start, modes, constructs: c, indicators: p } = this.layout;
    next.fill(0);
    for (let j = 0; j < c; j++) {
      if (modes[j] === FIXED) continue;
      const from = start[j]!;
      const to = start[j + 1]!;
      for (let l = 0; l < c; l++) {
        const weight = inner[l * c + j]!;
        if (weight === 0) continue;
        const at = l * p;
        for (let k = from; k < to; k++) next[k] = next[k]! + weight * products[at + k]!;
      }
    }
    // All constructs move at once: products of the last round are needed until here.
    let moved = 0;
    for (let j = 0; j < c; j++) {
      if (modes[j] === FIXED) continue;
      const from = start[j]!;
      const to = start[j + 1]!;
      if (modes[j] === BY_REGRESSION) {
        for (let k = from; k < to; k++) block[k - from] = next[k]!;
        choleskySolveInPlace(factors[j]!, to - from, widest, block);
        for (let k = from; k < to; k++) next[k] = block[k - from]!;
      }
      this.scale(r, j, next);
      for (let k = from; k < to; k++) {
        const change = Math.abs(next[k]! - weights[k]!);
        // What is not a number has not settled either.
        if (!(change <= moved)) moved = change;
        weights[k] = next[k]!;
      }
    }
    this.correlate();
    return moved;
  }

  /**
   * Factors of the blocks whose weights come by regression.
   * @returns false where one is singular
   */
  private factorBlocks(r: Float64Array): boolean {
    const { factors, widest } = this;
    const { start, modes, constructs: c, indicators: p } = this.layout;
    for (let j = 0; j < c; j++) {
      if (modes[j] !== BY_REGRESSION) continue;
      const [from, size] = [start[j]!, start[j + 1]! - start[j]!];
      const factor = factors[j]!;
      for (let k = 0; k < size; k++)
        for (let m = 0; m < size; m++) factor[k * widest + m] = r[(from + k) * p + from + m]!;
      if (!(choleskyInPlace(factor, size, widest) >= SINGULAR)) return false;
    }
    return true;
  }

  /**
   * Most loadings of a construct are positive; where as many are negative, their sum decides, then
   * the first.
   */
  private turnToMajority(): void {
    const { start, constructs: c, dominant } = this.layout;
    for (let j = 0; j < c; j++) {
      const named = dominant[j]!;
      const direction =
        named >= 0
          ? Math.sign(this.loadings[named * c + j]!)
          : majority(this.loadings, c, j, start[j]!, start[j + 1]!).direction;
      if (direction < 0) this.turn(j);
    }
  }
}

/** The direction of most loadings of a block, and whether it was a tie. */
export function majority(
  loadings: Float64Array,
  width: number,
  j: number,
  from: number,
  to: number,
): { direction: number; tie: boolean } {
  let signs = 0;
  let sum = 0;
  for (let k = from; k < to; k++) {
    const loading = loadings[k * width + j]!;
    signs += Math.sign(loading);
    sum += loading;
  }
  return {
    direction: signs !== 0 ? signs : sum !== 0 ? sum : loadings[from * width + j]!,
    tie: signs === 0,
  };
}

/** What a neighbour weighs where it is not regressed on. */
const joint = (scheme: Layout["scheme"], r: number): number =>
  scheme === "centroid" ? Math.sign(r) : r;
