import { plain, type Measure, type MeasureEvidence } from "../../../core";
import { CloseIcon } from "../icons";

interface Props {
  measure: Measure;
  evidence: MeasureEvidence | undefined;
  turn: (item: string) => void;
  remove: (item: string) => void;
}

/** One row for each item: how it goes with the others, and what would be without it. */
export function ItemTable({ measure, evidence, turn, remove }: Props) {
  const reliability = evidence?.reliability.value;
  const against = reliability?.warnings.find((w) => w.code === "negative_item_total")?.about ?? [];
  return (
    <table className="numbers items">
      <thead>
        <tr>
          <th scope="col">item</th>
          <th scope="col">keyed</th>
          <th scope="col">mean</th>
          <th scope="col">SD</th>
          <th scope="col">with the others</th>
          <th scope="col">explained by them</th>
          <th scope="col">loading</th>
          <th scope="col">alpha without it</th>
          <td />
        </tr>
      </thead>
      <tbody>
        {measure.items.map(({ ref, reversed }) => {
          const at = reliability?.items.indexOf(ref.name) ?? -1;
          const s = reliability?.itemStatistics[at];
          const flagged = against.includes(ref.name);
          const better =
            s?.alphaIfDropped != null &&
            reliability?.alpha != null &&
            s.alphaIfDropped > reliability.alpha;
          return (
            <tr key={ref.name} className={flagged ? "against" : undefined}>
              <td>
                {flagged && <span className="flag">◆ </span>}
                {ref.name}
              </td>
              <td>
                <button
                  type="button"
                  className={reversed ? "button keyed" : "button bare keyed"}
                  aria-pressed={reversed}
                  onClick={() => turn(ref.name)}
                >
                  {reversed ? "reversed" : "as it is"}
                </button>
              </td>
              <td>{plain(s?.mean, 2)}</td>
              <td>{plain(s?.sd, 2)}</td>
              <td className={flagged ? "flag" : undefined}>{plain(s?.correctedItemTotal, 2)}</td>
              <td>{plain(s?.squaredMultipleCorrelation, 2)}</td>
              <td>{plain(reliability?.omega?.loadings[at], 2)}</td>
              <td
                className={better ? "better" : undefined}
                title={better ? "Alpha would be higher without this item" : undefined}
              >
                {plain(s?.alphaIfDropped)}
              </td>
              <td>
                <button
                  type="button"
                  className="button bare"
                  aria-label={`Take ${ref.name} out of ${measure.name.name}`}
                  onClick={() => remove(ref.name)}
                >
                  <CloseIcon />
                </button>
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** Correlations among the items, beneath the diagonal. */
export function InterItem({ evidence }: { evidence: MeasureEvidence }) {
  const reliability = evidence.reliability.value;
  if (!reliability) return null;
  const { items, interItem } = reliability;
  return (
    <details>
      <summary className="quiet">Correlations among the items</summary>
      <table className="numbers inter-item">
        <thead>
          <tr>
            <th scope="col">item</th>
            {items.slice(0, -1).map((item) => (
              <th key={item} scope="col">
                {item}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {items.slice(1).map((item, i) => (
            <tr key={item}>
              <td>{item}</td>
              {items.slice(0, -1).map((other, j) => (
                <td key={other}>{j <= i ? plain(interItem[i + 1]![j]!, 2) : ""}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
