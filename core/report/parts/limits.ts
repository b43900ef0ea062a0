import { cautionsTold } from "../../evidence";
import { heading, paragraph, type Part } from "../context";

/** What has to be known of decisions before they are relied on, and of which. */
export const limits: Part = ({ evidence }) => {
  const told = cautionsTold(evidence.hypotheses);
  return told.length === 0
    ? []
    : [heading("Limits of these results"), ...told.map((words) => paragraph(words))];
};
