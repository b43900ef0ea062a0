import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";
import {
  arrowsOf,
  correlationOf,
  DEFAULT_RELIABILITY,
  nodesOfTheory,
  plain,
  SHAPES,
  sizeOf,
  withCorrelation,
  withSize,
  type CompiledTheory,
  type ExpectedVariable,
  type Measure,
  type Shape,
  type StudyPlan,
  type Variable,
} from "../../../core";
import { Segments } from "../ui/segments";
import { Select } from "../ui/select";
import { SizeField } from "./size-field";
import { MOST } from "./sizes-diagram";

interface Props {
  theory: CompiledTheory;
  measures: readonly Measure[];
  variables: readonly Variable[];
  plan: StudyPlan;
  change: (plan: StudyPlan) => void;
}

const SHAPE_WORDS: Record<Shape, string> = {
  normal: "normal",
  skewed: "long tail to the right",
  count: "count",
};

/** One line: words to the left, what is typed to the right. */
function Line({ words, children }: { words: ReactNode; children: ReactNode }) {
  return (
    <Box
      sx={{
        display: "flex",
        alignItems: "center",
        gap: 1,
        minHeight: 36,
        borderBottom: "1px solid var(--hair)",
        "& > span:first-of-type": { flex: 1, minWidth: 0, overflowWrap: "anywhere" },
      }}
    >
      <span>{words}</span>
      {children}
    </Box>
  );
}

function Part({ title, note, children }: { title: string; note?: string; children: ReactNode }) {
  return (
    <Box component="section" sx={{ mb: 2 }}>
      <Typography variant="h3" component="h2" sx={{ mb: 0.25 }}>
        {title}
      </Typography>
      {note && (
        <Typography variant="caption" color="textSecondary" sx={{ display: "block", mb: 0.5 }}>
          {note}
        </Typography>
      )}
      {children}
    </Box>
  );
}

/**
 * What is expected beside the arrows of the picture: further predictors, correlations,
 * reliabilities, how variables lie.
 */
export function ExpectedTables(props: Props) {
  const { theory, measures, plan, change } = props;
  const { exogenous, endogenous } = nodesOfTheory(theory);
  const others = arrowsOf(theory).filter((a) => a.role === "covariate" || a.role === "moderator");
  const inModel = new Set([...exogenous, ...endogenous]);
  const pairs = exogenous.flatMap((a, i) => exogenous.slice(i + 1).map((b) => [a, b] as const));
  const used = measures.filter((m) => inModel.has(m.name.name) && m.items.length > 1);
  return (
    <>
      {others.length > 0 && (
        <Part title="Also in the equations" note="Standardised; what is left empty counts as 0.">
          {others.map(({ from, to }) => (
            <Line key={`${from.join()} ${to}`} words={`${from.join(" × ")} on ${to}`}>
              <SizeField
                label={`Expected size of ${from.join(" × ")} on ${to}`}
                value={sizeOf(plan, { from, to })}
                from={-MOST}
                to={MOST}
                placeholder="0"
                onValue={(size) => change(withSize(plan, { from, to }, size))}
              />
            </Line>
          ))}
        </Part>
      )}
      {pairs.length > 0 && (
        <Part title="Correlations of predictors">
          {pairs.map(([a, b]) => (
            <Line key={`${a} ${b}`} words={`${a} with ${b}`}>
              <SizeField
                label={`Expected correlation of ${a} with ${b}`}
                value={correlationOf(plan, a, b) || null}
                from={-0.99}
                to={0.99}
                placeholder="0"
                onValue={(r) => change(withCorrelation(plan, a, b, r))}
              />
            </Line>
          ))}
        </Part>
      )}
      {used.length > 0 && (
        <Part title="Reliability of the scores">
          {used.map(({ name: { name }, items }) => (
            <Line key={name} words={`${name}, ${items.length} items`}>
              <SizeField
                label={`Expected reliability of ${name}`}
                value={plan.reliabilities[name] ?? null}
                from={0.05}
                to={0.99}
                placeholder={String(DEFAULT_RELIABILITY)}
                onValue={(r) =>
                  change({
                    ...plan,
                    reliabilities:
                      r === null
                        ? Object.fromEntries(
                            Object.entries(plan.reliabilities).filter(([n]) => n !== name),
                          )
                        : { ...plan.reliabilities, [name]: r },
                  })
                }
              />
            </Line>
          ))}
          {used.some((m) => m.form === "averages" || m.form === "sums") && (
            <Box sx={{ mt: 1 }}>
              <Segments
                label="Sizes are meant among"
                value={plan.sizesAmong}
                choices={[
                  ["constructs", "what is measured"],
                  ["scores", "the scores"],
                ]}
                choose={(sizesAmong) => change({ ...plan, sizesAmong })}
              />
              <Typography
                variant="caption"
                color="textSecondary"
                sx={{ display: "block", mt: 0.5 }}
              >
                {plan.sizesAmong === "constructs"
                  ? "Unreliable scores will show less than is expected here."
                  : "As published paths among scores are: unreliability is in them already."}
              </Typography>
            </Box>
          )}
        </Part>
      )}
      <Shapes {...props} nodes={[...inModel]} />
    </>
  );
}

/** Shares of answers that were taken from data are a shape of their own. */
const AS_FOUND = "as found";

/** What levels are called outlasts how they lie. */
const calledBy = ({ answers }: ExpectedVariable): ExpectedVariable => (answers ? { answers } : {});

/** Levels with their shares; alike where nothing is said. */
const levelWords = ({ shares, answers }: ExpectedVariable): string =>
  shares
    ? shares.map((p, i) => `${answers?.[i] ?? `level ${i + 1}`} ${plain(100 * p, 0)} %`).join(", ")
    : "levels alike";

/** How observed variables lie: their shape, or the share of their levels. */
function Shapes({ variables, plan, change, nodes }: Props & { nodes: string[] }) {
  const own = variables.filter((v) => nodes.includes(v.name));
  if (own.length === 0) return null;
  const say = (name: string, said: ExpectedVariable): void =>
    change({ ...plan, variables: { ...plan.variables, [name]: said } });
  return (
    <Part title="How the answers lie">
      {own.map(({ name, level }) => {
        const said = plan.variables[name] ?? {};
        if (level === "binary")
          return (
            <Line key={name} words={`${name}: share that counts as 1`}>
              <SizeField
                label={`Expected share of ${name}`}
                value={said.shares ? Number(said.shares[1]!.toFixed(3)) : null}
                from={0.01}
                to={0.99}
                placeholder="0.5"
                onValue={(p) => {
                  const shares = p === null ? {} : { shares: [Math.round((1 - p) * 1e6) / 1e6, p] };
                  say(name, { ...calledBy(said), ...shares });
                }}
              />
            </Line>
          );
        if (level === "categorical")
          return (
            <Line key={name} words={`${name}: ${levelWords(said)}`}>
              {""}
            </Line>
          );
        const shapes = level === "ordinal" ? SHAPES.filter((s) => s !== "count") : SHAPES;
        return (
          <Line key={name} words={name}>
            <Select
              aria-label={`Expected shape of ${name}`}
              value={said.shares ? AS_FOUND : (said.shape ?? "normal")}
              onChange={(e) => say(name, { ...calledBy(said), shape: e.target.value as Shape })}
            >
              {said.shares && <option value={AS_FOUND}>as in the data</option>}
              {shapes.map((shape) => (
                <option key={shape} value={shape}>
                  {SHAPE_WORDS[shape]}
                </option>
              ))}
            </Select>
            {said.shape === "count" && (
              <SizeField
                label={`Expected mean of ${name}`}
                value={said.mean ?? null}
                from={0.05}
                to={1000}
                placeholder="3"
                onValue={(mean) =>
                  say(name, { shape: "count", ...(mean === null ? {} : { mean }) })
                }
              />
            )}
          </Line>
        );
      })}
    </Part>
  );
}
