import { linkProductWorking, percent, plain, type Evidence, type LinkProduct } from "../../../core";
import { limitsCell, pCell } from "../structure/cells";
import { Disclosure } from "../ui/disclosure";
import { NumberTable } from "../ui/number-table";

/**
 * Products of coefficients with a yes/no response, for those who ask, with what they cannot say.
 */
export function LinkProducts({
  products,
  evidence,
}: {
  products: readonly LinkProduct[];
  evidence: Evidence;
}) {
  if (products.length === 0) return null;
  const level = percent(evidence.settings.level);
  return (
    <Disclosure summary="Products of coefficients, with their caution">
      {products.map((p) => (
        <NumberTable
          key={`${p.contrast} ${p.mediator} ${p.outcome}`}
          title={`Products of coefficients: ${p.treatment} through ${p.mediator} to ${p.outcome}, ${p.contrast}`}
          columns={["", "on the scale of the model", "SE", `${level} % CI`, "p", "by latent SDs"]}
          rows={[
            row(`${p.treatment} on ${p.mediator} (a)`, p.a, null),
            row(`${p.mediator} on ${p.outcome} (b)`, p.b, p.rescaled.b),
            row(
              `${p.treatment} on ${p.outcome}, without the mediator (c)`,
              p.total,
              p.rescaled.total,
            ),
            row(`${p.treatment} on ${p.outcome}, with it (c′)`, p.direct, p.rescaled.direct),
            {
              key: "ab",
              working: () => linkProductWorking(p, evidence.settings.level),
              cells: [
                "product a b",
                p.product.estimate,
                p.product.se,
                limitsCell(p.product.lower, p.product.upper),
                pCell(p.product.p),
                p.rescaled.product,
              ],
            },
            {
              key: "difference",
              cells: ["difference c − c′", p.difference, null, null, null, p.rescaled.difference],
            },
          ]}
          note={`c − c′ is not a b: adding the mediator changes the scale of the coefficients (latent SDs ${plain(p.latentSd.total, 2)} and ${plain(p.latentSd.full, 2)}; MacKinnon & Dwyer 1993, Winship & Mare 1983). First-order error (Sobel 1982), robust ${plain(p.product.robustSe, 3)}. ${sharesOf(p)} What people would do is said by the natural effects above.`}
        />
      ))}
    </Disclosure>
  );
}

/** Both shares of the rescaled total, or why there are none. */
const sharesOf = ({ rescaled }: LinkProduct): string =>
  rescaled.withheld === null
    ? `Shares by latent SDs: ${plain(rescaled.proportionProduct, 2)} by the product, ${plain(rescaled.proportionDifference, 2)} by the difference.`
    : `Shares by latent SDs are not reported: ${rescaled.withheld}`;

const row = (name: string, { estimate, se }: LinkProduct["a"], rescaled: number | null) => ({
  key: name,
  cells: [name, estimate, se, null, null, rescaled],
});
