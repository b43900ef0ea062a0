import { StudyProblem } from "../problems";
import type { Settings } from "../study";
import type { Engine } from "./engine";

/** The columns that options of an engine name. */
export const optionColumns = (
  { options }: Pick<Engine, "options">,
  chosen: Settings["options"],
): string[] =>
  options.flatMap(({ name, column }) => {
    const value = chosen[name];
    return column && typeof value === "string" && value !== "" ? [value] : [];
  });

/**
 * The options of an engine, those that are not set at their initial values.
 * @throws StudyProblem `invalid_setting` for a name or a choice that the engine does not have
 */
export function withOptions(
  { label, options }: Pick<Engine, "label" | "options">,
  chosen: Settings["options"],
): Settings["options"] {
  const names = options.map((o) => o.name);
  const unknown = Object.keys(chosen).find((name) => !names.includes(name));
  if (unknown !== undefined) {
    throw new StudyProblem("no_such_option", { engine: label, option: unknown, known: names });
  }
  return Object.fromEntries(
    options.map(({ name, initial, choices, column }) => {
      const value = chosen[name] ?? initial;
      const fits = choices ? value in choices : typeof value === (column ? "string" : "number");
      if (fits) return [name, value];
      throw new StudyProblem("option_value", {
        engine: label,
        option: name,
        value,
        choices: choices ? Object.keys(choices) : null,
      });
    }),
  );
}
