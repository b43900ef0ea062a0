import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { styled } from "@mui/material/styles";
import Typography from "@mui/material/Typography";
import { sampleWords, type Evidence } from "../../../core";
import type { AnalysisState } from "../../analysis/analysis";
import { useAnalysis } from "../../analysis/use-analysis";
import { useKeepingEverybody } from "../../analysis/use-data-evidence";
import { useStudy } from "../../analysis/use-study";

const Frame = styled("header")({
  display: "grid",
  gridTemplateColumns: "170px minmax(0, 1fr) minmax(0, 1fr)",
  gap: "4px 28px",
  borderBottom: "1px solid var(--ink)",
  paddingBottom: 12,
  fontSize: 14,
  "& dl": {
    margin: 0,
    display: "grid",
    gridTemplateColumns: "auto 1fr",
    gap: "2px 14px",
    alignContent: "start",
  },
  "& dt": { color: "var(--quiet)" },
  "& dd": { margin: 0 },
  "@media (max-width: 900px)": { gridTemplateColumns: "minmax(0, 1fr)" },
});

/** What a warning of lost cases can be answered with. */
function KeepEverybody() {
  const { definition, edit } = useStudy();
  const { settings } = definition;
  const options = { ...settings.options, missing: "everybody" };
  return (
    <>
      {" "}
      <Button
        size="small"
        onClick={() => edit({ settings: { ...settings, options } }, "keep everybody")}
      >
        Keep everybody
      </Button>
    </>
  );
}

const isRefused = ({ problem }: AnalysisState): boolean => problem !== null;
/** From this share of the cases on what is lost is no trifle. */
const MANY = 0.2;

/**
 * What may be done where many are left out: full information, where the model can be estimated by
 * it; else what loses fewer.
 */
function KeepMore() {
  const context = useStudy();
  const { edit } = context;
  const way = useKeepingEverybody(context);
  // While the study is refused nothing is known of what else could be done.
  const refused = useAnalysis(context.analysis, isRefused);
  if (way === undefined || refused) return null;
  return way ? (
    <>
      {" "}
      <Button size="small" onClick={() => edit({ settings: way.settings }, "keep everybody")}>
        {way.words}
      </Button>
    </>
  ) : (
    " No way of estimating keeps them all for this model and these settings: scores that need fewer answers (on Measures), or fewer covariates, lose fewer."
  );
}

/** Sample and roles before any number, then what needs a look. */
export function Before({ evidence }: { evidence: Evidence }) {
  const { roles, sample, warnings, codings, estimator, latent } = evidence;
  const told = warnings.some((w) => w.code === "keep_everybody");
  return (
    <Frame>
      <Typography variant="h1">Sample and roles</Typography>
      <dl>
        <dt>sample</dt>
        <dd>
          <strong>{sample.n}</strong> {sampleWords(evidence)}
        </dd>
        <dt>roles</dt>
        <dd>
          {roles.predictors.join(", ")}{" "}
          {roles.mediators.length > 0 && (
            <>
              through <strong>{roles.mediators.join(", ")}</strong>
            </>
          )}{" "}
          to <strong>{roles.outcomes.join(", ")}</strong>
          {roles.moderators.length > 0 && `; moderated by ${roles.moderators.join(", ")}`}
          {roles.covariates.length > 0 && `; adjusted for ${roles.covariates.join(", ")}`}
        </dd>
        {latent.length > 0 && (
          <>
            <dt>estimated by</dt>
            <dd>
              {estimator.label};{" "}
              {latent.map(({ name, items }) => `${name} from ${items.length} items`).join(", ")}
            </dd>
          </>
        )}
        {codings.map((c) => (
          <Box key={c.variable} sx={{ display: "contents" }}>
            <dt>{c.variable}</dt>
            <dd>
              {c.coding} coding: {c.columns.map((col) => col.contrast).join("; ")}
            </dd>
          </Box>
        ))}
      </dl>
      <Box
        component="ul"
        aria-label="Deserves a look"
        sx={{
          listStyle: "none",
          m: 0,
          p: 0,
          color: "var(--rust)",
          display: "grid",
          gap: 0.5,
          alignContent: "start",
        }}
      >
        {warnings.map((w) => (
          <li key={`${w.code} ${w.about.join()}`}>
            ◆ {w.message}
            {w.code === "keep_everybody" && <KeepEverybody />}
            {w.code === "rows_dropped" &&
              !told &&
              sample.dropped.length > MANY * sample.rowsRead && <KeepMore />}
          </li>
        ))}
      </Box>
    </Frame>
  );
}
