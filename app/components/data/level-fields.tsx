import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { codeColumns, type Coding, type Level } from "../../../core";
import { LEVELS } from "../levels";
import { CODINGS, CodingTable } from "./coding-table";
import type { FieldProps } from "./value-fields";
import { Select } from "../ui/select";
import { Labelled } from "../ui/layout";
import { Group } from "./parts";

export function LevelField({ variable, change }: FieldProps) {
  return (
    <Labelled>
      <span>Level of measurement</span>
      <Select value={variable.level} onChange={(e) => change({ level: e.target.value as Level })}>
        {LEVELS.map(([level]) => (
          <option key={level} value={level}>
            {level}
          </option>
        ))}
      </Select>
      <small className="quiet">{LEVELS.find(([level]) => level === variable.level)?.[1]}</small>
    </Labelled>
  );
}

/** Which of two levels counts as 1, and what its coefficient then means. */
export function WhichIsOne({ variable, levels, change }: FieldProps & { levels: string[] }) {
  const one = variable.one ?? levels[1]!;
  const zero = levels.find((l) => l !== one)!;
  return (
    <Group>
      <span>Used in equations as</span>
      <p>
        <strong>{one}</strong> = 1, <strong>{zero}</strong> = 0
      </p>
      <Button onClick={() => change({ one: zero })}>Let “{zero}” be 1</Button>
      <small className="quiet">
        Its coefficient is the mean of “{one}” minus the mean of “{zero}”, other things equal.
      </small>
    </Group>
  );
}

/** How groups become columns of an equation, shown as a table. */
export function CodingChoice({ variable, levels, change }: FieldProps & { levels: string[] }) {
  const coding = variable.coding ?? "indicator";
  return (
    <>
      <Labelled>
        <span>Coding of the {levels.length} levels</span>
        <Select value={coding} onChange={(e) => change({ coding: e.target.value as Coding })}>
          {CODINGS.map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </Select>
        <small className="quiet">{CODINGS.find(([key]) => key === coding)?.[2]}</small>
      </Labelled>
      {levels.length > 1 && (
        <CodingTable
          variable={variable.name}
          levels={levels}
          columns={codeColumns(
            variable.name,
            levels,
            coding,
            levels.includes(variable.reference ?? "") ? variable.reference : undefined,
          )}
        />
      )}
      {(coding === "indicator" || coding === "effect") && (
        <Labelled>
          <span>Reference level</span>
          <Select
            value={variable.reference ?? levels[0]}
            onChange={(e) => change({ reference: e.target.value })}
          >
            {levels.map((level) => (
              <option key={level}>{level}</option>
            ))}
          </Select>
        </Labelled>
      )}
      {(coding === "sequential" || coding === "helmert") && (
        <Group>
          <span>Order</span>
          <Box component="ol" sx={{ m: 0, pl: 2.5 }}>
            {levels.map((level, i) => (
              <li key={level}>
                {level}{" "}
                {i > 0 && (
                  <Button
                    variant="text"
                    aria-label={`Move ${level} up`}
                    onClick={() => change({ levels: swapped(levels, i) })}
                  >
                    ↑
                  </Button>
                )}
              </li>
            ))}
          </Box>
        </Group>
      )}
    </>
  );
}

const swapped = (levels: string[], i: number): string[] =>
  levels.map((level, j) => (j === i ? levels[i - 1]! : j === i - 1 ? levels[i]! : level));
