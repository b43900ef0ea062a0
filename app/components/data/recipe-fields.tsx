import Box from "@mui/material/Box";
import {
  own,
  FUNCTIONS,
  findVariable,
  levelsInOrder,
  observedLevels,
  type Coding,
  type Dataset,
  type Recipe,
} from "../../../core";
import { CODINGS } from "./coding-table";
import { Select } from "../ui/select";
import { TextInput } from "../ui/text-input";
import { Entry } from "../ui/field";
import { Labelled } from "../ui/layout";
import { Fields } from "./parts";

interface Props {
  recipe: Recipe;
  change: (recipe: Recipe) => void;
  dataset: Dataset;
}

/** Values offered one by one for recoding. */
const MOST_VALUES = 24;

/** The settings of a recipe. */
export function RecipeFields({ recipe, change, dataset }: Props) {
  switch (recipe.kind) {
    case "formula":
      return (
        <Entry
          label="Formula"
          multiline
          minRows={2}
          value={recipe.formula}
          inputProps={{ spellCheck: false }}
          onChange={(formula) => change({ ...recipe, formula })}
          help={`Columns by name, in " " where they have spaces; texts in ' '; + − * / ^ = != < > and or not; ${Object.keys(FUNCTIONS).join(", ")}. As in if(group = 'waiting list', 0, hours / 10).`}
        />
      );
    case "reverse":
      return (
        <Numbers
          fields={[
            ["Lowest answer of the scale", recipe.low, (low) => change({ ...recipe, low })],
            ["Highest answer", recipe.high, (high) => change({ ...recipe, high })],
          ]}
        />
      );
    case "rescale":
      return (
        <Numbers
          fields={[["In units of", recipe.per, (per) => change({ ...recipe, per })]]}
          note="A coefficient then says what so many units do."
        />
      );
    case "winsorise":
      return (
        <Numbers
          fields={[
            ["Lower percentile", recipe.lower, (lower) => change({ ...recipe, lower })],
            ["Upper percentile", recipe.upper, (upper) => change({ ...recipe, upper })],
          ]}
          note="Values beyond these points are set to them."
        />
      );
    case "log":
      return (
        <Fields>
          <Labelled>
            <span>Base</span>
            <Select
              value={recipe.base}
              onChange={(e) => change({ ...recipe, base: e.target.value as "e" | "10" | "2" })}
            >
              <option value="e">e (natural)</option>
              <option value="10">10</option>
              <option value="2">2</option>
            </Select>
          </Labelled>
          <NumberField
            label="Added before"
            value={recipe.add}
            change={(add) => change({ ...recipe, add })}
          />
        </Fields>
      );
    case "split":
      return (
        <Labelled>
          <span>Cut at the percentiles</span>
          <TextInput
            defaultValue={recipe.at.join(", ")}
            onChange={(e) =>
              change({
                ...recipe,
                at: e.target.value
                  .split(",")
                  .filter((t) => t.trim() !== "")
                  .map(Number),
              })
            }
          />
          <small className="quiet">
            50 is the median; 20, 80 makes low, middle and high. A value on a cut belongs to the
            lower group.
          </small>
        </Labelled>
      );
    case "code":
      return <CodeFields recipe={recipe} change={change} dataset={dataset} />;
    case "recode":
      return <RecodeFields recipe={recipe} change={change} dataset={dataset} />;
    default:
      return (
        <p className="quiet">
          Means, standard deviations and ranks are taken over the rows that are not left out by
          hand.
        </p>
      );
  }
}

function Numbers({
  fields,
  note,
}: {
  fields: [string, number, (value: number) => void][];
  note?: string;
}) {
  return (
    <>
      <Fields>
        {fields.map(([label, value, set]) => (
          <NumberField key={label} label={label} value={value} change={set} />
        ))}
      </Fields>
      {note && <p className="quiet">{note}</p>}
    </>
  );
}

function NumberField({
  label,
  value,
  change,
}: {
  label: string;
  value: number;
  change: (value: number) => void;
}) {
  return (
    <Labelled>
      <span>{label}</span>
      <TextInput
        type="number"
        step="any"
        defaultValue={value}
        onChange={(e) => change(e.target.valueAsNumber)}
      />
    </Labelled>
  );
}

function CodeFields({
  recipe,
  change,
  dataset,
}: {
  recipe: Extract<Recipe, { kind: "code" }>;
  change: Props["change"];
  dataset: Dataset;
}) {
  const found = findVariable(dataset, recipe.of);
  const levels = found ? levelsInOrder(found.column, found.variable) : [];
  return (
    <Fields>
      <Labelled>
        <span>Coding</span>
        <Select
          value={recipe.coding}
          onChange={(e) => change({ ...recipe, coding: e.target.value as Coding })}
        >
          {CODINGS.map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </Select>
        <small className="quiet">{CODINGS.find(([key]) => key === recipe.coding)?.[2]}</small>
      </Labelled>
      {(recipe.coding === "indicator" || recipe.coding === "effect") && (
        <Labelled>
          <span>Reference level</span>
          <Select
            value={recipe.reference ?? levels[0]}
            onChange={(e) => change({ ...recipe, reference: e.target.value })}
          >
            {levels.slice(0, 50).map((level) => (
              <option key={level}>{level}</option>
            ))}
          </Select>
        </Labelled>
      )}
    </Fields>
  );
}

function RecodeFields({
  recipe,
  change,
  dataset,
}: {
  recipe: Extract<Recipe, { kind: "recode" }>;
  change: Props["change"];
  dataset: Dataset;
}) {
  const found = findVariable(dataset, recipe.of);
  const values = found ? observedLevels(found.column, found.variable) : [];
  const set = (from: string, to: string): void => {
    const others = Object.entries(recipe.map).filter(([known]) => known !== from);
    change({ ...recipe, map: Object.fromEntries(to === from ? others : [...others, [from, to]]) });
  };
  return (
    <>
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: "1fr 1fr",
          gap: "6px 18px",
          maxHeight: "30vh",
          overflow: "auto",
          fontSize: 14,
        }}
      >
        {values.slice(0, MOST_VALUES).map((from) => (
          <label key={from}>
            <span>{from}</span> becomes{" "}
            <TextInput
              style={{ width: 96 }}
              aria-label={`${from} becomes`}
              defaultValue={own(recipe.map, from) ?? from}
              onChange={(e) => set(from, e.target.value)}
            />
          </label>
        ))}
      </Box>
      {values.length > MOST_VALUES && (
        <p className="quiet">
          The first {MOST_VALUES} of {values.length} values; a formula can do more.
        </p>
      )}
      <Labelled>
        <span>Other values</span>
        <Select
          value={recipe.otherwise}
          onChange={(e) => change({ ...recipe, otherwise: e.target.value as "keep" | "missing" })}
        >
          <option value="keep">stay as they are</option>
          <option value="missing">become missing</option>
        </Select>
      </Labelled>
    </>
  );
}
