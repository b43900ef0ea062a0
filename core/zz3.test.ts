// @ts-nocheck
import { it } from "vitest"; import { readFileSync } from "node:fs";
import { orderedColumn, levelsOf, codesOf } from "./ordered";
import { stagedStatistics } from "./ordered";
import { statisticVariances, statisticPlaces } from "./ordered";
import { DependentObjective } from "./estimators/covariance-structure/ordered/dependent-objective";
import { replicateMoments } from "./estimators/covariance-structure/ordered/weights";
import { fisherScoring } from "./estimators/covariance-structure/scoring";
import { fitModel } from "./estimators/covariance-structure/fit-model";
import { arrowOf } from "./estimators/covariance-structure/case-kit";
import { dependentsOf } from "./estimators/covariance-structure/ordered/problem";
it("speed",()=>{ const R="/work/main/../shared/cases/ordered/three-factor-mediation-likert/";
 const l=readFileSync(R+"data.csv","utf8").trim().split(/\r?\n/).map(x=>x.split(","));
 const m=JSON.parse(readFileSync(R+"expected.json","utf8")).model;
 const of=n=>{const j=l[0].indexOf(n); return Float64Array.from(l.slice(1),r=>Number(r[j]));};
 const spec={observed:m.observed, ordered:m.ordered, latent:m.latent, groups:[{name:"all",arrows:m.arrows.map(a=>arrowOf(a.arrow,a.free||a.dependent?(a.parameter??"dep "+a.arrow):null,a.value??0))}], means:true, estimator:"dwls", convention:"normal"};
 const f=fitModel(spec,{groups:[m.observed.map(of)],momentsOnly:false});
 const cols=m.observed.map(n=>{const v=of(n); const lv=levelsOf(v); return [codesOf(v,lv),lv];});
 let a=0,b=0,c=0,d=0,its=0; const K=40; const start=f.ordered.staged.covariance;
 for(let k=0;k<K;k++){ const w=new Float64Array(350); for(let i=0;i<350;i++) w[Math.floor(Math.random()*350)]++;
  const t0=performance.now(); const st=stagedStatistics(cols.map(([x,lv])=>orderedColumn(x,lv,w)),w,start,1e-9); const t1=performance.now(); const g=replicateMoments(st,"dwls"); const t2=performance.now();
  const o=new DependentObjective(f.models[0],g,dependentsOf(f.models[0],f.ordered.q)); const t3=performance.now(); const r=fisherScoring(o,f.theta.slice(0,f.ordered.q),{patient:false}); const t4=performance.now(); its+=r.iterations; if(k>=10){a+=t1-t0;b+=t2-t1;c+=t3-t2;d+=t4-t3;} }
 console.log("stages",a/30,"weights",b/30,"objective",c/30,"scoring",d/30, its/K);
});
