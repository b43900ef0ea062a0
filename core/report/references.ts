import { studiesOf } from "../estimators";
import type { Evidence } from "../evidence";
import type { DataEvidence } from "../evidence";
import type { Reference } from "./document";

const article = (
  id: string,
  authors: string,
  year: number,
  title: string,
  container: string,
  volume: string,
  issue: string | null,
  pages: string,
): Reference => ({
  id,
  type: "article-journal",
  authors: people(authors),
  year,
  title,
  container,
  volume,
  issue,
  pages,
  publisher: null,
});

const book = (
  id: string,
  authors: string,
  year: number,
  title: string,
  publisher: string,
): Reference => ({
  id,
  type: "book",
  authors: people(authors),
  year,
  title,
  container: null,
  volume: null,
  issue: null,
  pages: null,
  publisher,
});

/** “Family, G.; Family, G.” */
const people = (text: string): Reference["authors"] =>
  text.split("; ").map((one) => {
    const [family, given] = one.split(", ") as [string, string];
    return { family, given };
  });

/** When a method is used, and where it comes from. */
const SOURCES: { used: (e: Evidence, data: DataEvidence | null) => boolean; source: Reference }[] =
  [
    {
      used: ({ bootstrap }) => bootstrap !== null,
      source: book(
        "efron1993",
        "Efron, B.; Tibshirani, R. J.",
        1993,
        "An introduction to the bootstrap",
        "Chapman & Hall",
      ),
    },
    {
      used: ({ settings, bootstrap }) =>
        bootstrap !== null && (settings.interval === "bca" || settings.interval === "bc"),
      source: article(
        "efron1987",
        "Efron, B.",
        1987,
        "Better bootstrap confidence intervals",
        "Journal of the American Statistical Association",
        "82",
        "397",
        "171–185",
      ),
    },
    {
      used: ({ effects, settings }) =>
        settings.interval === "monte_carlo" && effects.some((e) => e.kind === "specific_indirect"),
      source: article(
        "mackinnon2004",
        "MacKinnon, D. P.; Lockwood, C. M.; Williams, J.",
        2004,
        "Confidence limits for the indirect effect: Distribution of the product and resampling methods",
        "Multivariate Behavioral Research",
        "39",
        "1",
        "99–128",
      ),
    },
    {
      used: ({ effects, settings }) =>
        settings.interval === "delta" && effects.some((e) => e.kind === "specific_indirect"),
      source: article(
        "sobel1982",
        "Sobel, M. E.",
        1982,
        "Asymptotic confidence intervals for indirect effects in structural equation models",
        "Sociological Methodology",
        "13",
        null,
        "290–312",
      ),
    },
    {
      used: ({ errors }) => errors === "HC0" || errors === "HC1",
      source: article(
        "white1980",
        "White, H.",
        1980,
        "A heteroskedasticity-consistent covariance matrix estimator and a direct test for heteroskedasticity",
        "Econometrica",
        "48",
        "4",
        "817–838",
      ),
    },
    {
      used: ({ errors }) => errors === "HC2" || errors === "HC3",
      source: article(
        "mackinnon1985",
        "MacKinnon, J. G.; White, H.",
        1985,
        "Some heteroskedasticity-consistent covariance matrix estimators with improved finite sample properties",
        "Journal of Econometrics",
        "29",
        "3",
        "305–325",
      ),
    },
    {
      used: ({ errors }) => errors === "HC4",
      source: article(
        "cribari2004",
        "Cribari-Neto, F.",
        2004,
        "Asymptotic inference under heteroskedasticity of unknown form",
        "Computational Statistics & Data Analysis",
        "45",
        "2",
        "215–233",
      ),
    },
    {
      used: ({ errors }) => errors === "CR2",
      source: article(
        "bell2002",
        "Bell, R. M.; McCaffrey, D. F.",
        2002,
        "Bias reduction in standard errors for linear regression with multi-stage samples",
        "Survey Methodology",
        "28",
        "2",
        "169–181",
      ),
    },
    {
      used: ({ several, settings }) => several !== null && settings.several === "holm",
      source: article(
        "holm1979",
        "Holm, S.",
        1979,
        "A simple sequentially rejective multiple test procedure",
        "Scandinavian Journal of Statistics",
        "6",
        "2",
        "65–70",
      ),
    },
    {
      used: ({ hypotheses }) => hypotheses.some((h) => h.pattern !== null),
      source: article(
        "zhao2010",
        "Zhao, X.; Lynch, J. G.; Chen, Q.",
        2010,
        "Reconsidering Baron and Kenny: Myths and truths about mediation analysis",
        "Journal of Consumer Research",
        "37",
        "2",
        "197–206",
      ),
    },
    {
      used: ({ moderations }) => moderations.some((m) => m.path && m.johnsonNeyman.length > 0),
      source: article(
        "johnson1936",
        "Johnson, P. O.; Neyman, J.",
        1936,
        "Tests of certain linear hypotheses and their application to some educational problems",
        "Statistical Research Memoirs",
        "1",
        null,
        "57–93",
      ),
    },
    {
      used: (_, data) => (data?.measures ?? []).some((m) => m.reliability.value?.alpha != null),
      source: article(
        "cronbach1951",
        "Cronbach, L. J.",
        1951,
        "Coefficient alpha and the internal structure of tests",
        "Psychometrika",
        "16",
        "3",
        "297–334",
      ),
    },
    {
      used: (_, data) => (data?.measures ?? []).some((m) => m.reliability.value?.omega != null),
      source: book(
        "mcdonald1999",
        "McDonald, R. P.",
        1999,
        "Test theory: A unified treatment",
        "Erlbaum",
      ),
    },
    {
      used: ({ sections }) => sections.some((s) => s.kind === "structure" && s.fit !== null),
      source: article(
        "hu1999",
        "Hu, L.; Bentler, P. M.",
        1999,
        "Cutoff criteria for fit indexes in covariance structure analysis: Conventional criteria versus new alternatives",
        "Structural Equation Modeling",
        "6",
        "1",
        "1–55",
      ),
    },
    {
      used: ({ sections }) =>
        sections.some((s) => s.kind === "structure" || s.kind === "composites"),
      source: article(
        "fornell1981",
        "Fornell, C.; Larcker, D. F.",
        1981,
        "Evaluating structural equation models with unobservable variables and measurement error",
        "Journal of Marketing Research",
        "18",
        "1",
        "39–50",
      ),
    },
    {
      used: ({ sections }) =>
        sections.some(
          (s) =>
            (s.kind === "structure" && s.measurement.some((m) => m.htmt.length > 0)) ||
            (s.kind === "composites" && s.groups.some((g) => g.htmt.length > 0)),
        ),
      source: article(
        "henseler2015",
        "Henseler, J.; Ringle, C. M.; Sarstedt, M.",
        2015,
        "A new criterion for assessing discriminant validity in variance-based structural equation modeling",
        "Journal of the Academy of Marketing Science",
        "43",
        "1",
        "115–135",
      ),
    },
    {
      used: ({ sections }) => sections.some((s) => s.kind === "composites" && s.method.consistent),
      source: article(
        "dijkstra2015",
        "Dijkstra, T. K.; Henseler, J.",
        2015,
        "Consistent partial least squares path modeling",
        "MIS Quarterly",
        "39",
        "2",
        "297–316",
      ),
    },
    {
      used: ({ sections }) =>
        sections.some((s) => s.kind === "composites" && s.comparisons.length > 0),
      source: article(
        "henseler2016",
        "Henseler, J.; Ringle, C. M.; Sarstedt, M.",
        2016,
        "Testing measurement invariance of composites using partial least squares",
        "International Marketing Review",
        "33",
        "3",
        "405–431",
      ),
    },
    {
      used: ({ sections }) =>
        sections.some(
          (s) => s.kind === "composites" && studiesOf(s).some((own) => own.prediction !== null),
        ),
      source: article(
        "shmueli2016",
        "Shmueli, G.; Ray, S.; Velasquez Estrada, J. M.; Chatla, S. B.",
        2016,
        "The elephant in the room: Predictive performance of PLS models",
        "Journal of Business Research",
        "69",
        "10",
        "4552–4564",
      ),
    },
    {
      used: ({ sections }) =>
        sections.some(
          (s) => s.kind === "composites" && studiesOf(s).some((own) => own.exactFit !== null),
        ),
      source: article(
        "beran1985",
        "Beran, R.; Srivastava, M. S.",
        1985,
        "Bootstrap tests and confidence regions for functions of a covariance matrix",
        "Annals of Statistics",
        "13",
        "1",
        "95–115",
      ),
    },
    {
      used: ({ sections }) => sections.some((s) => s.kind === "responses"),
      source: book(
        "mccullagh1989",
        "McCullagh, P.; Nelder, J. A.",
        1989,
        "Generalized linear models",
        "Chapman & Hall",
      ),
    },
    {
      used: ({ sections }) => sections.some((s) => s.kind === "responses" && s.natural.length > 0),
      source: book(
        "vanderweele2015",
        "VanderWeele, T. J.",
        2015,
        "Explanation in causal inference: Methods for mediation and interaction",
        "Oxford University Press",
      ),
    },
    {
      used: ({ sections, settings }) =>
        settings.interval === "monte_carlo" &&
        sections.some((s) => s.kind === "responses" && s.natural.length > 0),
      source: article(
        "imai2010",
        "Imai, K.; Keele, L.; Tingley, D.",
        2010,
        "A general approach to causal mediation analysis",
        "Psychological Methods",
        "15",
        "4",
        "309–334",
      ),
    },
  ];

/** Sources of the methods that this evidence rests on, by author and year. */
export function referencesOf(evidence: Evidence, data: DataEvidence | null): Reference[] {
  const key = ({ authors, year }: Reference): string => `${authors[0]!.family} ${year}`;
  return SOURCES.filter(({ used }) => used(evidence, data))
    .map(({ source }) => source)
    .sort((a, b) => (key(a) < key(b) ? -1 : 1));
}

/** “Family, G., & Family, G. (1993). Title. *Journal*, *12*(3), 1–9.”, in parts. */
export function referenceText(r: Reference): { text: string; italic: boolean }[] {
  const names = r.authors.map((a) => `${a.family}, ${a.given}`);
  const who = names.length > 1 ? `${names.slice(0, -1).join(", ")}, & ${names.at(-1)!}` : names[0]!;
  const plainly = (text: string) => ({ text, italic: false });
  const italic = (text: string) => ({ text, italic: true });
  if (r.type === "book")
    return [plainly(`${who} (${r.year}). `), italic(r.title), plainly(`. ${r.publisher}.`)];
  return [
    plainly(`${who} (${r.year}). ${r.title}. `),
    italic(`${r.container}, ${r.volume}`),
    plainly(`${r.issue ? `(${r.issue})` : ""}, ${r.pages}.`),
  ];
}
