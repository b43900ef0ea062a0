import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import {
  own,
  levelsInOrder,
  meanWorking,
  plain,
  recipeWords,
  type ColumnSummary,
  type DerivedVariable,
  type Level,
  type Recipe,
  type TextColumn,
  type Variable,
} from "../../../core";
import { CloseIcon } from "../icons";
import { CodingChoice, LevelField, WhichIsOne } from "./level-fields";
import { NameField } from "./name-field";
import { Histogram } from "./histogram";
import { MissingCodes, Range, ValueLabels } from "./value-fields";
import { WorkingView } from "../ui/working-view";
import { TextInput } from "../ui/text-input";
import { IconAction } from "../ui/icon-button";
import { Select } from "../ui/select";
import { Labelled, Note, ScreenHead, Spacer } from "../ui/layout";
import { Group, Pairs, Panel } from "./parts";
import { AskBeforeRemoval } from "../ui/ask-before";

interface Props {
  variable: Variable;
  column: TextColumn;
  summary: ColumnSummary | undefined;
  /** Set for a variable made of others. */
  derived: DerivedVariable | null;
  change: (patch: Partial<Variable>) => void;
  /** Null where the name is made elsewhere. */
  rename: ((to: string) => void) | null;
  taken: string[];
  /** Opens the making of a new variable from this one. */
  derive: (kind: Recipe["kind"]) => void;
  /** Opens the recipe of this derived variable. */
  changeRecipe: () => void;
  /** What needs the variable. */
  uses: readonly string[];
  removeDerived: () => void;
  close: () => void;
}

/** What is said of one column; the cells themselves are never changed here. */
export function ColumnPanel({
  variable,
  column,
  summary,
  derived,
  change,
  rename,
  taken,
  derive,
  changeRecipe,
  uses,
  removeDerived,
  close,
}: Props) {
  const levels =
    variable.level === "binary" || variable.level === "categorical"
      ? levelsInOrder(column, variable)
      : [];
  return (
    <Panel aria-label={`Column ${variable.name}`}>
      <ScreenHead as="div">
        <Typography variant="h2">{variable.name}</Typography>
        <Spacer />
        <IconAction name="Close the column" onClick={close}>
          <CloseIcon />
        </IconAction>
      </ScreenHead>
      {derived && (
        <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
          <Box component="p" className="quiet" sx={{ width: "100%" }}>
            {recipeWords(derived.recipe)}
          </Box>
          <Button onClick={changeRecipe}>Change the recipe</Button>
          <RemoveVariable name={variable.name} uses={uses} remove={removeDerived} />
        </Box>
      )}
      {summary && (
        <Histogram
          summary={summary}
          names={summary.bars.map((bar) => own(variable.labels, bar.label) ?? bar.label)}
        />
      )}
      {summary && levels.length > 0 && (
        <Pairs>
          {summary.bars.map((bar) => (
            <Box key={bar.label} sx={{ display: "contents" }}>
              <dt>{own(variable.labels, bar.label) ?? bar.label}</dt>
              <dd>{bar.count}</dd>
            </Box>
          ))}
        </Pairs>
      )}
      {summary && <Moments summary={summary} />}
      {summary?.notNumeric && (
        <Note>
          “{summary.notNumeric.example}” in row {summary.notNumeric.row} is not a number
          {summary.notNumeric.count > 1 && ` (${summary.notNumeric.count} such cells)`}. Declare it
          a missing code, or make the column categorical.
        </Note>
      )}
      <LevelField variable={variable} change={change} />
      {variable.level === "binary" && levels.length === 2 && (
        <WhichIsOne variable={variable} levels={levels} change={change} />
      )}
      {variable.level === "categorical" && (
        <CodingChoice variable={variable} levels={levels} change={change} />
      )}
      {rename && <NameField variable={variable} taken={taken} rename={rename} />}
      <Labelled>
        <span>Label</span>
        <TextInput
          value={variable.label ?? ""}
          onChange={(e) => change({ label: e.target.value || undefined })}
        />
      </Labelled>
      <Labelled>
        <span>Unit</span>
        <TextInput
          value={variable.unit ?? ""}
          placeholder="a week, years, 1 to 5"
          onChange={(e) => change({ unit: e.target.value || undefined })}
        />
      </Labelled>
      {variable.level !== "identifier" && variable.level !== "categorical" && (
        <Range variable={variable} change={change} />
      )}
      <MissingCodes variable={variable} change={change} />
      <ValueLabels
        key={`labels ${variable.level}`}
        variable={variable}
        column={column}
        change={change}
      />
      <NewFrom level={variable.level} derive={derive} />
      <Labelled>
        <span>Decimal mark</span>
        <Select
          value={variable.decimal ?? "."}
          onChange={(e) => change({ decimal: e.target.value as "." | "," })}
        >
          <option value=".">point, 1.5</option>
          <option value=",">comma, 1,5</option>
        </Select>
      </Labelled>
    </Panel>
  );
}

function Moments({ summary }: { summary: ColumnSummary }) {
  return (
    <>
      <Pairs>
        <dt>missing</dt>
        <dd>
          {summary.missing} of {summary.rows}
        </dd>
        <dt>different values</dt>
        <dd>{summary.distinct}</dd>
        {summary.mean !== null && (
          <>
            <dt>mean, SD</dt>
            <dd>
              {plain(summary.mean)}, {plain(summary.sd)}
            </dd>
            <dt>range</dt>
            <dd>
              {plain(summary.min, 2)} to {plain(summary.max, 2)}
            </dd>
          </>
        )}
      </Pairs>
      {summary.mean !== null && (
        <WorkingView
          working={meanWorking(summary.name, {
            mean: summary.mean,
            sd: summary.sd,
            n: summary.rows - summary.missing,
          })}
        />
      )}
    </>
  );
}

const OFFERS: Record<"numeric" | "groups", [Recipe["kind"], string][]> = {
  numeric: [
    ["reverse", "Reverse"],
    ["centre", "Minus its mean"],
    ["standardise", "Standardise"],
    ["log", "Logarithm"],
    ["rescale", "Other units"],
    ["split", "Cut into groups"],
  ],
  groups: [
    ["code", "Code columns"],
    ["recode", "Recode"],
  ],
};

function NewFrom({ level, derive }: { level: Level; derive: Props["derive"] }) {
  if (level === "identifier") return null;
  const offers =
    level === "continuous" || level === "ordinal"
      ? [...OFFERS.numeric, OFFERS.groups[1]!]
      : OFFERS.groups;
  return (
    <Group role="group" aria-label="Make a new variable of it">
      <span>Make a new variable of it</span>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 0.75 }}>
        {offers.map(([kind, words]) => (
          <Button key={kind} onClick={() => derive(kind)}>
            {words}
          </Button>
        ))}
      </Box>
    </Group>
  );
}

function RemoveVariable({
  name,
  uses,
  remove,
}: {
  name: string;
  uses: readonly string[];
  remove: () => void;
}) {
  const [asking, setAsking] = useState(false);
  return (
    <>
      <Button onClick={() => (uses.length > 0 ? setAsking(true) : remove())}>
        Remove the variable
      </Button>
      {asking && (
        <AskBeforeRemoval
          what={`the variable “${name}”`}
          uses={uses}
          remove={remove}
          close={() => setAsking(false)}
        />
      )}
    </>
  );
}
