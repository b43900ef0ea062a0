// @ts-nocheck
import { it } from "vitest"; import { readFileSync } from "node:fs";
import { Analysis, guessVariable, newDefinition, TableBuilder } from "/work/main/core";
it("theory",()=>{ const R="/work/main/../shared/cases/ordered/three-factor-mediation-likert/";
 const l=readFileSync(R+"data.csv","utf8").trim().split(/\r?\n/).map(x=>x.split(","));
 const b=new TableBuilder(l[0]); for(const r of l.slice(1)) b.add(r); const table=b.build();
 const rs=readFileSync(R+"resamples.csv","utf8").trim().split(/\r?\n/).map(x=>x.split(",").map(Number)).filter(r=>r.every(Number.isFinite));
 const items=p=>[1,2,3,4].map(i=>p+i).join(", ");
 const def={...newDefinition("x",table.columns.map(guessVariable)), theory:`measure skill reflects ${items("skl")}
measure belonging reflects ${items("bel")}
measure wellbeing reflects ${items("wel")}
H1: skill raises wellbeing through belonging
model skill as ordered
model belonging as ordered
model wellbeing as ordered`};
 def.settings={...def.settings, replications:100, interval:"percentile"};
 const t0=performance.now(); const a=Analysis.of(def,table); const t1=performance.now(); a.complete(); const t2=performance.now(); const e=a.evidence(); const t3=performance.now(); console.profile;
 console.log("fit",t1-t0,"reps",t2-t1,"ev",t3-t2, "failed", e.bootstrap);
 const E=JSON.parse(readFileSync(R+"expected.json","utf8"));
 for(const x of e.effects.slice(0,8)) console.log(x.id,x.estimate,x.shown?.se,x.shown?.lower,x.shown?.upper);
 console.log(JSON.stringify(E.result.effects).slice(0,900));
 const s=e.sections.find(s=>s.kind==="structure"); console.log(s.method, s.counts, s.fit.shifted?.chi2, s.fitWords); console.log(e.warnings.map(w=>w.message));
 console.log(JSON.stringify(s.ordered).slice(0,700)); console.log(JSON.stringify(s.fit.shifted).slice(0,400), JSON.stringify(s.measurement[0].factors[0]), JSON.stringify(s.measurement[0].htmt[0]));
});
