import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import { fitWorking, plain, pClause, type StructureSection } from "../../../core";
import { Disclosure } from "../ui/disclosure";
import { WorkingView } from "../ui/working-view";
import { PredictedShares } from "./ordered-view";
import { ArrowTable, ConstraintTable, FitTable, GroupTables } from "./structure-tables";

/**
 * A model of means and covariances on the Evidence screen: how well it fits in sentences, then its
 * paths and the rest.
 */
export function StructureView({ section }: { section: StructureSection }) {
  const { method, fitWords, interactions, likelihoodRatio } = section;
  const working = fitWorking(section);
  return (
    <Box sx={{ display: "grid", gap: 3, mt: 4, gridTemplateColumns: "minmax(0, 1fr)" }}>
      <section aria-label="Fit">
        <Typography variant="h2">Fit</Typography>
        <Words words={[method.words, ...fitWords]} />
        {likelihoodRatio && (
          <Words
            words={[
              `Against the same model without interactions: χ²(${likelihoodRatio.df}) = ${plain(likelihoodRatio.chi2, 2)}, ${pClause(likelihoodRatio.p, false)} (likelihood ratio). A model with a latent interaction has no χ² against the data and no indices of fit made of it; compare information criteria.`,
            ]}
          />
        )}
        {section.fit && (
          <Disclosure summary="All indices of fit">
            <FitTable section={section} />
          </Disclosure>
        )}
        {working && <WorkingView working={working} summary="Show the working of the fit" />}
        <p className="quiet">
          How the items measure, and which changes would improve the fit, stands on{" "}
          <Link to="../checks">Checks</Link>.
        </p>
      </section>
      <ArrowTable
        section={section}
        of="path"
        title="Structural paths"
        heads={["outcome", "explained by"]}
        {...(interactions.length > 0
          ? {
              note: `Standardised interaction (b₃ SD SD / SD): ${interactions.map((i) => `${i.x} × ${i.w} on ${i.to} ${plain(i.standardised.estimate, 3)}`).join("; ")}.`,
            }
          : {})}
      />
      <PredictedShares section={section} />
      <ConstraintTable section={section} />
      <GroupTables section={section} />
      <Disclosure summary="Loadings, variances, covariances, intercepts">
        <ArrowTable
          section={section}
          of="loading"
          title="Loadings"
          heads={["item", "measures"]}
          note="Items keyed the other way are turned round. Standardised: in SDs of both, as the model implies them."
        />
        <ArrowTable
          section={section}
          of="covariance"
          title="Covariances"
          heads={["of", "with"]}
          note="Standardised: correlations, of residuals where a variable is explained."
        />
        <ArrowTable
          section={section}
          of="variance"
          title="Variances and residual variances"
          heads={["of", ""]}
        />
        <ArrowTable
          section={section}
          of="intercept"
          title="Intercepts and means"
          heads={["of", ""]}
        />
      </Disclosure>
    </Box>
  );
}

export function Words({ words }: { words: readonly string[] }) {
  return (
    <>
      {words.map((sentence) => (
        <Typography key={sentence} sx={{ fontFamily: "var(--serif)", maxWidth: "80ch", my: 0.5 }}>
          {sentence}
        </Typography>
      ))}
    </>
  );
}
