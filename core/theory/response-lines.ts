import { nearestName } from "./nearest";
import type { Reader } from "./reader";
import {
  RESPONSE_MODELS,
  type Compare,
  type Control,
  type ResponseModel,
  type ResponseModelId,
} from "./syntax";

const MODEL = "a model of a response reads “model renewed as logistic”";
const COMPARE = "values that are compared read “compare hours at 6 with 2”";
const CONTROL = "values that a mediator is held at read “control hours at 2, 5, 8”";

/** Is the line one of these? Columns may be called so, too; the word after the name tells. */
export const isResponseLine = (reader: Reader, word: "model" | "compare" | "control"): boolean =>
  reader.isWord(word) && reader.peek(2)?.text === (word === "model" ? "as" : "at");

/** What a model is called in a sentence: “negative binomial”. */
export const modelName = (family: ResponseModelId): string => family.replace("_", " ");

/**
 * model := NAME as (linear | logistic | probit | poisson | negative binomial | ordered) [with exposure NAME]
 */
export function readResponseModel(reader: Reader, line: number): ResponseModel {
  const of = reader.variable("the variable whose model it is");
  reader.expect("as", MODEL);
  const word = reader.peek()?.text ?? "";
  const family = RESPONSE_MODELS.find((each) => modelName(each).split(" ")[0] === word);
  if (!family)
    reader.fail(
      `Expected ${RESPONSE_MODELS.map((m) => `“${modelName(m)}”`).join(", ")} here: ${MODEL}.`,
      nearestName(word, RESPONSE_MODELS.map(modelName)),
    );
  reader.take();
  if (family === "negative_binomial")
    reader.expect("binomial", "counts that scatter more read “model visits as negative binomial”");
  const model: ResponseModel = { kind: "model", line, of, family: family as ResponseModelId };
  if (reader.takeIf("with")) {
    reader.expect("exposure", `${MODEL}, for counts with “with exposure months”`);
    model.exposure = reader.variable("the column that says for how long, or among how many");
  }
  reader.end(MODEL);
  return model;
}

/** compare := NAME at NUMBER with NUMBER */
export function readCompare(reader: Reader, line: number): Compare {
  const of = reader.variable("the variable whose values are compared");
  reader.expect("at", COMPARE);
  const upper = reader.number(COMPARE);
  reader.expect("with", COMPARE);
  const lower = reader.number(COMPARE);
  reader.end(COMPARE);
  return { kind: "compare", line, of, values: [upper, lower] };
}

/** control := NAME at NUMBER {, NUMBER} */
export function readControl(reader: Reader, line: number): Control {
  const of = reader.variable("the mediator that is held");
  reader.expect("at", CONTROL);
  const values: number[] = [];
  do values.push(reader.number(CONTROL));
  while (reader.takeIf(",") || reader.takeIf("and"));
  reader.end(CONTROL);
  return { kind: "control", line, of, values };
}
