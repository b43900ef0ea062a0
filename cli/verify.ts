import type { FileComparison, Verification } from "../formats/pack";

/** Differences that are told one by one. */
const MOST = 40;

/** What a run says of a pack: how many numbers of each part are the same, and which are not. */
export function verificationWords({ numbers, differences }: Verification): string {
  const lines = [...numbers].map(([part, count]) => {
    const off = differences.filter((d) => d.path === part || /^[^.[]*/.exec(d.path)![0] === part);
    return `${off.length === 0 ? "same     " : "DIFFERENT"}  ${part}: ${count - Math.min(count, off.length)} of ${count} numbers`;
  });
  const told = differences
    .slice(0, MOST)
    .map(({ path, kept, now }) => `  ${path}: was ${kept}, is ${now}`);
  const rest = differences.length > MOST ? [`  and ${differences.length - MOST} more`] : [];
  const all = [...numbers.values()].reduce((sum, n) => sum + n, 0);
  return [
    ...lines,
    ...told,
    ...rest,
    differences.length === 0
      ? `All ${all} numbers are the same, to the last digit.`
      : `${differences.length} are not the same.`,
  ].join("\n");
}

const STATES: Record<FileComparison["state"], string> = {
  same: "same     ",
  different: "DIFFERENT",
  missing: "MISSING  ",
  unknown: "NOT OURS ",
};

/** What a run says of the files of a pack. */
export function fileWords(files: readonly FileComparison[]): string {
  if (files.length === 0) return "No files are compared: there is nothing to report.";
  const lines = files.flatMap(({ name, state, where }) => [
    `${STATES[state]}  ${name}`,
    ...(where ? [`  line ${where.line}: was “${where.kept}”, is “${where.now}”`] : []),
  ]);
  const off = files.filter((f) => f.state !== "same").length;
  return [
    ...lines,
    off === 0
      ? `All ${files.length} files beside study and evidence are the same (of report.docx its words).`
      : `${off} of ${files.length} files are not the same.`,
  ].join("\n");
}
