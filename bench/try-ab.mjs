import { rolldown } from "rolldown"; import { mkdirSync } from "node:fs";
mkdirSync("/tmp/ab",{recursive:true});
const load=async(root,name)=>{const b=await rolldown({input:root+"/bench/core-entry.ts",cwd:root,logLevel:"silent",resolve:{mainFields:["module","main"]}});await b.write({file:`/tmp/ab/${name}.mjs`,format:"esm"});return import(`/tmp/ab/${name}.mjs`)};
const {largeRecord}=await import("/work/main/bench/record.mjs");
const cores={old:await load("/tmp/old","old"),now:await load("/work/main","now")};
const med=a=>a.toSorted((x,y)=>x-y)[a.length>>1];
const setups={};
for(const k in cores){const core=cores[k];
 const road=core.loosePenStart.steps.map(s=>({id:s.id,sides:core.sidesOf(s),hasPhase:s.standard.phase!==null}));
 const own=Array.from({length:51},(_,n)=>({id:`own-step-${n}`,name:`Step ${n}`,stage:"halter",side:"handler",ends:"give",phase:1,mood:1,needs:n===0?["lead"]:[`own-step-${n-1}`,"stand"],...(n===50?{end:true}:{})}));
 const file={...core.SCHOOLS[0],id:"own-large",ownSteps:own,road:[...core.loosePenStart.steps.map(({id})=>id),...own.map(({id})=>id)]};
 const folded=core.foldRecord(largeRecord({asks:20000,steps:road})); const from=core.gather(folded,core.loosePenStart);
 setups[k]={check:(i)=>core.parseProgram({...file,about:`Change ${i}.`},true),order:()=>core.planCheckUp(from,{stages:core.STAGES},"2027-06-01"),move:(i)=>{const to=core.gatherAfterMove(folded,from,core.PROGRAMS[1+i%6],"2026-06-01");core.describeMove(from,to,"2026-06-01")}};
}
for(const what of ["check","order","move"]){const t={old:[],now:[]};for(let i=0;i<80;i++)for(const k of i%2?["old","now"]:["now","old"]){const b=performance.now();setups[k][what](i);t[k].push(performance.now()-b)}console.log(what,"old",med(t.old.slice(25)).toFixed(2),"now",med(t.now.slice(25)).toFixed(2))}
