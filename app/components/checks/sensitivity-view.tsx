import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useId, useMemo, useRef, useState } from "react";
import {
  leftOutWorking,
  percent,
  plain,
  sensitivityWorking,
  type Evidence,
  type LinearSensitivity,
  type SensitivitySection,
} from "../../../core";
import { useStudy } from "../../analysis/use-study";
import { bandPlot } from "../figure/band-plot";
import { FigureTools, type NumberTable as Numbers } from "../figure/figure-tools";
import { Plot } from "../figure/plot";
import { Words } from "../structure/structure-view";
import { EValueTable } from "./e-values";
import { Labelled, Row } from "../ui/layout";
import { NumberTable } from "../ui/number-table";
import { WorkingOfOne } from "../ui/working-view";
import { TextInput } from "../ui/text-input";

/** What an unmeasured common cause of mediator and outcome would do to each indirect effect. */
export function SensitivityView({
  section,
  evidence,
}: {
  section: SensitivitySection;
  evidence: Evidence;
}) {
  return (
    <Box
      component="section"
      aria-label="If something was left out"
      sx={{ borderTop: "1px solid var(--ink)", pt: 1.25, display: "grid", gap: 3 }}
    >
      <div>
        <Typography variant="h2">If something was left out</Typography>
        <p className="quiet">
          Dealing people to treatments by lot does not deal them their mediator. What would a common
          cause of mediator and outcome, that nobody measured, do to the indirect effect?
        </p>
      </div>
      {section.effects.map((effect) => (
        <OneEffect
          key={`${effect.contrast} ${effect.treatment} ${effect.mediator} ${effect.outcome}`}
          effect={effect}
          evidence={evidence}
        />
      ))}
    </Box>
  );
}

function OneEffect({ effect, evidence }: { effect: LinearSensitivity; evidence: Evidence }) {
  const id = useId();
  const { treatment, contrast, mediator, outcome, words } = effect;
  const place = `${treatment} through ${mediator} to ${outcome}`;
  return (
    <section aria-labelledby={id}>
      <Typography variant="h3" id={id}>
        {place}, {contrast}
      </Typography>
      <Box
        sx={{
          display: "grid",
          gap: 4,
          alignItems: "start",
          gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(0, 1fr) minmax(0, 1fr)" },
        }}
      >
        <Curve effect={effect} evidence={evidence} />
        <div>
          <Words words={words} />
        </div>
      </Box>
      <LeftOutTable effect={effect} place={`${place}, ${contrast}`} />
      <EValueTable
        title={`E-values: ${place}, ${contrast}`}
        heading={<Typography variant="h3">E-values</Typography>}
        level={evidence.settings.level}
        rows={effect.eValues.map(({ estimate, se, ...e }) => ({
          ...e,
          key: e.effect,
          difference: { estimate, se },
        }))}
      />
    </section>
  );
}

function Curve({ effect, evidence }: { effect: LinearSensitivity; evidence: Evidence }) {
  const picture = useRef<HTMLDivElement>(null);
  const { mediator, outcome, rhoAtZero } = effect;
  // Towards ±1 the curve leaves every frame; the numbers have it whole.
  const curve = useMemo(() => effect.curve.filter((c) => Math.abs(c.rho) <= SHOWN), [effect]);
  const level = percent(evidence.settings.level);
  const make = useMemo(
    () =>
      bandPlot({
        x: curve.map((c) => c.rho),
        estimate: curve.map((c) => c.indirect),
        lower: curve.map((c) => c.lower),
        upper: curve.map((c) => c.upper),
        across: "correlation of the errors",
        up: `effect through ${mediator}`,
        guides: (colours) => [
          { axis: "x", at: 0, colour: colours.line, width: 1 },
          {
            axis: "x",
            at: rhoAtZero,
            colour: colours.rust,
            width: 1.5,
            dash: [4, 3],
            label: plain(rhoAtZero, 2),
            labelled: "above",
          },
        ],
      }),
    [curve, mediator, rhoAtZero],
  );
  return (
    <div>
      <div ref={picture}>
        <Plot
          label={`Effect through ${mediator} against the correlation of the errors of ${mediator} and ${outcome}; zero at ${plain(rhoAtZero, 2)}`}
          height={250}
          make={make}
        />
      </div>
      <FigureTools
        target={picture}
        name={`sensitivity of the effect through ${mediator} on ${outcome}`}
        caption={`The effect through ${mediator} on ${outcome} if the errors of the two are correlated, with its ${level} % band (robust); as estimated at 0, zero at ${plain(rhoAtZero, 2)}.`}
        numbers={() => [curveNumbers(effect, level)]}
      />
      <WorkingOfOne
        label="Correlation of the errors"
        choices={curve.map((c) => ({ value: String(c.rho), words: plain(c.rho, 2) }))}
        initially="0"
        make={(rho) => sensitivityWorking(effect, Number(rho), evidence.settings.level)}
      />
    </div>
  );
}

const SHOWN = 0.86;

const curveNumbers = ({ curve, mediator, outcome }: LinearSensitivity, level: string): Numbers => ({
  title: `Effect through ${mediator} on ${outcome} by the correlation of the errors`,
  head: [
    "correlation",
    "indirect effect",
    "SE",
    `${level} % CI lower`,
    `${level} % CI upper`,
    "direct effect",
    "SE of the direct effect",
  ],
  rows: curve.map((c) => [c.rho, c.indirect, c.indirectSe, c.lower, c.upper, c.direct, c.directSe]),
});

/** Covariates as yardsticks, and guesses of one's own. */
function LeftOutTable({ effect, place }: { effect: LinearSensitivity; place: string }) {
  const { definition, edit } = useStudy();
  const { leftOut } = definition.settings;
  const set = (next: typeof leftOut): void =>
    edit({ settings: { ...definition.settings, leftOut: next } }, "left out");
  let guess = -1;
  return (
    <Box sx={{ mt: 2 }}>
      <NumberTable
        title={`Left out: ${place}`}
        heading={<Typography variant="h3">As strong as what is known</Typography>}
        columns={[
          "something left out",
          "differs between treatments by",
          "moves the outcome by",
          "indirect effect",
          "direct effect",
          "times as strong for zero",
          "for the interval",
          "",
        ]}
        rows={effect.leftOut.map((l, i) => {
          if (l.covariate === null) guess += 1;
          const own = guess;
          return {
            key: String(i),
            working: () => leftOutWorking(effect, l),
            cells: [
              l.covariate === null ? "my guess" : `as strong as ${l.covariate}`,
              l.difference,
              l.effect,
              l.indirect,
              l.direct,
              l.timesToZero,
              l.timesToLimit,
              {
                shown: l.covariate === null && (
                  <Button
                    variant="text"
                    size="small"
                    onClick={() => set(leftOut.filter((_, at) => at !== own))}
                  >
                    Take out
                  </Button>
                ),
                value: null,
              },
            ],
          };
        })}
        note="Both relations are told at the same mediator and covariates; the total effect stays (VanderWeele 2010). Times as strong: in both relations at once, in the direction against the effect."
      />
      <OwnGuess add={(next) => set([...leftOut, next])} />
    </Box>
  );
}

function OwnGuess({ add }: { add: (guess: { difference: number; effect: number }) => void }) {
  const [difference, setDifference] = useState("");
  const [effect, setEffect] = useState("");
  const read = (text: string): number =>
    text.trim() === "" ? NaN : Number(text.trim().replace(",", "."));
  const ready = Number.isFinite(read(difference)) && Number.isFinite(read(effect));
  const put = (): void => {
    if (!ready) return;
    add({ difference: read(difference), effect: read(effect) });
    setDifference("");
    setEffect("");
  };
  const field = (label: string, value: string, change: (v: string) => void) => (
    <Labelled style={{ width: 210 }}>
      <span>{label}</span>
      <TextInput
        inputMode="decimal"
        value={value}
        placeholder="0.5"
        aria-invalid={value.trim() !== "" && !Number.isFinite(read(value))}
        onChange={(e) => change(e.target.value)}
        onKeyDown={(e) => e.key === "Enter" && put()}
      />
    </Labelled>
  );
  return (
    <Row role="group" aria-label="A guess of one's own" sx={{ alignItems: "end", mt: 1, mb: 3 }}>
      {field("It differs between treatments by", difference, setDifference)}
      {field("A unit of it moves the outcome by", effect, setEffect)}
      <Button onClick={put} disabled={!ready}>
        Add my guess
      </Button>
    </Row>
  );
}
