import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import {
  DECLARED_KINDS,
  declaredNames,
  declaredVariable,
  declaredWords,
  StudyProblem,
  usesOf,
  type DeclaredKind,
  type Variable,
} from "../../../core";
import { useTell } from "../../analysis/use-tell";
import type { StudyContext } from "../../analysis/use-study";
import { Entry } from "../ui/field";
import { Labelled, Row, Wrong } from "../ui/layout";
import { Select } from "../ui/select";
import { TextInput } from "../ui/text-input";

/**
 * The variables of a study before there are data: what will be asked, and what answers there will
 * be.
 */
export function DeclaredVariables({ context }: { context: StudyContext }) {
  const { definition, raw, writer } = context;
  const tell = useTell(context, "declare");
  const [typed, setTyped] = useState("");
  const [kind, setKind] = useState<DeclaredKind>("answers");
  const [answers, setAnswers] = useState("5");
  const [problem, setProblem] = useState<string | null>(null);
  const declared = definition.variables.filter((v) =>
    raw.columns.some((c) => c.name === (v.column ?? v.name)),
  );
  const declare = (variables: Variable[]): void =>
    void writer.flush().then(() => tell({ intent: "declare", variables }));
  const add = (): void => {
    try {
      const names = declaredNames(
        typed,
        declared.map((v) => v.name),
      );
      if (names.length === 0) return;
      const count = kind === "answers" || kind === "groups" ? Number(answers) : 2;
      declare([...declared, ...names.map((name) => declaredVariable(name, kind, count))]);
      setTyped("");
      setProblem(null);
    } catch (error) {
      if (!(error instanceof StudyProblem)) throw error;
      setProblem(error.message);
    }
  };
  return (
    <Box component="section" sx={{ width: "100%" }}>
      <Typography variant="h2" sx={{ mb: 1 }}>
        Variables that there will be
      </Typography>
      <Box
        component="form"
        sx={{ display: "flex", flexWrap: "wrap", gap: 1.25, alignItems: "end", mb: 1 }}
        onSubmit={(e) => {
          e.preventDefault();
          add();
        }}
      >
        <Box sx={{ flex: "1 1 280px", maxWidth: 420 }}>
          <Entry
            label="Names, apart by commas"
            placeholder="hours, conf1 to conf4"
            value={typed}
            onChange={setTyped}
          />
        </Box>
        <Labelled>
          <span>each is</span>
          <Select
            aria-label="What each of them is"
            value={kind}
            onChange={(e) => setKind(e.target.value as DeclaredKind)}
          >
            {DECLARED_KINDS.map((one) => (
              <option key={one}>{one}</option>
            ))}
          </Select>
        </Labelled>
        {(kind === "answers" || kind === "groups") && (
          <Labelled>
            <span>{kind === "answers" ? "points" : "groups"}</span>
            <TextInput
              aria-label={kind === "answers" ? "Number of points" : "Number of groups"}
              inputMode="numeric"
              style={{ width: 50 }}
              value={answers}
              onChange={(e) => setAnswers(e.target.value)}
            />
          </Labelled>
        )}
        <Button type="submit" variant="outlined" disabled={typed.trim() === ""}>
          Declare
        </Button>
      </Box>
      {problem && <Wrong role="alert">{problem}</Wrong>}
      {declared.length > 0 && (
        <Box
          component="ul"
          sx={{ listStyle: "none", m: 0, p: 0, columns: { md: 2 }, columnGap: 4 }}
        >
          {declared.map((variable) => (
            <Declared
              key={variable.name}
              variable={variable}
              uses={usesOf(
                definition,
                variable.name,
                declared.map((v) => v.name),
              )}
              remove={() => declare(declared.filter((v) => v.name !== variable.name))}
            />
          ))}
        </Box>
      )}
    </Box>
  );
}

function Declared({
  variable,
  uses,
  remove,
}: {
  variable: Variable;
  uses: string[];
  remove: () => void;
}) {
  return (
    <Box component="li" sx={{ breakInside: "avoid", borderBottom: "1px solid var(--hair)" }}>
      <Row sx={{ minHeight: 34 }}>
        <strong style={{ fontFamily: "var(--serif)" }}>{variable.name}</strong>
        <span className="quiet">
          {variable.label ? `${variable.label}, ` : ""}
          {declaredWords(variable)}
        </span>
        <span style={{ flex: 1 }} />
        <Button
          size="small"
          variant="text"
          disabled={uses.length > 0}
          title={uses.length > 0 ? `Used by ${uses.join(", ")}` : `Take “${variable.name}” away`}
          onClick={remove}
        >
          Take away
        </Button>
      </Row>
    </Box>
  );
}
