import { styled } from "@mui/material/styles";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import { WorkingView } from "../ui/working-view";
import { Wide } from "../ui/wide";
import { TintedTable } from "./correlation-map";
import { littleWorking, pClause, percent, plain, type SetEvidence } from "../../../core";

const Patterns = styled(TintedTable)({
  "& td.there, & td.gap": {
    width: 30,
    minWidth: 30,
    height: 16,
    backgroundColor: "var(--petrol-wash)",
  },
  "& td.gap": {
    background:
      "repeating-linear-gradient(45deg, var(--rust), var(--rust) 3px, var(--rust-wash) 3px, var(--rust-wash) 6px)",
  },
  "& .count": { textAlign: "right", padding: "0 8px !important" },
  "& td.bar": { width: 160 },
  "& td.bar span": { display: "block", height: 10, backgroundColor: "var(--muted-bar)" },
});

const MOST_PATTERNS = 14;

/** Which answers are missing together, and whether the gaps look random. */
export function MissingPatternsPicture({ set }: { set: SetEvidence }) {
  const { patterns, variables, completeRows, completeShare } = set.patterns;
  const most = Math.max(...patterns.map((p) => p.count), 1);
  const shown = patterns.slice(0, MOST_PATTERNS);
  if (patterns.length === 1 && completeRows > 0)
    return <p className="serif">No value is missing on these variables.</p>;
  return (
    <>
      <p className="quiet">
        {completeRows} rows ({percent(Number(completeShare.toFixed(3)))} %) are complete;{" "}
        {patterns.length} patterns.
      </p>
      <Wide label="Patterns of missing answers">
        <Patterns>
          <TableHead>
            <TableRow>
              {variables.map((name) => (
                <TableCell key={name} scope="col">
                  <span>{name}</span>
                </TableCell>
              ))}
              <TableCell scope="col" className="count">
                rows
              </TableCell>
              <TableCell />
            </TableRow>
          </TableHead>
          <TableBody>
            {shown.map(({ key, count }) => (
              <TableRow key={key}>
                {[...key].map((mark, j) => (
                  <TableCell key={variables[j]} className={mark === "0" ? "gap" : "there"}>
                    <span className="visually-hidden">{mark === "0" ? "missing" : "answered"}</span>
                  </TableCell>
                ))}
                <TableCell className="count">{count}</TableCell>
                <TableCell className="bar">
                  <span style={{ width: `${(100 * count) / most}%` }} />
                </TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Patterns>
      </Wide>
      {patterns.length > MOST_PATTERNS && (
        <p className="quiet">{patterns.length - MOST_PATTERNS} rarer patterns are not drawn.</p>
      )}
      <LittleSentence set={set} />
    </>
  );
}

function LittleSentence({ set }: { set: SetEvidence }) {
  const { value, problem } = set.little;
  if (problem) return <p className="quiet">Little&apos;s test: {problem.message}</p>;
  if (value.p === null) return null;
  return (
    <>
      <p className="serif">
        Little&apos;s test that the gaps are completely random: χ² {plain(value.d2, 2)}, df{" "}
        {value.df}, {pClause(value.p)}.{" "}
        {value.p < 0.05
          ? "Who did not answer seems to matter."
          : "No departure found, which is no proof."}
      </p>
      <WorkingView working={littleWorking(value)} />
    </>
  );
}
