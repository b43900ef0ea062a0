import Button from "@mui/material/Button";
import { useState } from "react";
import { completePlan, type StudyDefinition, type StudyPlan, type Table } from "../../../core";
import { loadStudy, type ShelfEntry } from "../../storage/studies";
import { findExpectations } from "../../workers/planning-threads";
import { Row } from "../ui/layout";
import { Select } from "../ui/select";

interface Props {
  id: string;
  definition: StudyDefinition;
  raw: Table;
  plan: StudyPlan;
  shelf: readonly ShelfEntry[];
  change: (plan: StudyPlan) => void;
  tell: (message: string) => void;
}

/**
 * Sizes from what was found: in these data, or in another study on the shelf, a published matrix of
 * correlations among them.
 */
export function Sources({ id, definition, raw, plan, shelf, change, tell }: Props) {
  const [busy, setBusy] = useState(false);
  const others = shelf.filter(({ study }) => study.id !== id && study.rows > 0);
  const take = async (from: { definition: StudyDefinition; table: Table }, name: string) => {
    setBusy(true);
    try {
      const found = await findExpectations(from.definition, from.table, completePlan(plan));
      if (found.problem) tell(`Nothing could be taken from ${name}: ${found.problem.message}`);
      else {
        change(found.value);
        tell(
          `Taken from ${name}: ${found.value.sizes.length} sizes, ${found.value.correlations.length} correlations.`,
        );
      }
    } catch (error) {
      tell(error instanceof Error ? error.message : String(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <Row>
      {raw.rows > 0 && (
        <Button
          variant="outlined"
          disabled={busy}
          onClick={() => void take({ definition, table: raw }, "these data")}
        >
          Expect what these data say
        </Button>
      )}
      {others.length > 0 && (
        <Select
          aria-label="Take expected sizes from another study"
          value=""
          disabled={busy}
          onChange={(e) => {
            const { value } = e.target;
            void loadStudy(value).then((loaded) => {
              if (loaded)
                void take(
                  { definition: loaded.study.definition, table: loaded.table },
                  `“${loaded.study.definition.title}”`,
                );
            });
          }}
        >
          <option value="">Take sizes from another study …</option>
          {others.map(({ study }) => (
            <option key={study.id} value={study.id}>
              {study.definition.title}
            </option>
          ))}
        </Select>
      )}
    </Row>
  );
}
