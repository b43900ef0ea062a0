import { fitted, onTwoLines } from "../../../formats/figures";
import styles from "./diagram.module.css";

/** Between words and the edge of a card. */
const MARGIN = 9;
/** A letter of the serif, bold, as a share of its size. */
const SERIF = 0.54;
const NAME = 15;
const SMALL = 13;
const DETAIL = 12;
/** Of small words of the sans, mostly lower case. */
const SANS = 0.46;

/**
 * What stands on a card: the name, and what it is; a long name takes both lines, and all of it is
 * said when it is pointed at.
 */
export function CardText({
  name,
  label,
  detail,
  width,
}: {
  name: string;
  label: string;
  detail: string;
  width: number;
}) {
  const room = width - 2 * MARGIN;
  const middle = width / 2;
  const whole = name === label ? name : `${name}: ${label}`;
  if (fitted(name, room, NAME, SERIF) === name)
    return (
      <>
        <text className={styles.cardName} x={middle} y={24} textAnchor="middle">
          {name}
          <title>{label}</title>
        </text>
        <text className={styles.cardDetail} x={middle} y={41} textAnchor="middle">
          {fitted(detail, room, DETAIL, SANS)}
        </text>
      </>
    );
  return (
    <text className={`${styles.cardName} ${styles.cardLong}`} textAnchor="middle">
      {onTwoLines(name, room, SMALL, SERIF).map((line, i) => (
        <tspan key={line} x={middle} y={22 + 17 * i}>
          {line}
        </tspan>
      ))}
      <title>{detail === "" ? whole : `${whole} (${detail})`}</title>
    </text>
  );
}
