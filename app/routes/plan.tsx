import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useEffect, useMemo, useState, useSyncExternalStore } from "react";
import { Link } from "react-router";
import type { Route } from "./+types/plan";
import { claimsInOrder, completePlan, nodesOfTheory, claimWords, type StudyPlan } from "../../core";
import { planningOf } from "../analysis/planning";
import { useStudy } from "../analysis/use-study";
import { ExpectedTables } from "../components/plan/expected-tables";
import { Questions } from "../components/plan/questions";
import { Results } from "../components/plan/results";
import { cardWords, readTheory } from "../components/plan/read-theory";
import { SizesDiagram } from "../components/plan/sizes-diagram";
import { Sources } from "../components/plan/sources";
import { Plan as Preregistration } from "../components/report/plan";
import { Empty } from "../components/ui/empty";
import { Screen, ScreenHead, Spacer } from "../components/ui/layout";
import { listStudies } from "../storage/studies";

/** Other studies, from whose data sizes can be taken. */
export const clientLoader = async () => ({ shelf: await listStudies().catch(() => []) });
clientLoader.hydrate = true as const;

/**
 * What is expected before there are data, how many people it takes, and what the simulation says of
 * it.
 */
export default function PlanScreen({ loaderData: { shelf } }: Route.ComponentProps) {
  const context = useStudy();
  const { definition, edit, raw, study } = context;
  const [told, setTold] = useState("");
  const planning = planningOf(study.id);
  const state = useSyncExternalStore(planning.subscribe, planning.snapshot, planning.snapshot);
  useEffect(() => planning.follow(definition), [planning, definition]);
  const plan = useMemo(() => completePlan(definition.plan), [definition.plan]);
  const read = useMemo(() => readTheory(definition), [definition]);
  if (!read.theory)
    return (
      <Empty title="Plan">
        {read.problem ?? (
          <>
            A plan begins with what you expect. <Link to="../data">Declare the variables</Link>,{" "}
            <Link to="../hypotheses">write a hypothesis</Link>, and say here how large its effect
            may be.
          </>
        )}
      </Empty>
    );
  const { theory, measures } = read;
  const change = (next: StudyPlan): void => edit({ plan: next }, "plan");
  const claims = claimsInOrder(theory);
  const nodes = nodesOfTheory(theory);
  const labels = claims.map((c) => c.label);
  const detail = (name: string): string => cardWords(definition, measures, name);
  return (
    <Screen>
      <ScreenHead>
        <Typography variant="h1">Plan</Typography>
        <Typography color="textSecondary" sx={{ maxWidth: "60ch" }}>
          Type the size you expect of every arrow, as a standardised path.
        </Typography>
        <Spacer />
        <Sources {...{ id: study.id, definition, raw, plan, shelf, change }} tell={setTold} />
      </ScreenHead>
      {told && (
        <Typography role="status" sx={{ mt: 1, fontFamily: "var(--serif)" }}>
          {told}
        </Typography>
      )}
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { md: "minmax(0, 1fr) 330px" },
          gap: 4,
          mt: 1,
        }}
      >
        <SizesDiagram {...{ theory, plan, detail, change }} />
        <Box
          sx={{ maxHeight: 430, overflowY: "auto", pr: 1 }}
          tabIndex={0}
          role="region"
          aria-label="Further expectations"
        >
          <ExpectedTables
            {...{ theory, measures, plan, change }}
            variables={definition.variables}
          />
        </Box>
      </Box>
      <Box
        component="section"
        aria-label="How many people"
        sx={{ mt: 1, borderTop: "1px solid var(--ink)", pt: 1.5 }}
      >
        <Typography variant="h2" sx={{ mb: 1 }}>
          How many {definition.unit}?
        </Typography>
        <Questions
          {...{ definition, plan, labels, planning, state, change }}
          indirect={claims.flatMap((c) =>
            c.kind === "hypothesis" && c.chains.length > 0 ? [c.label] : [],
          )}
          nodes={[...nodes.exogenous, ...nodes.endogenous]}
        />
        <Results
          {...{ definition, plan, state }}
          claims={claims.map(claimWords)}
          planWith={(n) => change({ ...plan, n })}
        />
      </Box>
      <Box sx={{ mt: 4, maxWidth: 560 }}>
        <Preregistration
          definition={definition}
          register={(registered) => edit({ registered }, "registration")}
        />
      </Box>
    </Screen>
  );
}
