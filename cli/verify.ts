import type { Verification } from "../formats/pack";

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
