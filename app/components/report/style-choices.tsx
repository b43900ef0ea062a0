import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";
import type { FigureChoices, ReportChoices } from "../../../core";
import { Check } from "../ui/check";
import { Choice } from "../ui/field";

/** How numbers and words are written. */
export function StyleChoices({
  choices,
  change,
}: {
  choices: ReportChoices;
  change: (patch: Partial<ReportChoices>) => void;
}) {
  return (
    <Group title="Style">
      <Choice
        label="Reporting style"
        value={choices.journal}
        options={[
          ["behavioural", "Behavioural sciences: p = .031, [0.10, 0.35]"],
          ["medical", "Medicine: P = 0.03, 0.10 to 0.35"],
        ]}
        onChange={(value) => change({ journal: value as ReportChoices["journal"] })}
      />
      <Choice
        label="Effects in"
        value={choices.units}
        options={[
          ["raw", "units as measured"],
          ["partially_standardised", "SDs of the outcome"],
          ["completely_standardised", "SDs of both"],
        ]}
        onChange={(value) => change({ units: value as ReportChoices["units"] })}
      />
      <Pair>
        <Choice
          label="Decimals"
          value={String(choices.digits)}
          options={[
            ["2", "two"],
            ["3", "three"],
          ]}
          onChange={(value) => change({ digits: Number(value) as 2 | 3 })}
        />
        <Choice
          label="Decimal sign"
          value={choices.decimal}
          options={[
            [".", "point"],
            [",", "comma"],
          ]}
          onChange={(value) => change({ decimal: value as "." | "," })}
        />
      </Pair>
      <Choice
        label="Spelling"
        value={choices.spelling}
        options={[
          ["british", "British"],
          ["american", "American"],
        ]}
        onChange={(value) => change({ spelling: value as ReportChoices["spelling"] })}
      />
      <Check
        label="Say what words of cause and effect rest on"
        checked={choices.conditions}
        onChange={(conditions) => change({ conditions })}
      />
    </Group>
  );
}

/** How figures are drawn. */
export function FigureStyles({
  figures,
  surfaces,
  change,
}: {
  figures: FigureChoices;
  /** There is a moderation that can be drawn as a surface. */
  surfaces: boolean;
  change: (patch: Partial<FigureChoices>) => void;
}) {
  return (
    <Group title="Figures">
      <Pair>
        <Choice
          label="Width"
          value={String(figures.widthMm)}
          options={[
            ["85", "85 mm, one column"],
            ["120", "120 mm"],
            ["175", "175 mm, both columns"],
          ]}
          onChange={(value) => change({ widthMm: Number(value) as FigureChoices["widthMm"] })}
        />
        <Choice
          label="Letters"
          value={String(figures.fontPt)}
          options={[7, 8, 9, 10].map((pt) => [String(pt), `${pt} pt`] as const)}
          onChange={(value) => change({ fontPt: Number(value) as FigureChoices["fontPt"] })}
        />
      </Pair>
      <Choice
        label="Path diagram"
        value={figures.diagram}
        options={[
          ["statistical", "with estimates"],
          ["conceptual", "concepts only"],
          ["both", "both"],
        ]}
        onChange={(value) => change({ diagram: value as FigureChoices["diagram"] })}
      />
      <Choice
        label="Under an estimate"
        value={figures.beside}
        options={[
          ["interval", "its interval"],
          ["p", "its p value"],
          ["nothing", "nothing"],
        ]}
        onChange={(value) => change({ beside: value as FigureChoices["beside"] })}
      />
      {surfaces && (
        <Check
          checked={figures.surface}
          onChange={(surface) => change({ surface })}
          label="Moderation also as a surface"
        />
      )}
    </Group>
  );
}

const Pair = ({ children }: { children: ReactNode }) => (
  <Box sx={{ display: "grid", gridTemplateColumns: "minmax(0, 1fr) minmax(0, 1fr)", gap: 1.25 }}>
    {children}
  </Box>
);

function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title}>
      <Typography variant="h2" sx={{ fontSize: 17, mb: 1 }}>
        {title}
      </Typography>
      <Box sx={{ display: "grid", gap: 1.25 }}>{children}</Box>
    </section>
  );
}
