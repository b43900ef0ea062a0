import type { Table } from "../data";
import type { Dataset } from "../dataset";
import { engines } from "../estimators";
import { prepare } from "../preparation";
import { StudyProblem } from "../problems";
import { DEFAULT_SETTINGS, type Settings, type StudyDefinition } from "../study";
import { INTERVAL_WORDS } from "../wording/intervals";
import { percent, thousands } from "../wording/numbers";

/** A change of the settings after which the study can be estimated. */
export interface SettingMend {
  /** As it stands on a button. */
  words: string;
  settings: Settings;
}

/** The choice of an engine that leaves nobody out. */
const EVERYBODY = "everybody";
/** So many ways are offered. */
const MOST = 3;

/**
 * Changes of one setting, back to what is usual, after which a study that is refused can be
 * estimated; where no single one helps, all of them at once. None where settings are not what
 * stops it.
 */
export function settingMends(study: StudyDefinition, raw: Table, dataset: Dataset): SettingMend[] {
  const works = ({ settings }: SettingMend): boolean => {
    try {
      prepare({ ...study, settings }, raw, { tolerant: true, dataset });
      return true;
    } catch (error) {
      if (!(error instanceof StudyProblem)) throw error;
      return false;
    }
  };
  const found: SettingMend[] = [];
  for (const mend of singleChanges(study.settings)) {
    if (found.length === MOST) break;
    if (works(mend)) found.push(mend);
  }
  if (found.length > 0) return found;
  const all = { words: "Back to the default settings", settings: { ...DEFAULT_SETTINGS } };
  return JSON.stringify(study.settings) !== JSON.stringify(DEFAULT_SETTINGS) && works(all)
    ? [all]
    : [];
}

function* singleChanges(settings: Settings): Generator<SettingMend> {
  const usual = DEFAULT_SETTINGS;
  const back = (words: string, change: Partial<Settings>): SettingMend => ({
    words,
    settings: { ...settings, ...change },
  });
  if (settings.cluster !== null)
    yield back(`Take the cluster column ${settings.cluster} out`, { cluster: null });
  if (settings.strata !== null)
    yield back(`Do not draw within ${settings.strata}`, { strata: null });
  for (const name of Object.keys(settings.options)) {
    const options = Object.fromEntries(
      Object.entries(settings.options).filter(([other]) => other !== name),
    );
    const known = engines()
      .flatMap((e) => e.options)
      .find((o) => o.name === name);
    yield back(
      `${known?.label ?? name}: ${known ? (known.choices?.[String(known.initial)] ?? (known.initial || "none")) : "none"}`,
      { options },
    );
  }
  if (settings.interval !== usual.interval)
    yield back(`Use ${INTERVAL_WORDS[usual.interval]} intervals`, { interval: usual.interval });
  if (settings.engine !== usual.engine)
    yield back(`Estimate by ${engines()[0]!.label} where that can be`, {
      engine: usual.engine,
      options: {},
    });
  if (settings.errors !== usual.errors)
    yield back("Use the usual standard errors", { errors: usual.errors });
  if (settings.centring !== usual.centring)
    yield back("Do not centre", { centring: usual.centring });
  if (settings.level !== usual.level)
    yield back(`Set the confidence level to ${percent(usual.level)} %`, { level: usual.level });
  if (settings.tail !== usual.tail) yield back("Test two-tailed", { tail: usual.tail });
  if (settings.replications !== usual.replications)
    yield back(`Draw ${thousands(usual.replications)} bootstrap samples`, {
      replications: usual.replications,
    });
  if (settings.monteCarloDraws !== usual.monteCarloDraws)
    yield back(`Make ${thousands(usual.monteCarloDraws)} Monte Carlo draws`, {
      monteCarloDraws: usual.monteCarloDraws,
    });
  if (settings.seed !== usual.seed)
    yield back(`Set the seed to ${usual.seed}`, { seed: usual.seed });
  if (Object.keys(settings.probes).length > 0)
    yield back("Probe where it is usual", { probes: usual.probes });
}

/**
 * A way in which nobody is left out for missing answers: full information, where the model can be
 * estimated by it and keeps more cases than it does now; null where it cannot. An interval that
 * does not exist there is exchanged for the usual one, and the words say so.
 */
export function keepingEverybody(
  study: StudyDefinition,
  raw: Table,
  dataset: Dataset,
): SettingMend | null {
  const { settings } = study;
  const engine = engines().find((e) =>
    e.options.some(
      (o) => o.name === "missing" && o.choices !== undefined && EVERYBODY in o.choices,
    ),
  );
  if (!engine) return null;
  const kept = settings.engine === engine.id ? settings.options : {};
  const wanted: Settings = {
    ...settings,
    engine: engine.id,
    options: { ...kept, missing: EVERYBODY },
    errors: DEFAULT_SETTINGS.errors,
    centring: "none",
  };
  const casesUnder = (under: Settings): number => {
    try {
      return prepare({ ...study, settings: under }, raw, { tolerant: true, dataset }).sample.n;
    } catch (error) {
      if (!(error instanceof StudyProblem)) throw error;
      return 0;
    }
  };
  const now = casesUnder(settings);
  const { interval } = DEFAULT_SETTINGS;
  const words = "Keep everybody, by full information";
  const ways = [
    { words, settings: wanted },
    {
      words: `${words}, with ${INTERVAL_WORDS[interval]} intervals`,
      settings: { ...wanted, interval },
    },
  ];
  return ways.find((way) => casesUnder(way.settings) > now) ?? null;
}
