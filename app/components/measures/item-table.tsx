import Button from "@mui/material/Button";
import ButtonBase from "@mui/material/ButtonBase";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
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
    <Table className="numbers items">
      <TableHead>
        <TableRow>
          <TableCell scope="col">item</TableCell>
          <TableCell scope="col">keyed</TableCell>
          <TableCell scope="col">mean</TableCell>
          <TableCell scope="col">SD</TableCell>
          <TableCell scope="col">with the others</TableCell>
          <TableCell scope="col">explained by them</TableCell>
          <TableCell scope="col">loading</TableCell>
          <TableCell scope="col">alpha without it</TableCell>
          <TableCell />
        </TableRow>
      </TableHead>
      <TableBody>
        {measure.items.map(({ ref, reversed }) => {
          const at = reliability?.items.indexOf(ref.name) ?? -1;
          const s = reliability?.itemStatistics[at];
          const flagged = against.includes(ref.name);
          const better =
            s?.alphaIfDropped != null &&
            reliability?.alpha != null &&
            s.alphaIfDropped > reliability.alpha;
          return (
            <TableRow key={ref.name} className={flagged ? "against" : undefined}>
              <TableCell>
                {flagged && <span className="flag">◆ </span>}
                {ref.name}
              </TableCell>
              <TableCell>
                <ButtonBase
                  className={reversed ? "button keyed" : "button bare keyed"}
                  aria-pressed={reversed}
                  onClick={() => turn(ref.name)}
                >
                  {reversed ? "reversed" : "as it is"}
                </ButtonBase>
              </TableCell>
              <TableCell>{plain(s?.mean, 2)}</TableCell>
              <TableCell>{plain(s?.sd, 2)}</TableCell>
              <TableCell className={flagged ? "flag" : undefined}>
                {plain(s?.correctedItemTotal, 2)}
              </TableCell>
              <TableCell>{plain(s?.squaredMultipleCorrelation, 2)}</TableCell>
              <TableCell>{plain(reliability?.omega?.loadings[at], 2)}</TableCell>
              <TableCell
                className={better ? "better" : undefined}
                title={better ? "Alpha would be higher without this item" : undefined}
              >
                {plain(s?.alphaIfDropped)}
              </TableCell>
              <TableCell>
                <Button
                  variant="text"
                  aria-label={`Take ${ref.name} out of ${measure.name.name}`}
                  onClick={() => remove(ref.name)}
                >
                  <CloseIcon />
                </Button>
              </TableCell>
            </TableRow>
          );
        })}
      </TableBody>
    </Table>
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
      <Table className="numbers inter-item">
        <TableHead>
          <TableRow>
            <TableCell scope="col">item</TableCell>
            {items.slice(0, -1).map((item) => (
              <TableCell key={item} scope="col">
                {item}
              </TableCell>
            ))}
          </TableRow>
        </TableHead>
        <TableBody>
          {items.slice(1).map((item, i) => (
            <TableRow key={item}>
              <TableCell>{item}</TableCell>
              {items.slice(0, -1).map((other, j) => (
                <TableCell key={other}>{j <= i ? plain(interItem[i + 1]![j]!, 2) : ""}</TableCell>
              ))}
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </details>
  );
}
