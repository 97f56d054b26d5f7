import puppeteer from 'puppeteer-core';
const [room,out,w='1280',h='800',night,full,fill]=process.argv.slice(2);
const b=await puppeteer.launch({executablePath:'/usr/bin/chromium-headless-shell',args:['--headless','--no-sandbox','--disable-gpu','--force-color-profile=srgb','--accept-lang=en-GB,en']});
const p=await b.newPage(); const o='http://127.0.0.1:4180';
await p.setViewport(+w<600?{width:+w,height:+h,isMobile:true,hasTouch:true,deviceScaleFactor:2}:{width:+w,height:+h});
const r=await fetch(o+'/signin?/demo',{method:'POST',body:new URLSearchParams(),headers:{origin:o,accept:'text/html'},redirect:'manual'});
for(const c of r.headers.getSetCookie()){const [name,value]=c.split(';')[0].split(/=(.*)/s); await p.setCookie({name,value,url:o});}
await p.setCookie({name:'theme',value:night==='night'?'night':'paper',url:o});
await p.goto(`${o}/s/0ddeb7bf-3490-5411-8c30-aa2ba495530c/${room}`); await p.waitForSelector('html[data-ready]');
if(fill) for(const kv of fill.split(';')){const [k,v]=kv.split('='); await p.type(`input[name="${k}"]`,v);}
await new Promise(r=>setTimeout(r,1200));
await p.screenshot({path:out,fullPage:full==='full'}); await b.close();
