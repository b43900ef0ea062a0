/** Means and covariances of scores and of products of scores, in one sample. */
export interface ScoreMoments {
  /** Constructs, then products: row-major, square, with `width` columns; divisor n - 1. */
  covariances: Float64Array;
  width: number;
  /** Of the products; scores have mean zero. */
  means: Float64Array;
}

export interface ScoreSource {
  /** Row-major rows x indicators, each about its mean and in its SDs in the original sample. */
  values: Float64Array;
  indicators: number;
  rows: number;
  /** Of each construct: its first indicator; one more at the end. */
  start: Int32Array;
  constructs: number;
}

/** Products of scores, row by row: the one thing that correlations of indicators do not know. */
export class ScoreProducts implements ScoreMoments {
  readonly covariances: Float64Array;
  readonly means: Float64Array;
  readonly width: number;
  private readonly scores: Float64Array;
  private readonly slope: Float64Array;
  private readonly constant: Float64Array;
  private readonly product: Float64Array;

  constructor(
    private readonly source: ScoreSource,
    private readonly products: readonly (readonly [number, number])[],
  ) {
    const { constructs, indicators } = source;
    this.width = constructs + products.length;
    this.covariances = new Float64Array(this.width * this.width);
    this.means = new Float64Array(products.length);
    this.scores = new Float64Array(constructs);
    this.slope = new Float64Array(indicators);
    this.constant = new Float64Array(constructs);
    this.product = new Float64Array(products.length);
  }

  /**
   * @param rowWeights how often each row counts; @param total their sum
   * @param weights of the indicators; @param means, sds of the indicators in this sample; @param
   *   correlations of the scores
   */
  find(
    rowWeights: Float64Array,
    total: number,
    weights: Float64Array,
    means: Float64Array,
    sds: Float64Array,
    correlations: Float64Array,
  ): void {
    const { covariances: o, width, products, scores, product, source } = this;
    const { constructs: c, rows } = source;
    this.prepare(weights, means, sds);
    o.fill(0);
    this.means.fill(0);
    for (let i = 0; i < rows; i++) {
      const f = rowWeights[i]!;
      if (f === 0) continue;
      this.scoresOf(i);
      for (let q = 0; q < products.length; q++) {
        const [x, w] = products[q]!;
        const value = scores[x]! * scores[w]!;
        product[q] = value;
        this.means[q] = this.means[q]! + f * value;
        const at = (c + q) * width;
        for (let l = 0; l < c; l++) o[at + l] = o[at + l]! + f * value * scores[l]!;
        for (let k = 0; k <= q; k++) o[at + c + k] = o[at + c + k]! + f * value * product[k]!;
      }
    }
    this.complete(total, correlations);
  }

  /** The scores of one row, after `find` or `prepare`; written over by the next. */
  scoresOf(row: number): Float64Array {
    const { scores, slope, constant, source } = this;
    const { values, indicators, start, constructs } = source;
    for (let j = 0; j < constructs; j++) {
      let sum = constant[j]!;
      for (let k = start[j]!; k < start[j + 1]!; k++)
        sum += slope[k]! * values[row * indicators + k]!;
      scores[j] = sum;
    }
    return scores;
  }

  prepare(weights: Float64Array, means: Float64Array, sds: Float64Array): void {
    const { start, constructs } = this.source;
    for (let j = 0; j < constructs; j++) {
      let sum = 0;
      for (let k = start[j]!; k < start[j + 1]!; k++) {
        this.slope[k] = weights[k]! / sds[k]!;
        sum -= this.slope[k]! * means[k]!;
      }
      this.constant[j] = sum;
    }
  }

  private complete(total: number, correlations: Float64Array): void {
    const { covariances: o, width, means, products, source } = this;
    const { constructs: c } = source;
    for (let i = 0; i < c; i++)
      for (let j = 0; j < c; j++) o[i * width + j] = correlations[i * c + j]!;
    for (let q = 0; q < products.length; q++) means[q] = means[q]! / total;
    for (let q = 0; q < products.length; q++) {
      const at = (c + q) * width;
      for (let l = 0; l < c; l++) {
        o[at + l] = o[at + l]! / (total - 1);
        o[l * width + c + q] = o[at + l]!;
      }
      for (let k = 0; k <= q; k++) {
        o[at + c + k] = (o[at + c + k]! - total * means[q]! * means[k]!) / (total - 1);
        o[(c + k) * width + c + q] = o[at + c + k]!;
      }
    }
  }
}

/**
 * Covariances of latent variables and their products, from those of scores and products of scores,
 * where errors of different constructs are independent (after Busemeyer & Jones 1983; Dijkstra &
 * Schermelleh-Engel 2014): measurement error of known size is taken out of every moment.
 * @param rho reliabilities of the constructs; @param out row-major, as wide as the moments
 * @returns the reliability of each product; where one is not positive the moments make no sense
 */
export function correctedMoments(
  { covariances: o, width }: ScoreMoments,
  products: readonly (readonly [number, number])[],
  rho: Float64Array,
  out: Float64Array,
): number[] {
  const c = rho.length;
  const q = Array.from(rho, Math.sqrt);
  for (let i = 0; i < c; i++)
    for (let j = 0; j < c; j++)
      out[i * width + j] = i === j ? 1 : o[i * width + j]! / (q[i]! * q[j]!);
  const put = (a: number, b: number, value: number): void => {
    out[a * width + b] = value;
    out[b * width + a] = value;
  };
  return products.map(([x, z], at) => {
    const row = c + at;
    for (let y = 0; y < c; y++) put(row, y, o[row * width + y]! / (q[x]! * q[z]! * q[y]!));
    const both = rho[x]! * rho[z]!;
    const variance = o[row * width + row]!;
    put(row, row, (variance - (1 - both)) / both);
    for (let k = 0; k < at; k++)
      put(row, c + k, between(o, width, [products[at]!, products[k]!], [row, c + k], rho, q));
    return 1 - (1 - both) / variance;
  });
}

/** Of two products, which may have one construct in common. */
function between(
  o: Float64Array,
  width: number,
  [first, second]: [readonly [number, number], readonly [number, number]],
  [row, column]: [number, number],
  rho: Float64Array,
  q: number[],
): number {
  const value = o[row * width + column]!;
  const common = first.find((name) => second.includes(name));
  if (common === undefined)
    return value / (q[first[0]]! * q[first[1]]! * q[second[0]]! * q[second[1]]!);
  const z = first[0] === common ? first[1] : first[0];
  const v = second[0] === common ? second[1] : second[0];
  return (value - (1 - rho[common]!) * o[z * width + v]!) / (rho[common]! * q[z]! * q[v]!);
}
