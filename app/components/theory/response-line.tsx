import { RESPONSE_MODELS, type ResponseModel, type ResponseModelId } from "../../../core";
import { Select } from "../ui/select";
import { replaceLine, rewrite } from "./edit-text";
import { Line } from "./line";
import type { SentenceProps } from "./sentence";

const WORDS: Record<ResponseModelId, string> = {
  linear: "a straight line",
  logistic: "yes or no (logistic)",
  probit: "yes or no (probit)",
  poisson: "a count (Poisson)",
  negative_binomial: "a count that scatters more (negative binomial)",
  ordered: "ordered answers (a tendency behind them)",
};

/** How a response is modelled. */
export function ResponseLine({
  text,
  statement,
  change,
}: SentenceProps & { statement: ResponseModel }) {
  const { of, family, exposure, line } = statement;
  return (
    <Line
      minor
      name={`Model of ${of.name}`}
      line={line}
      remove={{
        label: "Model it as its level has it",
        act: () => change(replaceLine(text, line, null)),
      }}
    >
      <p>
        <strong>{of.name}</strong> is modelled as{" "}
        <Select
          aria-label={`Model of ${of.name}`}
          value={family}
          onChange={(e) =>
            change(rewrite(text, { ...statement, family: e.target.value as ResponseModelId }))
          }
        >
          {RESPONSE_MODELS.map((each) => (
            <option key={each} value={each}>
              {WORDS[each]}
            </option>
          ))}
        </Select>
        {exposure && ` over ${exposure.name}`}
      </p>
    </Line>
  );
}
