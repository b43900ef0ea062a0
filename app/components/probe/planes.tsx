import { effectAt, plain, predictAt, testOf, type Evidence, type ModerationEvidence } from "../../../core";
import { PlaneMap } from "./plane-map";
import { TurningSurface } from "./turning-surface";
import type { Points } from "./use-points";

const rangeOf = (values: ArrayLike<number> | undefined, mean: number, sd: number): [number, number] =>
  values && values.length > 0 ? [Math.min(...Array.from(values)), Math.max(...Array.from(values))] : [mean - 2 * sd, mean + 2 * sd];

interface Props {
  moderation: ModerationEvidence;
  evidence: Evidence;
  points: Points | null;
}

/** The predicted outcome over predictor and first moderator: as a map with the people, and as a surface to be turned. */
export function ResponseMap({ moderation, evidence, points }: Props) {
  const { model, focal, outcome, moderators } = moderation;
  const w = moderators[0]!.columns[0]!;
  const [cx, cw] = [focal, w].map((key) => model.columns.find((c) => c.key === key)!);
  const xRange = rangeOf(points?.columns[focal], cx!.mean, cx!.sd);
  const yRange = rangeOf(points?.columns[w], cw!.mean, cw!.sd);
  const predicted = (x: number, y: number): number =>
    predictAt(
      model,
      new Map([
        [focal, x],
        [w, y],
      ]),
    ).estimate;
  const set = moderation.johnsonNeyman.find((j) => j.over === moderators[0]!.name);
  const found = set?.tests[evidence.settings.errors] ?? set?.tests.classical;
  const edges = moderators.length === 1 ? (found?.pointwise.rootsInRange ?? []) : [];
  const shared = { xName: focal, yName: w, what: `Predicted ${outcome}`, xRange, yRange };
  return (
    <div className="planes">
      <div>
        <PlaneMap
          {...shared}
          at={(x, y) => ({ value: predicted(x, y) })}
          people={points && { x: points.columns[focal]!, y: points.columns[w]! }}
          edges={edges}
        />
        <p className="quiet plane-note">
          Lines join equal predicted {outcome}; darker is more. Where a line runs upright, {w} makes no difference; where it runs level,{" "}
          {focal} makes none.
          {edges.length > 0 && ` The dashed line is where the effect of ${focal} begins or ceases to be told apart from zero.`} Where there
          are no people the surface is a guess.
        </p>
      </div>
      <TurningSurface {...shared} at={predicted} />
    </div>
  );
}

/** The effect over two moderators, pale and hatched where it cannot be told from zero. */
export function EffectMap({ moderation, evidence, points }: Props) {
  const { model, focal, outcome, moderators } = moderation;
  const [w, z] = moderators.map((m) => m.columns[0]!) as [string, string];
  const [cw, cz] = [w, z].map((key) => model.columns.find((c) => c.key === key)!);
  const at = (x: number, y: number) => {
    const reading = effectAt(
      model,
      focal,
      new Map([
        [w, x],
        [z, y],
      ]),
    );
    const test = testOf(reading, model, evidence.settings.level);
    return { value: reading.estimate, sure: test !== null && (test.lower > 0 || test.upper < 0) };
  };
  const people = points && { x: points.columns[w]!, y: points.columns[z]! };
  const inside = people ? Array.from(people.x).filter((x, i) => at(x, people.y[i]!).sure).length : 0;
  return (
    <div id="probe-figure">
      <PlaneMap
        xName={w}
        yName={z}
        what={`Effect of ${focal} on ${outcome}`}
        xRange={rangeOf(points?.columns[w], cw!.mean, cw!.sd)}
        yRange={rangeOf(points?.columns[z], cz!.mean, cz!.sd)}
        at={at}
        people={people}
      />
      <p className="serif plane-note">
        The effect of {focal} on {outcome} is told apart from zero for{" "}
        {people ? `${plain((100 * inside) / Math.max(1, people.x.length), 1)} %` : "…"} of the {evidence.sample.n} {evidence.unit}; where it
        is not, the map is pale and hatched (pointwise, {evidence.settings.errors} errors).
      </p>
    </div>
  );
}
