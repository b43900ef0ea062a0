import Box from "@mui/material/Box";
import {
  MODERATION_VERBS as VERBS,
  type Evidence,
  type Moderation,
  type NameRef,
} from "../../../core";
import { Comparison } from "./comparison";
import { ref, rewrite } from "./edit-text";
import { Claim, type ClaimProps } from "./sentence";
import { Check } from "../ui/check";
import { Slot } from "./slot";
import { VerbChoice } from "./verb";

/** A moderation with its slots: who strengthens, weakens or alters which path, on which step. */
export function ModerationLine(props: ClaimProps<Moderation>) {
  const { text, statement, variables, change } = props;
  const set = (patch: Partial<Moderation>): void =>
    change(rewrite(text, { ...statement, ...patch }));
  const parts = [statement.from.name, statement.to.name, ...statement.chain.map((r) => r.name)];
  const free = variables.filter(
    (v) => !parts.includes(v) && !statement.moderators.some((m) => m.name === v),
  );
  return (
    <Claim
      {...props}
      below={statement.chain.length > 0 && <Steps statement={statement} set={set} />}
      words={
        <>
          <Moderators statement={statement} free={free} evidence={props.evidence} set={set} />{" "}
          <VerbChoice verb={statement.verb} plural={statement.plural} verbs={VERBS} choose={set} />{" "}
          <Slot
            label="Who or what"
            placeholder="what"
            value={statement.from.name}
            options={variables}
            choose={(name) => set({ from: ref(name), steps: [] })}
          />
          <Comparison
            variable={statement.from}
            evidence={props.evidence}
            choose={(from) => set({ from })}
          />{" "}
          to{" "}
          <Slot
            label="What is affected"
            placeholder="what"
            value={statement.to.name}
            options={variables}
            choose={(name) => set({ to: ref(name), steps: [] })}
          />
          {statement.chain.map((mediator, i) => (
            <span key={i}>
              {i === 0 ? (statement.only ? " only through " : " through ") : ", then "}
              <Slot
                label="Mediator"
                placeholder="mediator"
                value={mediator.name}
                options={[mediator.name, ...free]}
                choose={(name) =>
                  set({
                    chain: statement.chain.map((r, j) => (j === i ? ref(name) : r)),
                    steps: [],
                  })
                }
                remove={() => set({ chain: statement.chain.filter((_, j) => j !== i), steps: [] })}
              />
            </span>
          ))}{" "}
          {statement.chain.length === 0 && (
            <Slot
              label="Mediator"
              placeholder="through …"
              value={null}
              options={free}
              choose={(name) => set({ chain: [ref(name)], steps: firstStep(statement, name) })}
            />
          )}{" "}
          {statement.moderators.length === 1 && (
            <Slot
              label="Joint moderator"
              placeholder="together with …"
              value={null}
              options={free}
              choose={(name) => set({ moderators: [...statement.moderators, ref(name)] })}
            />
          )}
        </>
      }
    />
  );
}

interface ModeratorProps {
  statement: Moderation;
  free: string[];
  evidence: Evidence | null;
  set: (patch: Partial<Moderation>) => void;
}

function Moderators({ statement, free, evidence, set }: ModeratorProps) {
  const put = (i: number, by: NameRef): void =>
    set({ moderators: statement.moderators.map((m, j) => (j === i ? by : m)) });
  return (
    <>
      {statement.moderators.map((moderator, i) => (
        <span key={i}>
          {i > 0 && " with "}
          <Slot
            label="Moderator"
            placeholder="who or what"
            value={moderator.name}
            options={[moderator.name, ...free]}
            choose={(name) => put(i, ref(name))}
            {...(i > 0
              ? { remove: () => set({ moderators: statement.moderators.slice(0, 1) }) }
              : {})}
          />
          <Comparison variable={moderator} evidence={evidence} choose={(by) => put(i, by)} />
        </span>
      ))}{" "}
    </>
  );
}

/**
 * A path that has just got a mediator is moderated in its first step until somebody says otherwise.
 */
const firstStep = (statement: Moderation, mediator: string): Moderation["steps"] => [
  { from: ref(statement.from.name), to: ref(mediator) },
];

/** On which steps of the path the moderator acts. */
function Steps({
  statement,
  set,
}: {
  statement: Moderation;
  set: (patch: Partial<Moderation>) => void;
}) {
  const nodes = [statement.from.name, ...statement.chain.map((r) => r.name), statement.to.name];
  const steps = nodes.slice(1).map((to, i) => ({ from: nodes[i]!, to }));
  const acts = (from: string, to: string): boolean =>
    statement.steps.some((s) => s.from.name === from && s.to.name === to);
  const toggle = (from: string, to: string): void => {
    const wanted = steps.filter((s) =>
      s.from === from && s.to === to ? !acts(from, to) : acts(s.from, s.to),
    );
    set({ steps: wanted.map((s) => ({ from: ref(s.from), to: ref(s.to) })) });
  };
  return (
    <Box
      role="group"
      aria-label="Steps it acts on"
      sx={{
        display: "flex",
        flexWrap: "wrap",
        alignItems: "center",
        gap: "0 12px",
        fontSize: 14,
        color: "var(--quiet)",
      }}
    >
      acts on{" "}
      {steps.map(({ from, to }) => (
        <Check
          key={`${from} ${to}`}
          label={`${from} to ${to}`}
          checked={acts(from, to)}
          onChange={() => toggle(from, to)}
        />
      ))}
      {statement.steps.length === 0 && "(as other sentences say)"}
    </Box>
  );
}
