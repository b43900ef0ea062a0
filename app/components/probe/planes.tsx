import { useRef } from "react";
import {
  errorsName,
  effectAt,
  percent,
  plain,
  predictAt,
  responseOf,
  scaleWords,
  testOf,
  type Evidence,
  type ModerationEvidence,
} from "../../../core";
import { FigureTools } from "../figure/figure-tools";
import { padded } from "../../../formats/figures";
import { PlaneMap, type PlaneValue } from "./plane-map";
import { placeOf } from "./lever-model";
import { effectMapTable, surfaceTable } from "./probe-numbers";
import { TurningSurface } from "./turning-surface";
import type { Points } from "./use-points";
import { PlaneNote, Planes } from "./layout";

interface Props {
  moderation: ModerationEvidence;
  evidence: Evidence;
  points: Points | null;
}

/** Where a column lies: in the data, or about its mean until they are there. */
function rangeOf(
  { model }: ModerationEvidence,
  points: Points | null,
  key: string,
): [number, number] {
  const column = model.columns.find((c) => c.key === key)!;
  return padded(
    points?.columns[key] ?? [column.mean - 2 * column.sd, column.mean + 2 * column.sd],
    0,
  );
}

/**
 * The predicted outcome over predictor and first moderator: as a map with the people, and as a
 * surface to be turned.
 */
export function ResponseMap({ moderation, evidence, points }: Props) {
  const map = useRef<HTMLDivElement>(null);
  const turned = useRef<HTMLDivElement>(null);
  const { model, focal, outcome, moderators } = moderation;
  const [first, ...others] = moderators;
  const w = first!.columns[0]!;
  const held = others.flatMap((m) =>
    placeOf(moderation, m.probes[Math.floor((m.probes.length - 1) / 2)]!),
  );
  const xRange = rangeOf(moderation, points, focal);
  const yRange = rangeOf(moderation, points, w);
  const predicted = (x: number, y: number): number =>
    responseOf(model, predictAt(model, new Map([...held, [focal, x], [w, y]])).estimate);
  const set = moderation.johnsonNeyman.find((j) => j.over === first!.name);
  const found = set?.tests[evidence.errors] ?? set?.tests.classical;
  const edges = moderators.length === 1 ? (found?.pointwise.rootsInRange ?? []) : [];
  const what = `Predicted ${scaleWords(model.link, outcome).response}`;
  const heldWords =
    others.length > 0 ? `, ${others.map((m) => m.name).join(" and ")} at the middle` : "";
  const edgeWords =
    edges.length > 0
      ? ` The ${edges.length > 1 ? "lines" : "line"} at ${edges.map((e) => plain(e, 2)).join(" and ")} ${edges.length > 1 ? "are" : "is"} where the effect of ${focal} begins or ceases to be told apart from zero.`
      : "";
  const caption = `${what} over ${focal} and ${w}${heldWords}; other predictors at their means, ${evidence.sample.n} ${evidence.unit}.${edgeWords}`;
  const numbers = () => [
    surfaceTable(moderation, { key: focal, range: xRange }, { key: w, range: yRange }, held),
  ];
  const name = `${outcome} over ${focal} and ${w}`;
  return (
    <>
      <Planes>
        <div>
          <div ref={map}>
            <PlaneMap
              {...{ what, xRange, yRange, edges }}
              xName={focal}
              yName={w}
              at={(x, y) => ({ value: predicted(x, y) })}
              people={points && { x: points.columns[focal]!, y: points.columns[w]! }}
            />
          </div>
          <FigureTools
            target={map}
            name={name}
            caption={`${caption} Dots are ${evidence.unit}.`}
            numbers={numbers}
          />
        </div>
        <div>
          <TurningSurface
            picture={turned}
            what={what}
            surface={{
              xName: focal,
              yName: w,
              zName: scaleWords(model.link, outcome).response,
              xRange,
              yRange,
              edges,
              at: predicted,
              people: points && { x: points.columns[focal]!, y: points.columns[w]!, z: points.y },
            }}
          />
          <FigureTools
            target={turned}
            name={`${name}, surface`}
            caption={caption}
            numbers={numbers}
          />
        </div>
      </Planes>
      <PlaneNote className="quiet">
        Lines join equal predicted {scaleWords(model.link, outcome).response}; darker is more. Where
        a line runs upright, {w} makes no difference; where it runs level, {focal} makes none.
        {edgeWords}
        {heldWords &&
          ` Here ${others.map((m) => m.name).join(" and ")} is held at the middle value.`}{" "}
        Where there are no data the surface is a guess.
      </PlaneNote>
    </>
  );
}

/** The effect over two moderators, pale and hatched where it cannot be told from zero. */
export function EffectMap({ moderation, evidence, points }: Props) {
  const figure = useRef<HTMLDivElement>(null);
  const { model, focal, outcome, moderators } = moderation;
  const [w, z] = moderators.map((m) => m.columns[0]!) as [string, string];
  const { level } = evidence.settings;
  const errors = errorsName(evidence.errors);
  const at = (x: number, y: number): PlaneValue => {
    const place = new Map([
      [w, x],
      [z, y],
    ]);
    const reading = effectAt(model, focal, place);
    const test = testOf(reading, model, level);
    // How far the nearer limit is from zero, on the estimate's side.
    return {
      value: reading.estimate,
      sure: test ? (reading.estimate >= 0 ? test.lower : -test.upper) : -1,
    };
  };
  const xRange = rangeOf(moderation, points, w);
  const yRange = rangeOf(moderation, points, z);
  const people = points && { x: points.columns[w]!, y: points.columns[z]! };
  const inside = people
    ? Array.from(people.x).filter((x, i) => at(x, people.y[i]!).sure! > 0).length
    : 0;
  const what = `Effect of ${focal} on ${scaleWords(model.link, outcome).predictor}`;
  const rule = `where it cannot be told from zero, the map is pale and hatched (pointwise ${percent(level)} %, ${errors} errors)`;
  return (
    <>
      <div ref={figure} style={{ width: "fit-content" }}>
        <PlaneMap xName={w} yName={z} {...{ what, xRange, yRange, at, people }} />
      </div>
      <PlaneNote className="serif">
        The effect of {focal} on {outcome} is told apart from zero for{" "}
        {people ? `${plain((100 * inside) / Math.max(1, people.x.length), 1)} %` : "…"} of the{" "}
        {evidence.sample.n} {evidence.unit}; {rule}.
      </PlaneNote>
      <FigureTools
        target={figure}
        name={`${what} over ${w} and ${z}`}
        caption={`${what} over ${w} and ${z}; ${rule}. Dots are the ${evidence.sample.n} ${evidence.unit}.`}
        numbers={() => [
          effectMapTable(
            moderation,
            evidence,
            { key: w, range: xRange },
            { key: z, range: yRange },
          ),
        ]}
      />
    </>
  );
}
