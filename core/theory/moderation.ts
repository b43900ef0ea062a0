import type { Reader } from "./reader";
import type { Moderation, NameRef } from "./syntax";
import { moderationVerbOf, THROUGH } from "./verbs";

const EXAMPLE = "a moderation reads “support strengthens hours to confidence”";

/**
 * moderation := NAME [with NAME] verb FROM to TO [[only] through M {then M}] [on A to B {and A to
 * B}]
 */
export function readModeration(
  reader: Reader,
  line: number,
  label: string,
  first: NameRef,
): Moderation {
  const moderators = [first];
  if (reader.takeIf("with"))
    moderators.push(reader.comparable("the moderator that acts together with it"));
  const said = moderationVerbOf(reader.peek());
  if (!said) reader.fail(`Expected “strengthens”, “weakens” or “alters” here: ${EXAMPLE}.`);
  reader.take();
  const { verb, plural } = said;
  const from = reader.comparable("the variable whose effect is moderated");
  reader.expect("to", EXAMPLE);
  const to = reader.variable("the variable it has its effect on");
  const only = reader.takeIf("only");
  const chain: NameRef[] = [];
  if (only && !reader.isWord(...THROUGH)) reader.fail("Expected “through” after “only”.");
  if (THROUGH.some((word) => reader.takeIf(word))) {
    do chain.push(reader.variable("a mediator"));
    while (reader.takeIf("then"));
  }
  const steps: Moderation["steps"] = [];
  if (reader.takeIf("on")) {
    do {
      const start = reader.variable("the variable a step starts from");
      reader.expect("to", `a step is written “on ${start.name} to …”`);
      steps.push({ from: start, to: reader.variable("the variable the step ends in") });
    } while (reader.takeIf("and"));
  }
  reader.end(EXAMPLE);
  return {
    kind: "moderation",
    line,
    label,
    numbered: label === "",
    moderators,
    verb,
    ...(plural ? { plural } : {}),
    from,
    to,
    chain,
    only,
    steps,
  };
}
