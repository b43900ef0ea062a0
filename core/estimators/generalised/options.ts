import type { Settings } from "../../study";
import type { OptionSpec } from "../engine";

export interface ResponseOptions {
  /** May the mediator do more under one treatment than under another? */
  product: boolean;
}

export const OPTIONS: OptionSpec[] = [
  {
    name: "treatment_product",
    label: "Treatment and mediator",
    help: "May the mediator do more in one group than in the other? Leaving their product out when it is there biases direct and indirect effects.",
    choices: { in: "their product is in the outcome's model", out: "no product" },
    initial: "in",
  },
];

export const optionsOf = ({ options }: Pick<Settings, "options">): ResponseOptions => ({
  product: options.treatment_product !== "out",
});
