import { equationsOf } from "../../../core";
import { useMemo, useRef } from "react";
import {
  plain,
  pClause,
  type EffectEvidence,
  type Evidence,
  type StudyDefinition,
} from "../../../core";
import { Covariances } from "./covariances";
import { CardText } from "./card-text";
import { Items } from "./items";
import {
  explainedWords,
  fitted,
  INSET,
  modelWords,
  structureOf,
  textWidth,
} from "../../../formats/figures";
import { layoutDiagram, type Arrow, type DiagramLayout } from "../../../formats/figures";
import { useRoom } from "../ui/room";
import styles from "./diagram.module.css";

export interface DiagramOptions {
  units: "raw" | "standardised";
  doubt: "interval" | "p";
  /** Constructs show their items, with loadings or weights. */
  items?: boolean;
}

interface Props {
  evidence: Evidence;
  definition: StudyDefinition;
  options: DiagramOptions;
  selected: { from: string; to: string } | null;
  /** Steps to bring out while a sentence is pointed at. */
  highlighted: Set<string> | null;
  select: (path: { from: string; to: string } | null) => void;
}

const FIRST_ROOM = { width: 700, height: 460 };
const CARD_HEIGHT = 52;
/** Of a digit among its points and commas, as a share of the font size. */
const FIGURES = 0.47;
/** Of the heads of columns: over the highest card, wherever it stands. */
const HEAD = { y: 22, over: 44 };
/** For the name of a moderator beside its mark; it has a card as well. */
const MARK_ROOM = 130;

export const stepKey = (from: string, to: string): string => `${from}\u0000${to}`;

/**
 * The picture of the sentences: square cards by role, the direct effect of every step on its arrow.
 */
export function PathDiagram({
  evidence,
  definition,
  options,
  selected,
  highlighted,
  select,
}: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const room = useRoom(frame, "path diagram", FIRST_ROOM);
  const size = { width: Math.max(420, room.width), height: Math.max(300, room.height) };
  const section = structureOf(evidence);
  const unfolded = options.items ? evidence.latent : [];
  const shape = JSON.stringify([
    evidence.paths.map((p) => [p.from, p.to]),
    evidence.roles,
    unfolded.map((l) => l.name),
  ]);
  // The layout depends on the shape of the model only, not on its numbers.
  const layout = useMemo(
    () => layoutDiagram(evidence, size.width, size.height, new Set(unfolded.map((l) => l.name))),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [shape, size.width, size.height],
  );
  const headY = Math.max(HEAD.y, Math.min(...layout.boxes.map((b) => b.y)) - HEAD.over);
  return (
    <div style={{ flex: 1, minHeight: 300, minWidth: 0, overflow: "auto" }} ref={frame}>
      <svg
        style={{ display: "block" }}
        width={layout.width}
        height={layout.height}
        role="group"
        aria-label="Path diagram"
      >
        {layout.heads.map((head) => (
          <text key={head.text} className={styles.role} x={head.x} y={headY} textAnchor="middle">
            {head.text}
          </text>
        ))}
        <Curves {...{ evidence, options, selected, highlighted, layout, select }} />
        <ModeratorMarks evidence={evidence} layout={layout} highlighted={highlighted} />
        {section && <Covariances boxes={layout.boxes} unfolded={unfolded} section={section} />}
        {layout.boxes.map((box) => {
          const variable = definition.variables.find((v) => v.name === box.name);
          const factor = evidence.latent.find((l) => l.name === box.name);
          const detail = factor
            ? `${factor.form === "combines" ? "composite" : "latent"}, ${factor.items.length} ${factor.items.length === 1 ? "item" : "items"}`
            : (modelWords(evidence, box.name) ??
              variable?.unit ??
              (/ items$/.test(variable?.label ?? "") ? variable!.label! : (variable?.level ?? "")));
          const open = unfolded.find((l) => l.name === box.name);
          const height = open ? CARD_HEIGHT : box.height;
          const top = box.y + (box.height - height) / 2;
          return (
            <g key={box.name}>
              {open && (
                <Items
                  box={box}
                  items={open.items}
                  evidence={evidence}
                  wording={(item) => definition.variables.find((v) => v.name === item)?.label}
                />
              )}
              <g transform={`translate(${box.x} ${top})`}>
                <rect
                  className={styles.cardShape}
                  width={box.width}
                  height={height}
                  rx={factor?.form === "reflects" ? height / 2 : 2}
                />
                {factor?.form === "combines" && (
                  <rect
                    className={styles.cardInner}
                    x={INSET}
                    y={INSET}
                    width={box.width - 2 * INSET}
                    height={height - 2 * INSET}
                  />
                )}
                <CardText
                  name={box.name}
                  label={variable?.label ?? box.name}
                  detail={detail}
                  width={box.width}
                />
                {!open && (
                  <text className={styles.explained} x={box.width} y={-6} textAnchor="end">
                    {explainedWords(evidence, box.name)}
                  </text>
                )}
              </g>
            </g>
          );
        })}
        {layout.arrows.map((arrow) => (
          <ArrowLabel
            key={stepKey(arrow.from, arrow.to)}
            arrow={arrow}
            {...look(arrow, evidence, options, selected, highlighted)}
            select={select}
          />
        ))}
      </svg>
    </div>
  );
}

/** The class of a part, and those of the states it is in. */
const looks = (part: string | undefined, states: Record<string, boolean>): string =>
  [
    part,
    ...Object.keys(states)
      .filter((s) => states[s])
      .map((s) => styles[s]),
  ].join(" ");

interface Look {
  text: string;
  detail: string;
  clear: boolean;
  chosen: boolean;
  faded: boolean;
  weight: number;
}

function look(
  arrow: Arrow,
  evidence: Evidence,
  options: DiagramOptions,
  selected: Props["selected"],
  highlighted: Props["highlighted"],
): Look {
  const path = evidence.paths.find((p) => p.from === arrow.from && p.to === arrow.to)!;
  const raw = path.effects
    .map((id) => evidence.effects.find((e) => e.id === id))
    .filter((e): e is EffectEvidence => e !== undefined);
  const effects = options.units === "raw" ? raw : raw.map((r) => standardisedOf(r, evidence));
  const chosen = selected?.from === arrow.from && selected.to === arrow.to;
  const faded = highlighted !== null && !highlighted.has(stepKey(arrow.from, arrow.to));
  if (effects.length !== 1)
    return {
      text: effects.length > 1 ? `${effects.length} contrasts` : "–",
      detail: "see equation",
      clear: jointlyClear(arrow, evidence),
      chosen,
      faded,
      weight: 1.6,
    };
  const [effect] = effects;
  const { shown, estimate } = effect!;
  const size =
    evidence.effects.find((e) => e.of === raw[0]!.id && e.kind === "completely_standardised")
      ?.estimate ?? 0;
  const detail =
    options.doubt === "interval"
      ? shown === null || shown.lower === null
        ? ""
        : `${brief(shown.lower)}, ${brief(shown.upper)}`
      : shown === null || shown.p === null
        ? ""
        : `${pClause(shown.p, shown.pIsBound)}`;
  const groups = besides(arrow, evidence, options);
  return {
    ...(groups ?? { text: shown ? brief(estimate) : "–", detail }),
    clear: leavesOutZero(raw[0]!),
    chosen,
    faded,
    weight: 1.3 + Math.min(2.2, 4 * Math.abs(size)),
  };
}

/** A path that differs between groups: its estimate in each, side by side. */
function besides(
  { from, to }: Arrow,
  { sections }: Evidence,
  { units }: DiagramOptions,
): Pick<Look, "text" | "detail"> | null {
  const composite = sections.find((s) => s.kind === "composites");
  if (composite && composite.groups.length > 1) {
    const own = composite.groups.flatMap(({ group, paths }) =>
      paths.filter((p) => p.from === from && p.to === to).map((p) => ({ group, ...p })),
    );
    return {
      text: own.map((p) => brief(p.estimate)).join(" | "),
      detail: own.map((p) => p.group).join(" | "),
    };
  }
  const section = sections.find((s) => s.kind === "structure");
  if (!section || section.groups.length < 2) return null;
  const own = section.arrows.filter((a) => a.kind === "path" && a.from === from && a.to === to);
  if (new Set(own.map((a) => a.parameter)).size < 2) return null;
  const value = (a: (typeof own)[number]): number | null =>
    units === "raw" ? a.estimate : a.full.estimate;
  return {
    text: own.map((a) => brief(value(a))).join(" | "),
    detail: own.map((a) => a.group).join(" | "),
  };
}

/** Two decimals on an arrow, three where two would say nothing. */
const brief = (value: number | null): string =>
  plain(value, value !== null && Math.abs(value) < 0.095 ? 3 : 2);

const leavesOutZero = ({ shown }: EffectEvidence): boolean =>
  shown !== null &&
  shown.lower !== null &&
  shown.upper !== null &&
  (shown.lower > 0 || shown.upper < 0);

/**
 * In SDs of both, or of the outcome alone where a standard deviation of the predictor means
 * nothing.
 */
function standardisedOf(raw: EffectEvidence, { effects }: Evidence): EffectEvidence {
  const find = (kind: EffectEvidence["kind"]) =>
    effects.find((e) => e.of === raw.id && e.kind === kind && e.shown !== null);
  return find("completely_standardised") ?? find("partially_standardised") ?? raw;
}

/** Several code columns count together, by their joint test. */
function jointlyClear({ from, to }: Arrow, evidence: Evidence): boolean {
  const { errors, settings } = evidence;
  const equations = equationsOf(evidence);
  const omnibus = equations.find((e) => e.outcome === to)?.omnibus.find((o) => o.variable === from);
  const p = omnibus?.test[errors]?.p;
  return p !== undefined && p < 1 - settings.level;
}

function Curves({
  evidence,
  options,
  selected,
  highlighted,
  layout,
  select,
}: Omit<Props, "definition"> & { layout: DiagramLayout }) {
  return layout.arrows.map((arrow) => {
    const { clear, chosen, faded, weight } = look(arrow, evidence, options, selected, highlighted);
    const { tip } = arrow;
    const degrees = (tip.angle * 180) / Math.PI;
    return (
      <g
        key={stepKey(arrow.from, arrow.to)}
        className={looks(styles.arrow, { clear, chosen, faded })}
      >
        <path d={arrow.d} strokeWidth={weight} />
        <path
          className={styles.head}
          d="M0 0-10-4.5-10 4.5z"
          transform={`translate(${tip.x} ${tip.y}) rotate(${degrees})`}
        />
        {/* A wide invisible line, easy to hit; the label beside it is the keyboard's way. */}
        <path
          className={styles.hit}
          d={arrow.d}
          onClick={() => select(chosen ? null : { from: arrow.from, to: arrow.to })}
        />
      </g>
    );
  });
}

/**
 * A moderator's line ends in a fulcrum on the step that it acts on, with the interaction beside it.
 */
function ModeratorMarks({
  evidence,
  layout,
  highlighted,
}: Pick<Props, "evidence" | "highlighted"> & { layout: DiagramLayout }) {
  return layout.moderators.map(({ moderator, from, to, d, tip, angle }) => {
    const keys = [
      [from, moderator],
      [moderator, from],
    ].map(([a, b]) => `interaction ${a}:${b} on ${to}`);
    const effect = evidence.effects.find((e) => keys.includes(e.id));
    const clear = effect !== undefined && leavesOutZero(effect);
    const faded = highlighted !== null && !highlighted.has(stepKey(from, to));
    const back = { x: tip.x + 46 * Math.cos(angle), y: tip.y + 46 * Math.sin(angle) };
    // The words stand on the side of the line that has more room.
    const left = tip.x > layout.width * 0.62;
    return (
      <g key={`${moderator} ${from} ${to}`} className={looks(styles.moderation, { clear, faded })}>
        <path d={d} />
        <path
          className={styles.fulcrum}
          d="M0 0-9 17h18z"
          transform={`translate(${tip.x} ${tip.y}) rotate(${(angle * 180) / Math.PI - 90})`}
        />
        {effect && (
          <text x={back.x + (left ? -10 : 10)} y={back.y + 4} textAnchor={left ? "end" : "start"}>
            {fitted(moderator, MARK_ROOM, 13)}:{" "}
            {effect.estimate !== null && effect.estimate > 0 ? "+" : ""}
            {brief(effect.estimate)}
            <title>{`${effect.label}: ${brief(effect.estimate)}, interval ${brief(effect.shown?.lower ?? null)} to ${brief(effect.shown?.upper ?? null)}`}</title>
          </text>
        )}
      </g>
    );
  });
}

function ArrowLabel({
  arrow,
  text,
  detail,
  clear,
  chosen,
  faded,
  select,
}: { arrow: Arrow; select: Props["select"] } & Look) {
  const width = Math.max(textWidth(text, 15, FIGURES), textWidth(detail, 12, FIGURES)) + 8;
  const toggle = (): void => select(chosen ? null : { from: arrow.from, to: arrow.to });
  return (
    <g
      className={looks(styles.arrowLabel, { clear, chosen, faded })}
      transform={`translate(${arrow.label.x} ${arrow.label.y})`}
      role="button"
      tabIndex={0}
      aria-pressed={chosen}
      aria-label={`${arrow.from} to ${arrow.to}: ${text}, ${detail}`}
      onClick={toggle}
      onKeyDown={(e) => {
        if (e.key !== "Enter" && e.key !== " ") return;
        e.preventDefault();
        toggle();
      }}
    >
      <rect x={-width / 2} y={-16} width={width} height={32} rx={3} />
      <text className={styles.estimate} textAnchor="middle" y={-3}>
        {text}
      </text>
      <text className={styles.detail} textAnchor="middle" y={12}>
        {detail}
      </text>
    </g>
  );
}
