import sharp from 'sharp';
import { plunger, barrelRows, type Pixels } from './src/core/picture';
import { photographSyringe } from './src/core/photograph';
import { uniform } from './src/core/statistics';
const N=Number(process.argv[2]??60), OFF=Number(process.argv[3]??0.9);
const rows:any[]=[]; 
for(let s=0;s<N;s++){ const r=uniform(s*31+5); for(let i=0;i<4;i++)r();
 const g=r()<.5?0.01:0.02; const left=0.05+0.93*r(); const L=560+500*r();
 const sc={fillMl:1,graduationMl:g,left,air:r()<.3?0:0.02+0.05*r(),upsideDown:r()<.5,turned:-1.6+(r()-.5)*0.3+(r()<.3?1.5:0),slant:0.06*(r()-.5),seal:0.02+0.05*r(),ground:0.45+0.35*r(),tint:0.06+0.3*r(),gradient:0.3*r(),blur:Math.round(1.4*r()),noise:1+3*r(),length:L,width:900,height:1300,seed:s};
 if(Math.abs(Math.sin(sc.turned))<.5){sc.width=1300;sc.height=900}
 const {pixels,ends}=photographSyringe(sc);
 const b=await sharp(Buffer.from(pixels.data.buffer),{raw:{width:pixels.width,height:pixels.height,channels:4}}).jpeg({quality:85}).toBuffer(); const {data}=await sharp(b).ensureAlpha().raw().toBuffer({resolveWithObject:true});
 const px:Pixels={...pixels,data:new Uint8ClampedArray(data)};
 const j=()=> (r()-.5)*OFF*g*L;
 const t=performance.now();
 const o=plunger(barrelRows(px,{zero:{x:ends.zero.x+j()*Math.cos(sc.turned),y:ends.zero.y+j()*Math.sin(sc.turned)},full:{x:ends.full.x+j()*Math.cos(sc.turned),y:ends.full.y+j()*Math.sin(sc.turned)}},{fillMl:1,graduationMl:g}));
 const ms=performance.now()-t;
 if(o.ok) rows.push({s,g,left,L,blur:sc.blur,slant:sc.slant,err:o.value.left===null?null:o.value.left-left,u:o.value.standardUncertainty,lines:o.value.lines,flags:o.value.flags.join(),ms});
}
const ok=rows.filter(r=>r.err!==null); const e=ok.map(r=>Math.abs(r.err)).sort((a,b)=>a-b);
console.log('n',ok.length,'of',N,'med',e[e.length>>1],'p95',e[Math.floor(.95*e.length)],'max',e.at(-1),'within .005',e.filter(x=>x<=.005).length/N,'cover2u',ok.filter(r=>Math.abs(r.err)<1.96*r.u).length/ok.length,'unsure',rows.filter(r=>/unsure/.test(r.flags)).length,'ms',rows.map(r=>r.ms).sort((a,b)=>a-b)[N>>1]);
for(const r of rows.filter(r=>r.err===null||Math.abs(r.err)>.004||/unsure/.test(r.flags))) console.log(JSON.stringify(r));
