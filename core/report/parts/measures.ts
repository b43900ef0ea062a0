import { heading, limits, number, paragraph, row, table, word, type Part } from "../context";
import { listed } from "../../wording";
import type { MeasureForm } from "../../theory";

const FORMS: Record<MeasureForm, string> = {
  averages: "mean of items",
  sums: "sum of items",
  reflects: "common factor",
  combines: "composite",
};

/** What each measure is made of, and how reliable it is. */
export const measures: Part = ({ data, write, cell, definition }) => {
  const made = data?.measures ?? [];
  if (made.length === 0) return [];
  const level = write.percent(definition.settings.level);
  return [
    heading("Measures"),
    ...made.map(({ name, form, items, scale, reliability }) => {
      const reversed = items.filter((i) => i.reversed).map((i) => i.item);
      const alpha = reliability.value?.alpha;
      const answers = scale ? `, answered from ${scale[0]} to ${scale[1]}` : "";
      const reliable =
        alpha == null
          ? ""
          : `; Cronbach's α = ${write.bounded(alpha)}${omegaWords(write, reliability.value!.omega?.total ?? null)}`;
      return paragraph(
        `${name}: ${FORMS[form]} (${items.map((i) => i.item).join(", ")})${answers}${reversed.length > 0 ? `; reverse-keyed: ${listed(reversed)}` : ""}${reliable}.`,
      );
    }),
    table(
      "measures",
      "Measures and their reliability",
      [
        word("Measure"),
        word("Form"),
        number("Items"),
        number("n"),
        number("α"),
        limits(`${level} % CI of α`),
        number("ω"),
        number("Mean inter-item r"),
      ],
      made.map(({ name, form, items, reliability: { value } }) =>
        row(
          cell.words(name),
          cell.words(FORMS[form]),
          cell.count(items.length),
          cell.count(value?.n),
          cell.bounded(value?.alpha),
          cell.limits(value?.alphaCi?.[0], value?.alphaCi?.[1], 2),
          cell.bounded(value?.omega?.total),
          cell.bounded(value?.meanInterItemCorrelation),
        ),
      ),
      [
        "α: Cronbach's alpha with the interval of Feldt; ω: omega total of one factor. Reverse-keyed items were reversed first.",
      ],
    ),
  ];
};

const omegaWords = (write: { bounded: (v: number) => string }, omega: number | null): string =>
  omega === null ? "" : `, ω = ${write.bounded(omega)}`;
