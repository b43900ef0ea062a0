import { exp, ln, log10, pow } from "../numerics/elementary";
import { standardDeviation } from "../numerics/moments";
import { StudyProblem } from "../problems";
import type { FunctionName, Node, Operator } from "./formula-syntax";

/** What a formula reads of the data. */
export interface FormulaSource {
  rows: number;
  /** Numbers of a column, NaN where missing. @throws StudyProblem for an unknown or wordy column */
  numbers: (name: string) => Float64Array;
  /** The trimmed cells of a column, null where missing. */
  texts: (name: string) => (row: number) => string | null;
}

type Value = (row: number) => number;

/**
 * The value of a formula in every row. A missing value makes arithmetic and comparisons missing;
 * mean, sum, min, max, sd and count work on the values present; true is 1 and false is 0.
 */
export function formulaValues(node: Node, source: FormulaSource): Float64Array {
  const value = compile(node, source);
  const out = new Float64Array(source.rows);
  for (let i = 0; i < out.length; i++) {
    const v = value(i);
    out[i] = Number.isFinite(v) ? v : NaN;
  }
  return out;
}

function compile(node: Node, source: FormulaSource): Value {
  switch (node.kind) {
    case "number":
      return () => node.value;
    case "text":
      throw new StudyProblem(
        "text_alone",
        { text: node.value },
        {
          column: node.at + 1,
        },
      );
    case "column": {
      const values = source.numbers(node.name);
      return (i) => values[i]!;
    }
    case "negative": {
      const of = compile(node.of, source);
      return (i) => -of(i);
    }
    case "not": {
      const of = compile(node.of, source);
      return (i) => {
        const v = of(i);
        return Number.isNaN(v) ? NaN : v === 0 ? 1 : 0;
      };
    }
    case "binary":
      return (
        textComparison(node, source) ??
        joined(node.operator, compile(node.left, source), compile(node.right, source))
      );
    case "chain":
      return chained(node, source);
    case "call":
      return call(node.name, node.args, source);
  }
}

/** column = 'text' or column != 'text', either way round. */
function textComparison(
  node: Extract<Node, { kind: "binary" }>,
  source: FormulaSource,
): Value | null {
  const { left, right, operator } = node;
  const text = right.kind === "text" ? right : left.kind === "text" ? left : null;
  if (!text) return null;
  const other = text === right ? left : right;
  if (other.kind !== "column" || (operator !== "=" && operator !== "!=")) {
    throw new StudyProblem(
      "text_ordered",
      { text: text.value },
      {
        column: text.at + 1,
      },
    );
  }
  const cells = source.texts(other.name);
  const wanted = operator === "=";
  return (i) => {
    const cell = cells(i);
    return cell === null ? NaN : (cell === text.value) === wanted ? 1 : 0;
  };
}

const truth = (value: boolean): number => (value ? 1 : 0);

function joined(operator: Operator, a: Value, b: Value): Value {
  const join = OPERATORS[operator];
  return (i) => join(a(i), b(i));
}

/** Operands of one rank, from left to right. */
function chained({ first, rest }: Extract<Node, { kind: "chain" }>, source: FormulaSource): Value {
  const begin = compile(first, source);
  const joins = rest.map(({ operator }) => OPERATORS[operator]);
  const values = rest.map(({ of }) => compile(of, source));
  return (i) => {
    let value = begin(i);
    for (let k = 0; k < values.length; k++) value = joins[k]!(value, values[k]!(i));
    return value;
  };
}

/** A comparison, missing where an operand is. */
const compared =
  (test: (x: number, y: number) => boolean) =>
  (x: number, y: number): number =>
    Number.isNaN(x) || Number.isNaN(y) ? NaN : truth(test(x, y));

const yes = (v: number): boolean => !Number.isNaN(v) && v !== 0;

/** What operators make of two values; one side of “and” and “or” may decide alone. */
const OPERATORS: Record<Operator, (x: number, y: number) => number> = {
  "+": (x, y) => x + y,
  "-": (x, y) => x - y,
  "*": (x, y) => x * y,
  "/": (x, y) => x / y,
  "^": pow,
  "=": compared((x, y) => x === y),
  "!=": compared((x, y) => x !== y),
  "<": compared((x, y) => x < y),
  "<=": compared((x, y) => x <= y),
  ">": compared((x, y) => x > y),
  ">=": compared((x, y) => x >= y),
  and: (x, y) => (x === 0 || y === 0 ? 0 : Number.isNaN(x) || Number.isNaN(y) ? NaN : 1),
  or: (x, y) => (yes(x) || yes(y) ? 1 : Number.isNaN(x) || Number.isNaN(y) ? NaN : 0),
};

const OF_ONE: Partial<Record<FunctionName, (x: number) => number>> = {
  abs: Math.abs,
  sqrt: Math.sqrt,
  exp,
  ln,
  log10,
  floor: Math.floor,
};

/** Over the values present; none present is missing. */
const OF_MANY: Partial<Record<FunctionName, (present: number[]) => number>> = {
  min: (x) => (x.length > 0 ? Math.min(...x) : NaN),
  max: (x) => (x.length > 0 ? Math.max(...x) : NaN),
  mean: (x) => (x.length > 0 ? x.reduce((a, b) => a + b, 0) / x.length : NaN),
  sum: (x) => (x.length > 0 ? x.reduce((a, b) => a + b, 0) : NaN),
  sd: (x) => standardDeviation(x),
  count: (x) => x.length,
};

function call(name: FunctionName, args: Node[], source: FormulaSource): Value {
  if (name === "missing") return missing(args[0]!, source);
  const values = args.map((arg) => compile(arg, source));
  const one = OF_ONE[name];
  if (one) return (i) => one(values[0]!(i));
  const many = OF_MANY[name];
  if (many) return (i) => many(values.map((v) => v(i)).filter((v) => !Number.isNaN(v)));
  if (name === "round") {
    return (i) => {
      const scale = pow(10, Math.round(values[1]?.(i) ?? 0));
      return Math.round(values[0]!(i) * scale) / scale;
    };
  }
  return (i) => {
    const condition = values[0]!(i);
    return Number.isNaN(condition) ? NaN : condition !== 0 ? values[1]!(i) : values[2]!(i);
  };
}

function missing(of: Node, source: FormulaSource): Value {
  if (of.kind === "column") {
    const cells = source.texts(of.name);
    return (i) => truth(cells(i) === null);
  }
  const value = compile(of, source);
  return (i) => truth(Number.isNaN(value(i)));
}
