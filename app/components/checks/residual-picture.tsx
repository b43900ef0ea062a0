import { plain, type ResidualRows } from "../../../core";
import { linear, padded, labelledTicks } from "../figure/scale";
import styles from "./residual-picture.module.css";

const WIDTH = 460;
const HEIGHT = 250;
const M = { left: 48, right: 12, top: 10, bottom: 40 };

interface RowName {
  x: number;
  y: number;
  words: string;
}

/** Names that would be written over each other become one list of rows. */
export function rowNames(names: RowName[]): RowName[] {
  return names.reduce<RowName[]>((kept, name) => {
    const near = kept.find((k) => Math.abs(k.x - name.x) < 24 && Math.abs(k.y - name.y) < 11);
    if (near) near.words += `, ${name.words}`;
    else kept.push({ ...name });
    return kept;
  }, []);
}

/** Studentised residuals against fitted values; rows with influence are larger and named. */
export function ResidualPicture({
  residuals,
  named,
}: {
  residuals: ResidualRows;
  named: ReadonlySet<number>;
}) {
  const { fitted, studentised, rows, outcome } = residuals;
  const x = linear(padded(fitted), [M.left, WIDTH - M.right]);
  const known = studentised.filter((v): v is number => v !== null);
  const y = linear(padded([...known, -3, 3], 0.03), [HEIGHT - M.bottom, M.top]);
  return (
    <svg
      className={styles.picture}
      style={{ maxWidth: "100%" }}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      width={WIDTH}
      height={HEIGHT}
      role="img"
      aria-label={`Residuals of ${outcome} against fitted values`}
    >
      {[-2, 0, 2].map((v) => (
        <path
          key={v}
          className={v === 0 ? styles.zero : styles.guide}
          d={`M${M.left} ${y(v)}H${WIDTH - M.right}`}
        />
      ))}
      {labelledTicks(y.domain, 5).map(([v, text]) => (
        <text key={v} x={M.left - 8} y={y(v) + 4} textAnchor="end">
          {text}
        </text>
      ))}
      {labelledTicks(x.domain, 6).map(([v, text]) => (
        <text key={v} x={x(v)} y={HEIGHT - M.bottom + 16} textAnchor="middle">
          {text}
        </text>
      ))}
      {studentised.map((value, i) =>
        value === null ? null : (
          <circle
            key={rows[i]}
            cx={x(fitted[i]!)}
            cy={y(value)}
            r={named.has(rows[i]!) ? 4.5 : 2.4}
            className={named.has(rows[i]!) ? styles.named : undefined}
          >
            <title>{`row ${rows[i]}: residual ${plain(value, 2)}`}</title>
          </circle>
        ),
      )}
      {rowNames(
        studentised.flatMap((value, i) =>
          value !== null && named.has(rows[i]!)
            ? [{ x: x(fitted[i]!) + 7, y: y(value) + 4, words: String(rows[i]) }]
            : [],
        ),
      ).map((name) => (
        <text key={name.words} className={styles.rowName} x={name.x} y={name.y}>
          {name.words}
        </text>
      ))}
      <text x={(M.left + WIDTH) / 2} y={HEIGHT - 6} textAnchor="middle">
        fitted {outcome}
      </text>
      <text transform={`translate(13 ${HEIGHT / 2 - 12}) rotate(-90)`} textAnchor="middle">
        studentised residual
      </text>
    </svg>
  );
}
