import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";
import { writeName, type Evidence, type Section } from "../../../core";
import { PlusIcon } from "../icons";
import { appendLine, newHypothesis, nextLabel } from "./edit-text";
import { ExchangeRow } from "./exchange-row";
import { Line, Words } from "./line";
import type { SentenceProps } from "./sentence";
import { Slot } from "./slot";

type Props = SentenceProps & {
  /** Hands the focus to a place of the line that has just been written. */
  goOn: (line: number, place: string) => void;
};

const lineCount = (text: string): number => text.split("\n").length;

/** The sentence to come: written as soon as both of its ends are chosen, whichever comes first. */
export function NewHypothesis({ text, statements, variables, change, goOn }: Props) {
  const [from, setFrom] = useState<string | null>(null);
  const [to, setTo] = useState<string | null>(null);
  const write = (cause: string | null, effect: string | null): void => {
    if (!cause || !effect) return;
    const next = appendLine(text, newHypothesis(statements, text, cause, effect));
    change(next);
    setFrom(null);
    setTo(null);
    goOn(lineCount(next), "through");
  };
  return (
    <Line name="New hypothesis" label={nextLabel(statements, text)}>
      <Words>
        <Slot
          needed
          label="Who or what"
          placeholder="who or what"
          value={from}
          options={variables.filter((v) => v !== to)}
          choose={(name) => {
            setFrom(name);
            write(name, to);
          }}
        />{" "}
        raises{" "}
        <Slot
          needed
          label="What is affected"
          placeholder="what?"
          value={to}
          options={variables.filter((v) => v !== from)}
          choose={(name) => {
            setTo(name);
            write(from, name);
          }}
        />
      </Words>
    </Line>
  );
}

/** A moderation to come: nothing is assumed, and nothing is said of it before all is chosen. */
function NewModeration({ text, statements, variables, evidence, change, close }: RowProps) {
  const [moderator, setModerator] = useState<string | null>(null);
  const [from, setFrom] = useState<string | null>(null);
  const [to, setTo] = useState<string | null>(null);
  const explained = new Set(evidence?.paths.map((p) => p.to));
  const write = (by: string | null, of: string | null, on: string | null): void => {
    if (!by || !of || !on) return;
    const sentence = `${nextLabel(statements, text)}: ${writeName(by)} alters ${writeName(of)} to ${writeName(on)}`;
    change(appendLine(text, sentence));
    close();
  };
  const others = (...taken: (string | null)[]): string[] =>
    variables.filter((v) => !taken.includes(v));
  const outcomes = others(from, moderator).sort(
    (a, b) => Number(explained.has(b)) - Number(explained.has(a)),
  );
  return (
    <Line
      name="New moderation"
      label={nextLabel(statements, text)}
      remove={{ label: "Leave the moderation out", act: close }}
    >
      <Words>
        <Slot
          needed
          label="Moderator"
          placeholder="who or what"
          value={moderator}
          options={others(from, to)}
          choose={(name) => {
            setModerator(name);
            write(name, from, to);
          }}
        />{" "}
        alters{" "}
        <Slot
          needed
          label="Of what"
          placeholder="what"
          value={from}
          options={others(moderator, to)}
          choose={(name) => {
            setFrom(name);
            write(moderator, name, to);
          }}
        />{" "}
        to{" "}
        <Slot
          needed
          label="What is affected"
          placeholder="what?"
          value={to}
          options={outcomes}
          choose={(name) => {
            setTo(name);
            write(moderator, from, name);
          }}
        />
      </Words>
    </Line>
  );
}

/** Covariates to come, for everything that is explained so far. */
function NewAdjustment({ text, variables, evidence, change, close }: RowProps) {
  const explained = evidence ? [...evidence.roles.mediators, ...evidence.roles.outcomes] : [];
  return (
    <Line minor name="New adjustment" remove={{ label: "Leave the adjustment out", act: close }}>
      <p>
        adjusting {explained.join(", ")} for{" "}
        <Slot
          label="Covariate"
          placeholder="which covariate?"
          value={null}
          options={variables.filter((v) => !explained.includes(v))}
          choose={(name) => {
            const outcomes = explained.map(writeName).join(", ");
            change(appendLine(text, `adjust ${outcomes} for ${writeName(name)}`));
            close();
          }}
        />
      </p>
    </Line>
  );
}

/** Two variables whose residuals go together, to come. */
function NewCovariance({ text, variables, change, close }: RowProps) {
  const [first, setFirst] = useState<string | null>(null);
  const [second, setSecond] = useState<string | null>(null);
  const write = (one: string | null, other: string | null): void => {
    if (!one || !other) return;
    change(appendLine(text, `covary ${writeName(one)} with ${writeName(other)}`));
    close();
  };
  return (
    <Line minor name="New covariance" remove={{ label: "Leave the covariance out", act: close }}>
      <p>
        what is left of{" "}
        <Slot
          needed
          label="Variable that covaries"
          placeholder="which variable?"
          value={first}
          options={variables.filter((v) => v !== second)}
          choose={(name) => {
            setFirst(name);
            write(name, second);
          }}
        />{" "}
        and{" "}
        <Slot
          needed
          label="With what"
          placeholder="which other?"
          value={second}
          options={variables.filter((v) => v !== first)}
          choose={(name) => {
            setSecond(name);
            write(first, name);
          }}
        />{" "}
        goes together
      </p>
    </Line>
  );
}

/** Groups to come. */
function NewGroups({ text, groupings, evidence, change, close }: RowProps) {
  // Where each group is estimated by itself nothing can be held equal.
  const equal = evidence && has(evidence, "structure") ? " with loadings equal" : "";
  return (
    <Line minor name="New groups" remove={{ label: "One group again", act: close }}>
      <p>
        in each group of{" "}
        <Slot
          label="Column that tells the groups"
          placeholder="which column?"
          value={null}
          options={groupings}
          choose={(name) => {
            change(appendLine(text, `groups by ${writeName(name)}${equal}`));
            close();
          }}
        />
      </p>
    </Line>
  );
}

/** The model of a response to come: as it is now, to be changed in its line. */
function NewModel({ text, statements, evidence, change, close }: RowProps) {
  const said = new Set(statements.flatMap((s) => (s.kind === "model" ? [s.of.name] : [])));
  const responses = evidence ? [...evidence.roles.mediators, ...evidence.roles.outcomes] : [];
  const models = evidence ? responseSection(evidence)?.models : undefined;
  return (
    <Line minor name="New model" remove={{ label: "Leave the model out", act: close }}>
      <p>
        <Slot
          label="Response"
          placeholder="which response?"
          value={null}
          options={responses.filter((v) => !said.has(v))}
          choose={(name) => {
            const family = models?.find((m) => m.outcome === name)?.family ?? "linear";
            change(appendLine(text, `model ${writeName(name)} as ${family.replace("_", " ")}`));
            close();
          }}
        />{" "}
        is modelled as …
      </p>
    </Line>
  );
}

const responseSection = ({ sections }: Evidence) => sections.find((s) => s.kind === "responses");

/**
 * Lines that say which values of a treatment are compared, and where its mediator is held, as they
 * are now: to be changed.
 */
export function treatmentLines(
  evidence: Evidence,
  statements: SentenceProps["statements"],
): { compare: string | null; control: string | null } {
  const natural = responseSection(evidence)?.natural.filter((n) => n.at === null) ?? [];
  const said = (kind: "compare" | "control", name: string): boolean =>
    statements.some((s) => s.kind === kind && s.of.name === name);
  const number = (text: string): boolean => text !== "" && Number.isFinite(Number(text));
  const compared = natural.find(
    (n) => number(n.upper) && number(n.lower) && !said("compare", n.treatment),
  );
  const held = natural.find(
    (n) => n.controlled.every((c) => c.at.length === 1) && !said("control", n.mediator),
  );
  const values = held?.controlled.map((c) => Number(c.at[0]!.toPrecision(3)));
  return {
    compare: compared
      ? `compare ${writeName(compared.treatment)} at ${compared.upper} with ${compared.lower}`
      : null,
    control: held && values ? `control ${writeName(held.mediator)} at ${values.join(", ")}` : null,
  };
}

type RowProps = SentenceProps & { close: () => void };

const has = ({ sections }: Evidence, kind: Section["kind"]): boolean =>
  sections.some((s) => s.kind === kind);

/** What can be said of responses and treatments, where a theory calls for it. */
function ResponseButtons({
  evidence,
  statements,
  add,
  model,
}: {
  evidence: Evidence;
  statements: SentenceProps["statements"];
  add: (line: string) => () => void;
  model: () => void;
}) {
  if (evidence.latent.length > 0 || evidence.roles.outcomes.length === 0) return null;
  const { compare, control } = treatmentLines(evidence, statements);
  return (
    <>
      <Button variant="text" onClick={model}>
        <PlusIcon /> response model
      </Button>
      {compare && (
        <Button variant="text" onClick={add(compare)}>
          <PlusIcon /> compared values
        </Button>
      )}
      {control && (
        <Button variant="text" onClick={add(control)}>
          <PlusIcon /> held values
        </Button>
      )}
    </>
  );
}

/** What else can be said. */
export function AddRow(props: SentenceProps) {
  const { text, statements, evidence, change } = props;
  const [adding, setAdding] = useState<
    "exchange" | "moderation" | "adjustment" | "covariance" | "groups" | "model" | null
  >(null);
  const labels = statements.flatMap((s) => (s.kind === "hypothesis" ? [s.label] : []));
  const close = (): void => setAdding(null);
  if (adding === "exchange") return <ExchangeRow {...props} close={close} />;
  if (adding === "moderation") return <NewModeration {...props} close={close} />;
  if (adding === "adjustment") return <NewAdjustment {...props} close={close} />;
  if (adding === "covariance") return <NewCovariance {...props} close={close} />;
  if (adding === "groups") return <NewGroups {...props} close={close} />;
  if (adding === "model") return <NewModel {...props} close={close} />;
  const structure = evidence !== null && has(evidence, "structure");
  const grouped = structure || (evidence !== null && has(evidence, "composites"));
  const add = (line: string) => () => change(appendLine(text, line));
  return (
    <Box sx={{ pl: "30px", pt: 1 }}>
      {evidence && (
        <Button variant="text" onClick={() => setAdding("adjustment")}>
          <PlusIcon /> covariates
        </Button>
      )}
      {evidence && evidence.paths.length > 0 && (
        <Button variant="text" onClick={() => setAdding("moderation")}>
          <PlusIcon /> moderator
        </Button>
      )}
      {structure && (
        <Button variant="text" onClick={() => setAdding("covariance")}>
          <PlusIcon /> covariance
        </Button>
      )}
      {grouped && !statements.some((s) => s.kind === "groups") && (
        <Button variant="text" onClick={() => setAdding("groups")}>
          <PlusIcon /> groups
        </Button>
      )}
      {evidence && (
        <ResponseButtons
          evidence={evidence}
          statements={statements}
          add={add}
          model={() => setAdding("model")}
        />
      )}
      {labels.length > 1 && (
        <Button variant="text" onClick={add(`contrast ${labels[0]} with ${labels[1]}`)}>
          <PlusIcon /> contrast
        </Button>
      )}
      {labels.length > 0 && (
        <Button
          variant="text"
          onClick={add(`define quantity as ${labels.slice(0, 2).join(" / ")}`)}
        >
          <PlusIcon /> user-defined quantity
        </Button>
      )}
      {statements.length > 0 && (
        <Button variant="text" onClick={() => setAdding("exchange")}>
          another variable everywhere …
        </Button>
      )}
    </Box>
  );
}
