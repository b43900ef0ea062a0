import { exp, ln } from "../numerics/elementary";
import type { Expression } from "./expression";

/**
 * Evaluates expressions on many parameter vectors at once, one operation at a time over whole
 * columns, which is about three times faster than vector by vector; the numbers are those of
 * `compileExpression`, to the last bit. What several expressions have in common is worked out once.
 */
export class ColumnEvaluator {
  private readonly shared = new Map<string, Float64Array | number>();
  private readonly uses = new Map<string, number>();
  private readonly keys = new WeakMap<Expression, string>();

  /**
   * @param expressions that will be asked for
   * @param column the values of one parameter in every vector; @param count how many vectors
   */
  constructor(
    expressions: readonly Expression[],
    private readonly column: (index: number) => Float64Array,
    private readonly count: number,
  ) {
    for (const e of expressions) this.note(e);
  }

  /** The value of an expression in every vector; a new array. */
  evaluate(e: Expression): Float64Array {
    const found = this.find(e);
    if (typeof found === "number") return new Float64Array(this.count).fill(found);
    // What is shared, and the parameters themselves, must not be written over by who asks.
    return e.op === "parameter" || this.shared.get(this.keyOf(e)) === found ? found.slice() : found;
  }

  /** Counts how often each part is needed, looking into a part only the first time. */
  private note(e: Expression): void {
    if (e.op === "number" || e.op === "parameter") return;
    const key = this.keyOf(e);
    const before = this.uses.get(key) ?? 0;
    this.uses.set(key, before + 1);
    if (before > 0) return;
    this.note(e.a);
    if ("b" in e) this.note(e.b);
  }

  private keyOf(e: Expression): string {
    if (e.op === "number") return String(e.value);
    if (e.op === "parameter") return `p${e.index}`;
    let key = this.keys.get(e);
    if (key === undefined) {
      key =
        "b" in e
          ? `(${this.keyOf(e.a)} ${e.op} ${this.keyOf(e.b)})`
          : `${e.op}(${this.keyOf(e.a)})`;
      this.keys.set(e, key);
    }
    return key;
  }

  private find(e: Expression): Float64Array | number {
    if (e.op === "number") return e.value;
    if (e.op === "parameter") return this.column(e.index);
    const key = this.keyOf(e);
    const known = this.shared.get(key);
    if (known !== undefined) return known;
    const found =
      "b" in e
        ? binary(e.op, this.find(e.a), this.find(e.b), this.count)
        : unary(e.op, this.find(e.a));
    if ((this.uses.get(key) ?? 0) > 1) this.shared.set(key, found);
    return found;
  }
}

type Operand = Float64Array | number;
type BinaryOp = Extract<Expression, { b: Expression }>["op"];

function binary(op: BinaryOp, a: Operand, b: Operand, count: number): Operand {
  if (typeof a === "number" && typeof b === "number")
    return { add: a + b, subtract: a - b, multiply: a * b, divide: a / b }[op];
  const out = new Float64Array(count);
  if (typeof a === "number") scalarFirst(op, a, b as Float64Array, out);
  else if (typeof b === "number") scalarLast(op, a, b, out);
  else both(op, a, b, out);
  return out;
}

function both(op: BinaryOp, a: Float64Array, b: Float64Array, out: Float64Array): void {
  const n = out.length;
  if (op === "add") for (let i = 0; i < n; i++) out[i] = a[i]! + b[i]!;
  else if (op === "subtract") for (let i = 0; i < n; i++) out[i] = a[i]! - b[i]!;
  else if (op === "multiply") for (let i = 0; i < n; i++) out[i] = a[i]! * b[i]!;
  else for (let i = 0; i < n; i++) out[i] = a[i]! / b[i]!;
}

function scalarFirst(op: BinaryOp, a: number, b: Float64Array, out: Float64Array): void {
  const n = out.length;
  if (op === "add") for (let i = 0; i < n; i++) out[i] = a + b[i]!;
  else if (op === "subtract") for (let i = 0; i < n; i++) out[i] = a - b[i]!;
  else if (op === "multiply") for (let i = 0; i < n; i++) out[i] = a * b[i]!;
  else for (let i = 0; i < n; i++) out[i] = a / b[i]!;
}

function scalarLast(op: BinaryOp, a: Float64Array, b: number, out: Float64Array): void {
  const n = out.length;
  if (op === "add") for (let i = 0; i < n; i++) out[i] = a[i]! + b;
  else if (op === "subtract") for (let i = 0; i < n; i++) out[i] = a[i]! - b;
  else if (op === "multiply") for (let i = 0; i < n; i++) out[i] = a[i]! * b;
  else for (let i = 0; i < n; i++) out[i] = a[i]! / b;
}

function unary(op: "abs" | "sqrt" | "exp" | "ln", a: Operand): Operand {
  const f = { abs: Math.abs, sqrt: Math.sqrt, exp, ln }[op];
  return typeof a === "number" ? f(a) : a.map(f);
}
