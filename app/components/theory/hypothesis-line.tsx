import { VERBS, type Hypothesis } from "../../../core";
import { ref, rewrite } from "./edit-text";
import { Comparison } from "./comparison";
import { Claim, type ClaimProps } from "./sentence";
import { Slot } from "./slot";
import { VerbChoice } from "./verb";

/** A hypothesis with its slots: who raises, lowers or affects what, and through which mediators. */
export function HypothesisLine(props: ClaimProps<Hypothesis>) {
  const { text, statement, variables, change } = props;
  const set = (patch: Partial<Hypothesis>): void =>
    change(rewrite(text, { ...statement, ...patch }));
  const setChain = (c: number, m: number, name: string | null): void => {
    const chains = statement.chains.map((chain, i) =>
      i !== c
        ? chain
        : name === null
          ? chain.filter((_, j) => j !== m)
          : chain.map((r, j) => (j === m ? ref(name) : r)),
    );
    set({
      chains: chains.filter((chain) => chain.length > 0),
      ...(chains.every((chain) => chain.length === 0) ? { only: false } : {}),
    });
  };
  const free = variables.filter(
    (v) =>
      v !== statement.from.name &&
      v !== statement.to.name &&
      !statement.chains.flat().some((r) => r.name === v),
  );
  return (
    <Claim
      {...props}
      words={
        <>
          <Slot
            label="Who or what"
            placeholder="who or what"
            value={statement.from.name}
            options={variables}
            choose={(name) => set({ from: ref(name) })}
          />
          <Comparison
            variable={statement.from}
            evidence={props.evidence}
            choose={(from) => set({ from })}
          />{" "}
          <VerbChoice verb={statement.verb} plural={statement.plural} verbs={VERBS} choose={set} />{" "}
          <Slot
            label="What is affected"
            placeholder="what"
            value={statement.to.name}
            options={variables}
            choose={(name) => set({ to: ref(name) })}
          />
          {statement.chains.map((chain, c) => (
            <span key={c}>
              {" "}
              {c === 0 ? (statement.only ? "only through" : "through") : "and"}{" "}
              {chain.map((mediator, m) => (
                <span key={m}>
                  {m > 0 && ", then "}
                  <Slot
                    label="Mediator"
                    placeholder="mediator"
                    value={mediator.name}
                    options={[mediator.name, ...free]}
                    choose={(name) => setChain(c, m, name)}
                    remove={() => setChain(c, m, null)}
                  />
                </span>
              ))}
            </span>
          ))}{" "}
          <AddMediator hypothesis={statement} free={free} set={set} />
        </>
      }
    />
  );
}

function AddMediator({
  hypothesis,
  free,
  set,
}: {
  hypothesis: Hypothesis;
  free: string[];
  set: (patch: Partial<Hypothesis>) => void;
}) {
  const { chains } = hypothesis;
  if (chains.length === 0)
    return (
      <Slot
        label="Mediator"
        placeholder="through …"
        place="through"
        value={null}
        options={free}
        choose={(name) => set({ chains: [[ref(name)]] })}
      />
    );
  const last = chains.length - 1;
  return (
    <span>
      <Slot
        label="Next mediator in series"
        placeholder="then …"
        value={null}
        options={free}
        choose={(name) =>
          set({ chains: chains.map((c, i) => (i === last ? [...c, ref(name)] : c)) })
        }
      />{" "}
      <Slot
        label="Another mediator beside it"
        placeholder="and …"
        value={null}
        options={free}
        choose={(name) => set({ chains: [...chains, [ref(name)]] })}
      />
    </span>
  );
}
