import { isFromMoments } from "../../evidence";
import { heading, paragraphs, type Part } from "../context";
import { listed } from "../../wording";

/** Who was analysed, who was left out and why, and what screening found. */
export const sample: Part = ({ evidence, data, definition, write }) => {
  const { sample: used, unit } = evidence;
  const noun = unit || "cases";
  const filtered = used.excluded.filter(({ rows }) => rows.length > 0);
  const left = [
    ...filtered.map(({ filter, rows }) => `${rows.length} by the filter “${filter}”`),
    ...(used.dropped.length > 0
      ? [
          `${used.dropped.length} ${used.keepsIncomplete ? "without any answer to" : "with missing values on"} the variables of the model`,
        ]
      : []),
  ];
  const missing = Object.entries(used.missing)
    .filter(([, count]) => count > 0)
    .map(([name, count]) => `${name} (${count})`);
  const codes = definition.variables.filter((v) => (v.missing ?? []).length > 0);
  return [
    heading("Sample and screening"),
    ...paragraphs([
      isFromMoments(evidence)
        ? `The analysis rests on the means and covariances of ${write.count(used.n)} ${noun}; their single values were not known, so nothing could be screened or resampled.`
        : `The data hold ${write.count(used.rowsRead)} ${noun}; ${write.count(used.n)} entered the analysis${left.length > 0 ? `. Left out were ${listed(left)}` : ""}.`,
      missing.length > 0 ? `Values were missing on ${listed(missing)}.` : "",
      codes.length > 0
        ? `Treated as missing: ${listed(codes.map((v) => `${v.missing!.join(", ")} on ${v.name}`))}.`
        : "",
      definition.corrections.length > 0
        ? `${definition.corrections.length} ${definition.corrections.length === 1 ? "value was" : "values were"} corrected by hand before the analysis.`
        : "",
      ...(data
        ? data.findings.filter((f) => f.weight === "look").map((f) => firstSentence(f.message))
        : []),
    ]),
  ];
};

/** What was found, without the advice that follows it. */
const firstSentence = (message: string): string =>
  /^.*?[.!?](?= [\p{Lu}“]|$)/u.exec(message)?.[0] ?? message;
