import { styled } from "@mui/material/styles";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import { useState, type ReactNode } from "react";
import { isMissing, thousands, type Level, type Variable } from "../../../core";
import type { ImportPreview } from "../../workers/importing";
import { LEVELS } from "../levels";
import { Check } from "../ui/check";
import { Select } from "../ui/select";
import { TextInput } from "../ui/text-input";
import { Labelled, Note, ScreenHead } from "../ui/layout";
import { ShortName, ShortNamesChoice } from "./short-names";
import { SuspectedCodes } from "./suspected";

interface Props {
  preview: ImportPreview;
  variables: Variable[];
  asMatrix: boolean;
  layoutChoice: ReactNode;
  setVariables: (variables: Variable[]) => void;
  setAsMatrix: (asMatrix: boolean) => void;
  /** Whether columns may get short names: those of a new study. */
  shorten: boolean;
}

const Frame = styled("div")({
  overflow: "auto",
  maxHeight: "38vh",
  border: "1px solid var(--line)",
  "& th, & td": {
    padding: "4px 9px !important",
    borderRight: "1px solid var(--hair)",
    textAlign: "left",
    whiteSpace: "nowrap !important",
    maxWidth: 200,
    overflow: "hidden",
    textOverflow: "ellipsis",
    fontSize: 13,
  },
  "& th": {
    position: "sticky",
    top: 0,
    backgroundColor: "var(--sheet)",
    color: "var(--ink)",
    fontWeight: 600,
    zIndex: 1,
  },
  "& th > .MuiInputBase-root input": {
    padding: "0 !important",
    height: "auto",
    fontSize: 13,
    fontWeight: 600,
    borderBottom: "1px dotted var(--line)",
  },
  "& .level": { display: "block", fontWeight: 400 },
  "& .level .MuiInputBase-root": { fontSize: 13, color: "var(--petrol)" },
  "& .level .MuiOutlinedInput-notchedOutline": { border: 0 },
  "& .level select": { padding: "0 22px 0 0 !important", minWidth: "78px !important" },
  "& td.missing": { color: "var(--rust)" },
  "& td.number": { textAlign: "right" },
});

/** The first rows of a table, with everything that was guessed open to change. */
export function Preview({
  preview,
  variables,
  asMatrix,
  layoutChoice,
  setVariables,
  setAsMatrix,
  shorten,
}: Props) {
  const { notes } = preview;
  /** The list of codes begins anew when codes have come from elsewhere. */
  const [accepted, setAccepted] = useState(0);
  const decimal = variables.some((v) => v.decimal === ",") ? "," : ".";
  return (
    <>
      <p className="quiet">
        {counted(preview.rows, "row")}, {counted(preview.columns.length, "column")}. Everything
        below is a first guess; it can be changed here and later.
      </p>
      {preview.matrix !== null && (
        <Note>
          <Check
            checked={asMatrix}
            onChange={setAsMatrix}
            label={`This is a covariance or correlation matrix of ${preview.matrix} variables, not a table of cases. Path models can be estimated from it; nothing can be resampled.`}
          />
        </Note>
      )}
      <ScreenHead as="div">
        {layoutChoice}
        {!asMatrix && (
          <>
            <Labelled>
              <span>Decimal mark</span>
              <Select
                value={decimal}
                onChange={(e) =>
                  setVariables(
                    variables.map((v) => ({ ...v, decimal: e.target.value as "." | "," })),
                  )
                }
              >
                <option value=".">point, 1.5</option>
                <option value=",">comma, 1,5</option>
              </Select>
            </Labelled>
            <MissingCodes key={accepted} variables={variables} setVariables={setVariables} />
          </>
        )}
      </ScreenHead>
      {!asMatrix && shorten && <ShortNamesChoice {...{ variables, setVariables }} />}
      {!asMatrix && (
        <SuspectedCodes
          preview={preview}
          variables={variables}
          accept={(next) => {
            setVariables(next);
            setAccepted(accepted + 1);
          }}
        />
      )}
      {notes.length > 0 && <Note>{notes.join(" ")}</Note>}
      {/* A table wider than the dialog has to be reachable by keyboard. */}
      {}
      <Frame tabIndex={0} role="region" aria-label="First rows">
        <Table>
          <TableHead>
            <TableRow>
              {preview.columns.map((column, j) => (
                <TableCell key={column.name} scope="col">
                  {asMatrix || variables[j]!.column === undefined ? (
                    column.name
                  ) : (
                    <ShortName key={variables[j]!.name} {...{ variables, setVariables }} at={j} />
                  )}
                  {!asMatrix && (
                    <span className="level">
                      <Select
                        aria-label={`Level of ${column.name}`}
                        value={variables[j]!.level}
                        onChange={(e) =>
                          setVariables(
                            variables.map((v, i) =>
                              i === j ? { ...v, level: e.target.value as Level } : v,
                            ),
                          )
                        }
                      >
                        {LEVELS.map(([level]) => (
                          <option key={level}>{level}</option>
                        ))}
                      </Select>
                    </span>
                  )}
                </TableCell>
              ))}
            </TableRow>
          </TableHead>
          <FirstRows preview={preview} variables={variables} />
        </Table>
      </Frame>
    </>
  );
}

/** One list of codes for all columns; a column may have its own later. */
function MissingCodes({ variables, setVariables }: Pick<Props, "variables" | "setVariables">) {
  const [codes, setCodes] = useState(
    [...new Set(variables.flatMap((v) => v.missing ?? []))].join(", "),
  );
  const apply = (text: string): void => {
    setCodes(text);
    const list = text
      .split(",")
      .map((t) => t.trim())
      .filter((t) => t !== "");
    setVariables(variables.map((v) => ({ ...v, missing: list })));
  };
  return (
    <Labelled>
      <span>Codes for missing values</span>
      <TextInput value={codes} placeholder="-99, NA" onChange={(e) => apply(e.target.value)} />
    </Labelled>
  );
}

function FirstRows({ preview, variables }: { preview: ImportPreview; variables: Variable[] }) {
  return (
    <TableBody>
      {preview.columns[0]!.cells.map((_, i) => (
        <TableRow key={i}>
          {preview.columns.map((column, j) => {
            const text = column.cells[i]!;
            const gap = isMissing(text, variables[j]!);
            return (
              <TableCell
                key={column.name}
                className={
                  gap
                    ? "missing"
                    : ["continuous", "ordinal"].includes(variables[j]!.level)
                      ? "number"
                      : undefined
                }
              >
                {text === "" ? "·" : text}
              </TableCell>
            );
          })}
        </TableRow>
      ))}
    </TableBody>
  );
}

const counted = (count: number, what: string): string =>
  `${thousands(count)} ${what}${count === 1 ? "" : "s"}`;
