import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useMemo, useRef, useState } from "react";
import {
  type Exploration,
  type ExploreQuestion,
  type Extraction,
  type Measure,
  type MeasureForm,
  type Rotation,
} from "../../../core";
import { useExploration } from "../../analysis/use-data-evidence";
import type { StudyContext } from "../../analysis/use-study";
import { FigureTools } from "../figure/figure-tools";
import { Plot } from "../figure/plot";
import { Choice } from "../ui/field";
import { Note, ScreenHead, Spacer } from "../ui/layout";
import { eigenvaluePlot } from "./eigenvalue-plot";
import { ExploreMake, proposedMeasures, type ProposedMeasure } from "./explore-make";
import { FactorCorrelations, FactorFits, LoadingsTable } from "./explore-tables";

interface Props {
  context: StudyContext;
  items: string[];
  taken: readonly string[];
  /** What the items say, where that is known. */
  wordings: ReadonlyMap<string, string>;
  /** Measures that some of the items are in. */
  replaced: readonly Measure[];
  make: (measures: ProposedMeasure[], form: MeasureForm, leaveOut: number[]) => void;
  close: () => void;
}

/** Which items belong together: how many factors, what loads where, and measures made of it. */
export function Explore({ context, items, taken, wordings, replaced, make, close }: Props) {
  const [choices, setChoices] = useState<Omit<ExploreQuestion, "items">>({
    factors: null,
    extraction: "maximum_likelihood",
    rotation: "oblimin",
    answers: "numbers",
    half: null,
    seed: context.definition.settings.seed,
  });
  const change = (next: Partial<typeof choices>): void => setChoices({ ...choices, ...next });
  const { result, old } = useExploration(context, { ...choices, items });
  const found = result?.value ?? null;
  return (
    <Box
      aria-busy={old}
      sx={{ p: "18px 24px 40px", display: "grid", gap: 2, alignContent: "start", minWidth: 0 }}
    >
      <ScreenHead as="div">
        <Typography variant="h1">Which items belong together?</Typography>
        <Spacer />
        <Button onClick={close}>Back to the measures</Button>
      </ScreenHead>
      <Box
        sx={{
          display: "grid",
          gap: 2,
          gridTemplateColumns: {
            xs: "minmax(0, 1fr)",
            sm: "1fr 1fr",
            md: "repeat(4, minmax(0, 1fr))",
          },
        }}
      >
        <Choice
          label="Factors"
          value={choices.factors === null ? "" : String(choices.factors)}
          options={[
            ["", "by parallel analysis"],
            ...Array.from({ length: Math.min(12, found?.most ?? 1) }, (_, m): [string, string] => [
              String(m + 1),
              String(m + 1),
            ]),
          ]}
          onChange={(v) => change({ factors: v === "" ? null : Number(v) })}
        />
        <Choice
          label="Answers"
          value={choices.answers}
          options={[
            ["numbers", "as numbers (Pearson)"],
            ["ordered", "as ordered (polychoric)"],
          ]}
          onChange={(v) => change({ answers: v as ExploreQuestion["answers"] })}
        />
        <Choice
          label="Taken out by"
          value={choices.extraction}
          options={[
            ["maximum_likelihood", "maximum likelihood"],
            ["minimum_residual", "minimum residual"],
          ]}
          onChange={(v) => change({ extraction: v as Extraction })}
        />
        <Choice
          label="Rotated by"
          value={choices.rotation}
          options={[
            ["oblimin", "oblimin (may correlate)"],
            ["geomin", "geomin (may correlate)"],
            ["varimax", "varimax (uncorrelated)"],
          ]}
          onChange={(v) => change({ rotation: v as Rotation })}
        />
        <Choice
          label="People"
          value={choices.half === null ? "" : String(choices.half)}
          options={[
            ["", "everybody"],
            ["1", `a random half (seed ${choices.seed})`],
            ["2", "the other half"],
          ]}
          onChange={(v) => change({ half: v === "" ? null : v === "1" ? 1 : 2 })}
        />
      </Box>
      {result?.problem && <Note role="alert">{result.problem.message}</Note>}
      {!result && <p className="quiet">Looking for factors …</p>}
      {found && (
        <Box sx={{ opacity: old ? 0.55 : 1, display: "grid", gap: 3, minWidth: 0 }}>
          <Found
            key={JSON.stringify([items, found.factors, found.n])}
            {...{ found, taken, wordings, replaced, make }}
            title={context.definition.title}
          />
        </Box>
      )}
    </Box>
  );
}

function Found({
  found,
  taken,
  wordings,
  replaced,
  make,
  title,
}: Pick<Props, "taken" | "wordings" | "replaced" | "make"> & {
  found: Exploration;
  title: string;
}) {
  const figure = useRef<HTMLDivElement>(null);
  const picture = useMemo(() => eigenvaluePlot(found), [found]);
  const suggested = useMemo(
    () => proposedMeasures(found, taken, replaced),
    [found, taken, replaced],
  );
  const [named, setNamed] = useState<Record<number, string>>({});
  const proposed = suggested.map((m, at) => ({ ...m, name: named[at] ?? m.name }));
  const names = proposed.map((m, at) => m.name || `factor ${at + 1}`);
  const { parallel, solution } = found;
  return (
    <>
      <Typography sx={{ fontFamily: "var(--serif)", fontSize: 19, maxWidth: "72ch" }}>
        {countWords(found)}
      </Typography>
      <Cautions found={found} />
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { lg: "minmax(0, 5fr) minmax(0, 6fr)" },
          gap: 3,
        }}
      >
        <div>
          <div ref={figure}>
            <Plot
              label="Eigenvalues beside those without common factors"
              height={270}
              make={picture}
            />
          </div>
          <FigureTools
            target={figure}
            name={`${title}, eigenvalues`}
            caption={`Eigenvalues of ${found.items.length} items of ${found.n} complete rows; dashed and dotted: 95th percentiles of ${parallel.draws} samples with permuted columns and with normal data.`}
            numbers={() => [
              {
                title: "Eigenvalues",
                head: ["factor", "this sample", "columns permuted, 95 %", "normal data, 95 %"],
                rows: parallel.eigenvalues.map((value, m) => [
                  String(m + 1),
                  value,
                  parallel.permuted[m]!,
                  parallel.normal[m]!,
                ]),
              },
            ]}
          />
        </div>
        <FactorFits found={found} />
      </Box>
      <LoadingsTable {...{ found, names, wordings }} />
      {solution.correlations.length > 1 && <FactorCorrelations found={found} names={names} />}
      <ExploreMake
        {...{ found, proposed, taken, replaced, make }}
        rename={(at, name) => setNamed({ ...named, [at]: name })}
      />
    </>
  );
}

const factorsWords = (count: number): string => (count === 1 ? "one factor" : `${count} factors`);

/** What the ways of counting say, first of all. */
function countWords({ parallel, partial, factors, n, of, items }: Exploration): string {
  const counted =
    parallel.factors === 0
      ? "Parallel analysis finds no common factor"
      : `Parallel analysis counts ${factorsWords(parallel.factors)}`;
  const normal =
    parallel.factorsNormal === parallel.factors
      ? ""
      : ` (${parallel.factorsNormal} against normal data)`;
  const second =
    partial === parallel.factors
      ? "minimum average partial agrees"
      : `minimum average partial counts ${partial === 0 ? "none" : partial}`;
  const left = n < of ? `; ${of - n} of ${of} people lack an answer and are left out` : "";
  return `${counted}${normal}; ${second}. Shown: ${factorsWords(factors)} of ${items.length} items, ${n} people${left}.`;
}

/** What makes the solution doubtful. */
function Cautions({ found: { solution, n, items } }: { found: Exploration }) {
  const { atBound, converged, agreeing, starts } = solution;
  const notes = [
    ...(converged
      ? []
      : [
          "The extraction did not come to rest. Try another number of factors, or minimum residual.",
        ]),
    ...(atBound.length > 0
      ? [
          `${atBound.join(", ")}: all variance would be explained (the unique variance stands at its lower bound). Usually there are too many factors for these items.`,
        ]
      : []),
    ...(starts > 1 && agreeing < 2
      ? [
          "Only one start of the rotation came to this solution; another rotation may look different.",
        ]
      : []),
    ...(n < 5 * items.length
      ? [
          `${n} people for ${items.length} items: with fewer than five for each item loadings are unsteady (guidance).`,
        ]
      : []),
  ];
  return notes.map((note) => <Note key={note}>{note}</Note>);
}
