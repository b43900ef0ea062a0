// @ts-nocheck
import { it } from "vitest"; import { readFileSync } from "node:fs";
import { fitModel } from "./estimators/covariance-structure/fit-model";
import { parameterTable } from "./estimators/covariance-structure/parameter-table";
import { scoreTests } from "./estimators/covariance-structure/score-tests";
import { omegaOfAnswers } from "./estimators/covariance-structure/ordered/answers";
import { arrowOf } from "./estimators/covariance-structure/case-kit";
const R="/work/main/../shared/cases/ordered/";
function spec(m, est){ return {observed:m.observed, ordered:m.ordered, latent:m.latent, groups:[{name:"all",arrows:m.arrows.map(a=>arrowOf(a.arrow,a.free||a.dependent?(a.parameter??"dep "+a.arrow):null,a.value??0))}], means:true, estimator:est, convention:"normal"}; }
function data(c){const l=readFileSync(R+c+"/data.csv","utf8").trim().split(/\r?\n/).map(x=>x.split(",")); return n=>{const j=l[0].indexOf(n); return Float64Array.from(l.slice(1),r=>r[j]===""||r[j]==="NA"?NaN:Number(r[j]));};}
function check(name, c, m, est, w, groupName){
  const of=data(c); let f; const t0=performance.now(); try { f=fitModel(spec(m,est),{groups:[m.observed.map(of)],momentsOnly:false}); } catch(e){ console.log(name, "FAILED", e.code, e.message, e.stack.slice(0,300)); return;} const ms=performance.now()-t0;
  const t=parameterTable(f,"robust"); let worst=["",0]; const cmp=(n,a,b)=>{ if (b==null) return; const d=Math.abs(a-b)/Math.max(Math.abs(b),.1); if(!(d<=worst[1])) worst=[n+` ${a} ${b}`,d]; };
  for (const [a,e] of Object.entries(w.estimates)) { const row=t.find(r=>r.arrow===a||r.arrow===a.split(" <-> ").reverse().join(" <-> ")); if(!row){console.log(name,"missing",a);continue;} cmp(a,row.estimate,e.est); if(e.se!==undefined) cmp(a+" se",row.se.robust,e.se); cmp(a+" std",row.full.estimate,e.std_full); if(e.std_full_se>1e-10) cmp(a+" stdse",row.full.se,e.std_full_se);}
  const F=w.fit; cmp("T",f.fit.plain.chi2,F.T); cmp("df",f.fit.plain.df,F.df); const s=f.fit.shifted; if(F.scaled_shifted&&s){cmp("T'",s.chi2,F.scaled_shifted.chi2);cmp("cfi",s.cfi,F.scaled_shifted.cfi);cmp("tli",s.tli,F.scaled_shifted.tli);cmp("rmsea",s.rmsea,F.scaled_shifted.rmsea);cmp("hi",s.rmseaLimits[1],F.scaled_shifted.rmsea_ci90[1]);cmp("close",s.closeFit,F.scaled_shifted.close_fit_p);cmp("ma",s.meanAdjusted.chi2,F.mean_adjusted.chi2);cmp("base",s.baseline.chi2,F.baseline.scaled_shifted.chi2);} cmp("srmr",f.fit.srmr,F.srmr); const st=scoreTests(f); for (const x of w.modification_indices??[]) { const o=st.find(r=>r.arrow===x.arrow||r.arrow===x.arrow.split(" <-> ").reverse().join(" <-> ")); if(!o){console.log("no score",x.arrow);continue;} cmp(x.arrow+" mi",o.mi,x.mi);cmp(x.arrow+" epc",o.epc,x.epc);cmp(x.arrow+" sepc",o.sepc,x.sepc);}
  for (const [k,x] of Object.entries(w.reliability??{})) if (x.items) { const I=f.implied[0]; const ids=x.items.map(i=>m.observed.indexOf(i)); cmp("omega "+k, omegaOfAnswers(ids.map(i=>f.ordered.staged.columns[i].thresholds), x.loadings, ids.map(i=>ids.map(j=>I.Sigma[i*I.p+j]/Math.sqrt(I.Sigma[i*I.p+i]*I.Sigma[j*I.p+j])))), x.omega_answers);}
  if (w.reliability?.omega_answers) { const x=w.reliability, I=f.implied[0]; cmp("omega", omegaOfAnswers(f.ordered.staged.columns.map(c=>c.thresholds), x.loadings, m.observed.map((_,i)=>m.observed.map((_,j)=>I.Sigma[i*I.p+j]))), x.omega_answers);}
  console.log(name, "worst", worst[0], worst[1].toExponential(1), "ms", ms.toFixed(0), "it", f.iterations);
}
it("x",()=>{
 const L=c=>JSON.parse(readFileSync(R+c+"/expected.json","utf8"));
 let c="three-factor-mediation-likert", d=L(c); check(c,c,d.model,"dwls",d.result);
 c="mixed-numeric-and-ordered"; d=L(c); for(const e of ["DWLS","ULS","WLS"]) check(c+e,c,d.model,{DWLS:"dwls",ULS:"uls",WLS:"adf"}[e],d[e]); check("outcome",c,d.ordered_outcome.model,"dwls",d.ordered_outcome.result);
 for (c of ["binary-items-two-factors","one-factor-five-levels"]) { d=L(c); for(const e of ["DWLS","ULS","WLS"]) if(d[e]) check(c+e,c,d.model,{DWLS:"dwls",ULS:"uls",WLS:"adf"}[e],d[e]); if(d.path_model) check(c+" path",c,d.path_model.model,"dwls",d.path_model.result??d.path_model.DWLS); }
 c="omega-of-answers"; d=L(c); for (const [k,w] of Object.entries(d)) { if(!w.arrows) continue; const obs=w.items??w.reliability.items; const m={observed:obs,ordered:obs,latent:["f"],arrows:[...w.arrows.map(a=>a.includes("=")?{arrow:a.split(" = ")[0],free:false,value:1}:{arrow:a,free:true,parameter:a}),...obs.map(o=>({arrow:o+" <-> "+o,dependent:true}))]}; check(k,c,m,"dwls",w); }
});
