import { analyse, composeReport, completeChoices, dataEvidence } from "../core";
import { markdownReport } from "../formats/report";
import { DEMO_STUDIES } from "../demo";
const s = DEMO_STUDIES.treatment();
const definition = { ...s.definition, theory: s.definition.theory + "\nH9: age alters group (\"weekly cafe\" against \"waiting list\") to renewed through hours on group to hours and hours to renewed\nH8: age strengthens hours to renewed", settings: { ...s.definition.settings, replications: 500 } };
const ev = analyse(definition, s.table);
const report = composeReport({ evidence: ev, data: dataEvidence(definition, s.table), definition } as any, completeChoices(definition.report));
console.log(markdownReport(report, () => null));
