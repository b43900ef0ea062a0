import Button from "@mui/material/Button";
import { styled } from "@mui/material/styles";
import Typography from "@mui/material/Typography";
import { Check } from "../ui/check";
import { ItemWords } from "./item-words";
import { Row } from "../ui/layout";

/** Items that may be explored: those in no measure, and those of each measure. */
export interface ItemGroup {
  title: string;
  items: string[];
}

interface Props {
  groups: readonly ItemGroup[];
  chosen: readonly string[];
  /** What the items say, where that is known. */
  wordings: ReadonlyMap<string, string>;
  choose: (items: string[]) => void;
}

/** Which items take part, group by group. */
export function ExploreItems({ groups, chosen, wordings, choose }: Props) {
  const taken = new Set(chosen);
  const order = groups.flatMap((g) => g.items);
  const change = (items: readonly string[], on: boolean): void => {
    const next = new Set(taken);
    for (const item of items)
      if (on) next.add(item);
      else next.delete(item);
    choose(order.filter((item) => next.has(item)));
  };
  return (
    <Side aria-label="Items to explore">
      {groups.map(({ title, items }) => (
        <section key={title}>
          <Typography variant="h2">{title}</Typography>
          <Row sx={{ gap: 0.5 }}>
            <Button variant="text" onClick={() => change(items, true)}>
              All
            </Button>
            <Button variant="text" onClick={() => change(items, false)}>
              None
            </Button>
          </Row>
          {items.map((item) => (
            <Check
              key={item}
              label={<ItemWords item={item} wording={wordings.get(item)} />}
              checked={taken.has(item)}
              onChange={(on) => change([item], on)}
            />
          ))}
        </section>
      ))}
    </Side>
  );
}

const Side = styled("aside")({
  borderRight: "1px solid var(--line)",
  padding: "18px 20px",
  display: "grid",
  gap: 14,
  alignContent: "start",
  "& section": { display: "grid", justifyItems: "start" },
  "& .MuiFormControlLabel-root": { alignItems: "start", marginBottom: 4 },
  "& .MuiCheckbox-root": { padding: "0 7px 0 9px" },
  "& .MuiFormControlLabel-label": { fontSize: 14, lineHeight: 1.3, overflowWrap: "anywhere" },
});
