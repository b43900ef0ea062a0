import type { Reader } from "./reader";
import type { Formula, NameRef } from "./syntax";

const CALLS = ["abs", "sqrt", "exp", "ln"] as const;

/**
 * sum := product { (+|-) product } ; the usual precedence of arithmetic.
 * @throws LineError for what is none, and for more parts than a quantity has
 */
export function readFormula(reader: Reader): Formula {
  let left = readProduct(reader);
  while (reader.isMark("+") || reader.isMark("-")) {
    const operator = reader.take().text as "+" | "-";
    left = { kind: "binary", operator, left, right: readProduct(reader) };
  }
  return left;
}

function readProduct(reader: Reader): Formula {
  let left = readAtom(reader);
  while (reader.isMark("*") || reader.isMark("/")) {
    const operator = reader.take().text as "*" | "/";
    left = { kind: "binary", operator, left, right: readAtom(reader) };
  }
  return left;
}

function readAtom(reader: Reader): Formula {
  reader.countPart();
  if (reader.takeIf("-")) return { kind: "negative", of: readAtom(reader) };
  if (reader.takeIf("(")) {
    const inner = readFormula(reader);
    reader.expect(")", "every bracket is closed");
    return inner;
  }
  const token = reader.peek();
  if (token?.kind === "number") return { kind: "number", value: Number(reader.take().text) };
  const call = CALLS.find((name) => token?.kind === "word" && token.text === name);
  if (call && reader.peek(1)?.text === "(") {
    reader.take();
    reader.take();
    const of = readFormula(reader);
    reader.expect(")", "every bracket is closed");
    return { kind: "call", name: call, of };
  }
  if (reader.isWord("direct", "indirect", "total")) return readEffect(reader);
  return {
    kind: "label",
    ref: reader.name(
      "a number, an effect (“total hours to belonging”) or the label of a sentence (“H1”)",
    ),
  };
}

function readEffect(reader: Reader): Formula {
  const which = reader.take().text as "direct" | "indirect" | "total";
  const from = reader.variable("the variable the effect starts from");
  reader.expect("to", `an effect is written “${which} ${from.name} to …”`);
  const to = reader.variable("the variable the effect ends in");
  const chain: NameRef[] = [];
  if (which === "indirect" && reader.takeIf("through")) {
    chain.push(reader.variable("a mediator"));
    while (reader.takeIf("then")) chain.push(reader.variable("a mediator"));
  }
  return { kind: "effect", which, from, to, chain };
}
