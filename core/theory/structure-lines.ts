import { nearestName } from "./nearest";
import type { Reader } from "./reader";
import {
  GROUP_PARTS,
  type ArrowRef,
  type Covary,
  type Free,
  type GroupPart,
  type Groups,
  type Hold,
} from "./syntax";

const COVARY = "a covariance reads “covary conf1 with conf2”";
const HOLD =
  "a constraint reads “hold hours to friends at 0” or “hold confidence to conf2 equal to confidence to conf3”";
const FREE = "what is estimated reads “free intercept of belonging2”";
const GROUPS = "groups read “groups by site with loadings and intercepts equal”";

/** covary := NAME with NAME [at NUMBER] {, NAME with NAME [at NUMBER]} */
export function readCovary(reader: Reader, line: number): Covary {
  const pairs: Covary["pairs"] = [];
  // “covary residuals of a, b, c”: every two of them.
  if (reader.isWord("residuals")) {
    reader.take();
    reader.expect("of", COVARY);
    const names = reader.variableList("a variable that covaries");
    if (names.length < 2) reader.fail(`It takes two to covary; ${COVARY}.`);
    reader.end(COVARY);
    return {
      kind: "covary",
      line,
      pairs: names.flatMap((b, i) => names.slice(0, i).map((a) => ({ a, b, value: null }))),
    };
  }
  do {
    const a = reader.variable("a variable that covaries");
    reader.expect("with", COVARY);
    const b = reader.variable("the variable it covaries with");
    if (a.name === b.name) reader.fail(`“${a.name}” does not covary with itself; ${COVARY}.`);
    pairs.push({ a, b, value: reader.takeIf("at") ? reader.number(COVARY) : null });
  } while (reader.takeIf(",") || reader.takeIf("and"));
  reader.end(COVARY);
  return { kind: "covary", line, pairs };
}

/** hold := ARROW (equal to ARROW {equal to ARROW} | {, ARROW} at NUMBER) */
export function readHold(reader: Reader, line: number): Hold {
  const arrows = [readArrow(reader)];
  if (reader.isWord("equal")) {
    while (reader.takeIf("equal")) {
      reader.expect("to", HOLD);
      arrows.push(readArrow(reader));
    }
    const kinds = new Set(arrows.map((arrow) => arrow.kind));
    if (kinds.size > 1) reader.fail("Only what is of one kind can be held equal.");
    reader.end(HOLD);
    return { kind: "hold", line, arrows, value: null };
  }
  while (reader.takeIf(",") || reader.takeIf("and")) arrows.push(readArrow(reader));
  reader.expect("at", HOLD);
  const value = reader.number(HOLD);
  reader.end(HOLD);
  return { kind: "hold", line, arrows, value };
}

/** free := ARROW {, ARROW} */
export function readFree(reader: Reader, line: number): Free {
  const arrows = [readArrow(reader)];
  while (reader.takeIf(",") || reader.takeIf("and")) arrows.push(readArrow(reader));
  reader.end(FREE);
  return { kind: "free", line, arrows };
}

/** groups := by NAME [with PART {and PART} equal] [but ARROW {and ARROW} free] */
export function readGroups(reader: Reader, line: number): Groups {
  reader.expect("by", GROUPS);
  const by = reader.variable("the column that tells the groups");
  const equal: GroupPart[] = [];
  if (reader.takeIf("with")) {
    do equal.push(readPart(reader));
    while (reader.takeIf(",") || reader.takeIf("and"));
    reader.expect("equal", GROUPS);
  }
  const free: ArrowRef[] = [];
  if (reader.takeIf("but")) {
    do free.push(readArrow(reader));
    while (reader.takeIf(",") || reader.takeIf("and"));
    reader.expect("free", GROUPS);
  }
  reader.end(GROUPS);
  return { kind: "groups", line, by, equal: GROUP_PARTS.filter((p) => equal.includes(p)), free };
}

function readPart(reader: Reader): GroupPart {
  const word = reader.peek()?.text ?? "";
  const part = GROUP_PARTS.find((each) => each === word);
  if (!part)
    reader.fail(
      `Expected ${GROUP_PARTS.map((p) => `“${p}”`).join(", ")} here: ${GROUPS}.`,
      nearestName(word, GROUP_PARTS),
    );
  reader.take();
  return part;
}

/** ARROW := NAME to NAME | NAME with NAME | variance of NAME | intercept of NAME */
function readArrow(reader: Reader): ArrowRef {
  for (const kind of ["variance", "intercept"] as const)
    if (reader.isWord(kind) && reader.peek(1)?.text === "of") {
      reader.take();
      reader.take();
      return { kind, of: reader.variable(`the variable whose ${kind} it is`) };
    }
  const from = reader.variable("the variable where the arrow starts");
  if (reader.takeIf("with"))
    return { kind: "covariance", from, to: reader.variable("the variable it covaries with") };
  reader.expect("to", HOLD);
  return { kind: "path", from, to: reader.variable("the variable where the arrow ends") };
}
