import type { ArrowModel } from "./arrows";
import { directionsOf } from "./directions";
import { ImpliedMoments } from "./implied";
import { REFIT_WASM } from "./wasm/refit.wasm";

const PAGE = 65_536;
const BYTES = 8;
/** Integers of the layout: sizes and places. */
const LAYOUT = 40;

interface Exports {
  setup(at: number): void;
  fit(n: number): number;
}

/**
 * A warm refit of one group of complete cases without means, whole in WebAssembly: the steps of
 * `WarmRefit`, five times as fast. Every engine that runs WebAssembly gives the same bits.
 */
export class CompiledRefit {
  readonly theta: Float64Array;
  /** Where a resample's covariances are written, p x p. */
  readonly covariance: Float64Array;
  /** What is implied at the estimates, after `fit`. */
  readonly implied: Pick<ImpliedMoments, "E" | "S" | "v" | "p">;

  private constructor(
    private readonly exports: Exports,
    views: Record<"theta" | "R" | "E" | "S", Float64Array>,
    v: number,
    p: number,
  ) {
    this.theta = views.theta;
    this.covariance = views.R;
    this.implied = { E: views.E, S: views.S, v, p };
  }

  /** @returns whether it converged */
  fit(n: number): boolean {
    return this.exports.fit(n) === 1;
  }

  /**
   * @param inverse of the information of one case, q x q
   * @returns null where WebAssembly is not to be had
   */
  static of(model: ArrowModel, start: Float64Array, inverse: Float64Array): CompiledRefit | null {
    const module = compile();
    if (!module) return null;
    const implied = new ImpliedMoments(model);
    const { v, p, q } = implied;
    const { integers, sizes } = planOf(model, implied);
    const { count, half } = directionsOf(model);
    const numbers: Record<string, number> = {
      ...{ half: count, start: q, H0: q * q, R: p * p, theta: q, next: q, slope: q, step: q },
      ...{ score: q, H: q * q, A: v * v, S: v * v, B: v * v, E: v * v, SB: v * v },
      ...{ L: p * p, inverse: p * p, W: p * p, T: p * p, M: p * p },
    };
    const whole = LAYOUT + integers.reduce((sum, list) => sum + list.length, 0);
    const first = Math.ceil((START + whole * 4) / BYTES) * BYTES;
    const total = first + Object.values(numbers).reduce((sum, n) => sum + n, 0) * BYTES;
    const memory = new WebAssembly.Memory({ initial: Math.ceil(total / PAGE) });
    const layout = new Int32Array(memory.buffer, START, whole);
    layout.set(sizes);
    let at = LAYOUT;
    integers.forEach((list, k) => {
      layout[sizes.length + k] = START + at * 4;
      layout.set(list, at);
      at += list.length;
    });
    const views: Record<string, Float64Array> = {};
    let offset = first;
    Object.entries(numbers).forEach(([name, length], k) => {
      layout[sizes.length + integers.length + k] = offset;
      views[name] = new Float64Array(memory.buffer, offset, length);
      offset += length * BYTES;
    });
    views.half!.set(half);
    views.start!.set(start);
    views.H0!.set(inverse);
    views.A!.set(implied.A);
    views.S!.set(implied.S);
    const { exports } = new WebAssembly.Instance(module, { env: { memory } });
    (exports as unknown as Exports).setup(START);
    return new CompiledRefit(
      exports as unknown as Exports,
      views as Record<"theta" | "R" | "E" | "S", Float64Array>,
      v,
      p,
    );
  }
}

/** Below this the compiler keeps tables of its own. */
const START = 65_536;

/** Integers of a model in the order of the layout, after its sizes. */
function planOf(
  model: ArrowModel,
  implied: ImpliedMoments,
): { integers: Int32Array[]; sizes: number[] } {
  const directions = directionsOf(model);
  const { places, paths, elements } = implied.layout;
  const reachStart = new Int32Array(implied.v + 1);
  directions.reach.forEach((list, i) => (reachStart[i + 1] = reachStart[i]! + list.length));
  return {
    sizes: [
      implied.v,
      implied.p,
      implied.q,
      places.parameter.length,
      paths.rows.length,
      elements.rows.length,
      directions.count,
    ],
    integers: [
      places.parameter,
      places.at,
      Int32Array.from(places.matrix),
      paths.rows,
      paths.columns,
      elements.rows,
      elements.columns,
      directions.parameter,
      Int32Array.from(directions.kind),
      directions.row,
      directions.column,
      reachStart,
      Int32Array.from(directions.reach.flatMap((list) => [...list])),
    ],
  };
}

let held: WebAssembly.Module | null | undefined;

/** The module, compiled once; null where the browser forbids or does not know it. */
function compile(): WebAssembly.Module | null {
  if (held !== undefined) return held;
  try {
    held = new WebAssembly.Module(Uint8Array.from(atob(REFIT_WASM), (c) => c.charCodeAt(0)));
  } catch {
    held = null;
  }
  return held;
}
