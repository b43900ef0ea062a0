import Button from "@mui/material/Button";
import Box from "@mui/material/Box";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import {
  codeColumns,
  findVariable,
  levelsInOrder,
  plain,
  recipeWords,
  StudyProblem,
  summarise,
  tryRecipe,
  type Coding,
  type DataDefinition,
  type Dataset,
  type DerivedVariable,
  type Recipe,
  type Table,
} from "../../../core";
import { CODINGS, CodingTable } from "./coding-table";
import { RecipeFields } from "./recipe-fields";
import { Sparkbars } from "./sparkbars";
import { Dialog } from "../ui/dialog";
import { Select } from "../ui/select";
import { TextInput } from "../ui/text-input";
import { Labelled, Note } from "../ui/layout";
import { Fields } from "./parts";

const KINDS: [Recipe["kind"], string][] = [
  ["formula", "computed by a formula"],
  ["recode", "recoded"],
  ["reverse", "reversed"],
  ["rescale", "in other units"],
  ["log", "its logarithm"],
  ["centre", "minus its mean"],
  ["standardise", "standardised"],
  ["winsorise", "with the extremes pulled in"],
  ["rank", "its rank"],
  ["split", "cut into groups"],
  ["code", "code columns of its groups"],
];

interface Props {
  definition: DataDefinition;
  dataset: Dataset;
  raw: Table;
  /** A variable to start from, or a derived one to change. */
  start: { of: string; kind?: Recipe["kind"] } | { change: DerivedVariable };
  /** Names in `replaces` are taken out when the new ones come in. */
  keep: (derived: DerivedVariable[], replaces: string | null) => void;
  close: () => void;
}

/** Makes a new variable of others by a recipe; the raw data stay as they are. */
export function DeriveDialog({ definition, dataset, raw, start, keep, close }: Props) {
  const changed = "change" in start ? start.change : null;
  const of = changed
    ? changed.recipe.kind === "formula"
      ? dataset.table.columns[0]!.name
      : changed.recipe.of
    : (start as { of: string }).of;
  const first =
    changed?.recipe ??
    startRecipe("change" in start ? "formula" : (start.kind ?? "formula"), of, dataset);
  const [recipe, setRecipe] = useState<Recipe>(first);
  const [named, setNamed] = useState<string | null>(changed?.name ?? null);
  const source = recipe.kind === "formula" ? of : recipe.of;
  const name = named ?? suggestedName(recipe, source, dataset);
  const wanted = variablesOf(name, recipe, dataset);
  const result = tryAll(definition, raw, wanted, changed?.name ?? null, dataset);
  const usable = dataset.table.columns.map((c) => c.name).filter((n) => n !== changed?.name);
  return (
    <Dialog
      title={changed ? `How ${changed.name} is made` : "A new variable"}
      close={close}
      actions={
        <>
          <Typography variant="body2" color="textSecondary" sx={{ mr: "auto" }}>
            The raw data stay as they are; the new variable follows them.
          </Typography>
          <Button onClick={close}>Cancel</Button>
          <Button
            variant="contained"
            disabled={"problem" in result}
            onClick={() => {
              keep(wanted, changed?.name ?? null);
              close();
            }}
          >
            {changed
              ? "Change it"
              : wanted.length > 1
                ? `Make ${wanted.length} variables`
                : "Make it"}
          </Button>
        </>
      }
    >
      <Stack spacing={2}>
        <Fields>
          {recipe.kind !== "formula" && (
            <Labelled>
              <span>Made of</span>
              <Select
                value={recipe.of}
                onChange={(e) => setRecipe(startRecipe(recipe.kind, e.target.value, dataset))}
              >
                {usable.map((n) => (
                  <option key={n}>{n}</option>
                ))}
              </Select>
            </Labelled>
          )}
          <Labelled>
            <span>How</span>
            <Select
              value={recipe.kind}
              onChange={(e) =>
                setRecipe(startRecipe(e.target.value as Recipe["kind"], source, dataset))
              }
            >
              {KINDS.map(([kind, words]) => (
                <option key={kind} value={kind}>
                  {words}
                </option>
              ))}
            </Select>
          </Labelled>
        </Fields>
        <RecipeFields recipe={recipe} change={setRecipe} dataset={dataset} />
        {recipe.kind === "code" && (
          <CodingTable
            variable={recipe.of}
            columns={codesOf(recipe, dataset)}
            levels={levelsOf(recipe.of, dataset)}
          />
        )}
        <Labelled>
          <span>{wanted.length > 1 ? "Names begin with" : "Name"}</span>
          <TextInput value={name} onChange={(e) => setNamed(e.target.value)} />
        </Labelled>
        {"problem" in result ? (
          <Note role="alert">{result.problem}</Note>
        ) : (
          <Box
            role="status"
            sx={{ display: "grid", gridTemplateColumns: "auto 1fr", gap: 2, alignItems: "center" }}
          >
            <Sparkbars summary={result} width={190} height={48} />
            <p className="quiet">
              {recipeWords(wanted[0]!.recipe)}
              {result.mean !== null &&
                `; mean ${plain(result.mean)}, SD ${plain(result.sd)}, ${plain(result.min, 2)} to ${plain(result.max, 2)}`}
              ; {result.missing} missing
            </p>
          </Box>
        )}
      </Stack>
    </Dialog>
  );
}

export { CODINGS };

/** A recipe of a kind with its first settings, from what is known of the variable. */
function startRecipe(kind: Recipe["kind"], of: string, dataset: Dataset): Recipe {
  const found = findVariable(dataset, of);
  const summary = found && summarise(found.column, found.variable);
  switch (kind) {
    case "formula":
      return { kind, formula: /^[\p{L}_][\p{L}\p{N}_.]*$/u.test(of) ? of : `"${of}"` };
    case "recode":
      return { kind, of, map: {}, otherwise: "keep" };
    case "reverse": {
      const [low, high] = found?.variable.range ?? [summary?.min ?? 1, summary?.max ?? 5];
      return { kind, of, low, high };
    }
    case "rescale":
      return { kind, of, per: 10 };
    case "log":
      return { kind, of, base: "e", add: 0 };
    case "winsorise":
      return { kind, of, lower: 5, upper: 95 };
    case "split":
      return { kind, of, at: [50] };
    case "code":
      return {
        kind,
        of,
        coding: found?.variable.coding ?? "indicator",
        index: 1,
        ...(found?.variable.reference ? { reference: found.variable.reference } : {}),
      };
    default:
      return { kind, of };
  }
}

const SUFFIX: Record<Recipe["kind"], string> = {
  formula: "computed",
  recode: "recoded",
  reverse: "reversed",
  rescale: "rescaled",
  log: "log",
  centre: "centred",
  standardise: "z",
  winsorise: "winsorised",
  rank: "rank",
  split: "groups",
  code: "code",
};

function suggestedName(recipe: Recipe, of: string, dataset: Dataset): string {
  const base = recipe.kind === "formula" ? "computed" : `${of}_${SUFFIX[recipe.kind]}`;
  let name = base;
  for (let k = 2; dataset.table.columns.some((c) => c.name === name); k++) name = `${base}_${k}`;
  return name;
}

function levelsOf(name: string, dataset: Dataset): string[] {
  const found = findVariable(dataset, name);
  return found ? levelsInOrder(found.column, found.variable) : [];
}

function codesOf(recipe: { of: string; coding: Coding; reference?: string }, dataset: Dataset) {
  try {
    return codeColumns(recipe.of, levelsOf(recipe.of, dataset), recipe.coding, recipe.reference);
  } catch (error) {
    if (error instanceof StudyProblem) return [];
    throw error;
  }
}

/** One variable, or one for each code column. */
function variablesOf(name: string, recipe: Recipe, dataset: Dataset): DerivedVariable[] {
  if (recipe.kind !== "code") return [{ name: name.trim(), recipe }];
  const columns = codesOf(recipe, dataset);
  return (columns.length > 0 ? columns : [{ index: 1 }]).map(({ index }) => ({
    name: `${name.trim()}_${index}`,
    recipe: { ...recipe, index },
  }));
}

/** The first of the variables as it would be, or why it cannot be made. */
function tryAll(
  definition: DataDefinition,
  raw: Table,
  wanted: DerivedVariable[],
  replaces: string | null,
  dataset: Dataset,
) {
  for (const { name } of wanted) {
    if (name === "" || name.startsWith("_"))
      return { problem: "The variable needs a name that begins with a letter." };
    if (name !== replaces && dataset.table.columns.some((c) => c.name === name))
      return { problem: `There is a column “${name}” already. Choose another name.` };
  }
  try {
    const derived = definition.derived.filter((d) => d.name !== replaces);
    const made = wanted.map((each) => tryRecipe({ ...definition, derived }, raw, each));
    return summarise(made[0]!.column, made[0]!.variable);
  } catch (error) {
    if (error instanceof StudyProblem) return { problem: error.message };
    throw error;
  }
}
