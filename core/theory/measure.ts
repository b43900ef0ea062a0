import { nearestName } from "./nearest";
import type { Reader } from "./reader";
import type { Measure, MeasureForm } from "./syntax";

export const MEASURE_FORMS: MeasureForm[] = ["averages", "sums", "reflects", "combines"];
const EXAMPLE = "a measure reads “measure support averages sup1, sup2, reversed sup3 on 1 to 5”";

/**
 * measure := NAME form item {, item} [on LOW to HIGH] [weighted (by correlation | by regression | equally)] [signed by ITEM]
 *   [scaled by ITEM | with reliability R | with variance 1] [with (N % | all) answered]
 * @param columns names that are taken by columns of the data
 * @param measures names of all measures, which cannot be items
 */
export function readMeasure(
  reader: Reader,
  line: number,
  columns: readonly string[],
  measures: readonly string[],
): Measure {
  if (reader.peek() && columns.includes(reader.peek()!.text)) {
    reader.fail(
      `“${reader.peek()!.text}” is already a column of the data. Give the measure a name of its own.`,
      `${reader.peek()!.text}_scale`,
    );
  }
  const name = reader.name("a name for the measure");
  if (!reader.isWord(...MEASURE_FORMS)) {
    const near = nearestName(reader.peek()?.text ?? "", MEASURE_FORMS);
    reader.fail(
      `Expected “averages”, “sums”, “reflects” or “combines” after “${name.name}”: ${EXAMPLE}.`,
      near,
    );
  }
  const form = reader.take().text as MeasureForm;
  const items: Measure["items"] = [];
  do {
    reader.takeIf("and");
    const reversed = reader.takeIf("reversed");
    const factor = form === "reflects" && reader.peek() && reader.peek()!.text !== name.name;
    if (reader.peek() && !factor && measures.includes(reader.peek()!.text)) {
      reader.fail(`“${reader.peek()!.text}” is a measure itself; items are columns of the data.`);
    }
    if (reader.peek() && items.some((item) => item.ref.name === reader.peek()!.text)) {
      reader.fail(`“${reader.peek()!.text}” is an item of “${name.name}” already.`);
    }
    items.push({ ref: reader.variable("an item"), reversed });
  } while (reader.takeIf(",") || reader.isWord("and"));
  const scale = reader.takeIf("on") ? readScale(reader) : null;
  const composite = form === "combines" ? readWeighting(reader) : {};
  const sign = form === "combines" || form === "reflects" ? readSign(reader, items) : {};
  const latent = form === "reflects" ? readScaling(reader, items) : {};
  const answered = reader.takeIf("with") ? readAnswered(reader) : null;
  reader.end(EXAMPLE);
  return {
    kind: "measure",
    line,
    name,
    form,
    items,
    scale,
    answered,
    ...composite,
    ...sign,
    ...latent,
  };
}

/** `weighted by regression`, `weighted equally` */
function readWeighting(reader: Reader): Pick<Measure, "weighting"> {
  if (!reader.takeIf("weighted")) return {};
  const ways =
    "weights read “weighted by correlation”, “weighted by regression” or “weighted equally”";
  if (reader.takeIf("equally")) return { weighting: "equal" };
  reader.expect("by", ways);
  if (!reader.isWord("correlation", "regression"))
    reader.fail(`Expected a way of weighting: ${ways}.`);
  return { weighting: reader.take().text as "correlation" | "regression" };
}

/** `signed by days` */
function readSign(reader: Reader, items: Measure["items"]): Pick<Measure, "signedBy"> {
  if (!reader.takeIf("signed")) return {};
  reader.expect("by", "the direction of a score is given so: “signed by days”");
  const ref = reader.variable("the item that the score goes with");
  if (!items.some((item) => item.ref.name === ref.name))
    reader.fail(`“${ref.name}” is not among the items, so it cannot give the sign.`);
  return { signedBy: ref };
}

/**
 * `with reliability 0.8`, `with variance 1`, `scaled by conf2`: what a latent variable takes its
 * scale from.
 */
function readScaling(
  reader: Reader,
  items: Measure["items"],
): Pick<Measure, "reliability" | "scaledBy"> {
  if (reader.takeIf("scaled")) {
    reader.expect("by", "the scale is named so: “scaled by conf2”");
    const ref = reader.variable("the item that gives the scale");
    if (!items.some((item) => item.ref.name === ref.name))
      reader.fail(`“${ref.name}” is not among the items, so it cannot give the scale.`);
    return { scaledBy: ref };
  }
  if (!reader.isWord("with")) return {};
  const next = reader.peek(1)?.text;
  if (next === "reliability") {
    reader.take();
    reader.take();
    if (reader.peek()?.kind !== "number")
      reader.fail("Expected a number here: “with reliability 0.8”.");
    const reliability = Number(reader.peek()!.text);
    if (items.length > 1)
      reader.fail("A reliability is given for a single item; with several items it is estimated.");
    if (!(reliability > 0 && reliability <= 1))
      reader.fail(`A reliability lies above 0 and up to 1, ${reliability} does not.`);
    reader.take();
    return { reliability };
  }
  if (next !== "variance") return {};
  reader.take();
  reader.take();
  if (reader.peek()?.text !== "1")
    reader.fail("A latent variable is scaled so: “with variance 1”.");
  reader.take();
  return { scaledBy: "variance" };
}

function readScale(reader: Reader): [number, number] {
  const low = readNumber(reader);
  reader.expect("to", "the limits of a scale read “on 1 to 5”");
  const high = readNumber(reader);
  if (!(low < high))
    reader.fail(`A scale runs from its lowest to its highest answer, not from ${low} to ${high}.`);
  return [low, high];
}

function readNumber(reader: Reader): number {
  const sign = reader.takeIf("-") ? -1 : 1;
  if (reader.peek()?.kind !== "number")
    reader.fail("Expected a number here: the limits of a scale read “on 1 to 5”.");
  return sign * Number(reader.take().text);
}

function readAnswered(reader: Reader): number {
  const rule = "the rule for missing answers reads “with 80 % answered” or “with all answered”";
  const all = reader.takeIf("all");
  if (!all && reader.peek()?.kind !== "number") reader.fail(`Expected a percentage here: ${rule}.`);
  const percent = all ? 100 : Number(reader.take().text);
  if (!all) reader.expect("%", rule);
  reader.expect("answered", rule);
  if (!(percent > 0 && percent <= 100))
    reader.fail(`${percent} % is not a share of items; ${rule}.`);
  return percent;
}
