import { plain, type CodeColumn, type Coding } from "../../../core";

export const CODINGS: [Coding, string, string][] = [
  ["indicator", "indicator", "each level against the reference"],
  ["sequential", "sequential", "each level against the one before"],
  ["helmert", "Helmert", "later levels against each level"],
  ["effect", "effect", "each level against the mean of all"],
];

/** The codes that stand for each level in an equation, and what each column compares. */
export function CodingTable({
  variable,
  columns,
  levels,
}: {
  variable: string;
  columns: CodeColumn[];
  levels: string[];
}) {
  if (columns.length === 0) return null;
  return (
    <table className="numbers coding-table">
      <caption className="visually-hidden">Coding of {variable}</caption>
      <thead>
        <tr>
          <th scope="col">level</th>
          {columns.map((c) => (
            <th key={c.index} scope="col" title={c.contrast}>
              {variable}.{c.index}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {levels.map((level, i) => (
          <tr key={level}>
            <td>{level}</td>
            {columns.map((c) => (
              <td key={c.index}>
                {Number.isInteger(c.codes[i]) ? c.codes[i] : plain(c.codes[i], 2)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
