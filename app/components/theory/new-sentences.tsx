import { useState } from "react";
import { writeName } from "../../../core";
import { PlusIcon } from "../icons";
import { appendLine, newHypothesis, nextLabel } from "./edit-text";
import { ExchangeRow } from "./exchange-row";
import type { SentenceProps } from "./sentence";
import { Slot } from "./slot";

/** The sentence to come. */
export function NewHypothesis({ text, statements, variables, change }: SentenceProps) {
  const [from, setFrom] = useState<string | null>(null);
  return (
    <section className="sentence new" aria-label="New hypothesis">
      <span className="sentence-label serif">{nextLabel(statements)}</span>
      <p className="sentence-text serif">
        <Slot
          label="Who or what"
          placeholder="who or what"
          value={from}
          options={variables}
          choose={setFrom}
        />{" "}
        raises{" "}
        <Slot
          label="What is affected"
          placeholder="what?"
          value={null}
          options={variables.filter((v) => v !== from)}
          choose={(to) => {
            if (!from) return;
            change(appendLine(text, newHypothesis(statements, from, to)));
            setFrom(null);
          }}
        />
      </p>
    </section>
  );
}

/** What else can be said, with names that fit already. */
export function AddRow(props: SentenceProps) {
  const { text, statements, variables, evidence, change } = props;
  const [exchanging, setExchanging] = useState(false);
  const explained = evidence ? [...evidence.roles.mediators, ...evidence.roles.outcomes] : [];
  const unused = variables.filter(
    (v) => !statements.some((s) => JSON.stringify(s).includes(JSON.stringify(v))),
  );
  const labels = statements.flatMap((s) => (s.kind === "hypothesis" ? [s.label] : []));
  const step = evidence?.paths.find((p) => p.moderators.length === 0) ?? evidence?.paths[0];
  const moderator = step && (unused.find((v) => v !== step.from && v !== step.to) ?? null);
  if (exchanging) return <ExchangeRow {...props} close={() => setExchanging(false)} />;
  const add = (line: string) => () => change(appendLine(text, line));
  return (
    <p className="add-row">
      {explained.length > 0 && unused.length > 0 && (
        <button
          type="button"
          className="button bare"
          onClick={add(
            `adjust ${explained.map(writeName).join(", ")} for ${writeName(unused[0]!)}`,
          )}
        >
          <PlusIcon /> covariates
        </button>
      )}
      {step && moderator && (
        <button
          type="button"
          className="button bare"
          onClick={add(
            `${nextLabel(statements)}: ${writeName(moderator)} alters ${writeName(step.from)} to ${writeName(step.to)}`,
          )}
        >
          <PlusIcon /> moderator
        </button>
      )}
      {labels.length > 1 && (
        <button
          type="button"
          className="button bare"
          onClick={add(`contrast ${labels[0]} with ${labels[1]}`)}
        >
          <PlusIcon /> contrast
        </button>
      )}
      {labels.length > 0 && (
        <button
          type="button"
          className="button bare"
          onClick={add(`define quantity as ${labels.slice(0, 2).join(" / ")}`)}
        >
          <PlusIcon /> own quantity
        </button>
      )}
      {statements.length > 0 && (
        <button type="button" className="button bare" onClick={() => setExchanging(true)}>
          another variable everywhere …
        </button>
      )}
    </p>
  );
}
