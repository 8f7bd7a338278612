import { chromium } from '@playwright/test';
const base='http://127.0.0.1:8432';
const [,, who, dark, width, ...pages]=process.argv;
const b=await chromium.launch({executablePath:'/usr/bin/chromium'});
const c=await b.newContext({viewport:{width:Number(width),height:800},colorScheme:dark==='dark'?'dark':'light'});
const p=await c.newPage();
p.on('console',m=>{if(m.type()==='error')console.log('console:',m.text())});
p.on('pageerror',e=>console.log('pageerror:',e.message));
await p.request.post(base+'/api/session',{data:{card:who},headers:{'X-North-Pebble':'1'}});
for(const [i,path] of pages.entries()){
  const [url,name]=path.split('::');
  await p.goto(base+url); await p.waitForLoadState('networkidle'); await p.waitForTimeout(600);
  await p.screenshot({path:`/tmp/shots/${name??i}.png`,fullPage:process.env.FULL==='1'});
  const w=await p.evaluate(()=>document.documentElement.scrollWidth-document.documentElement.clientWidth);
  console.log(name??i,'overflow',w);
}
await b.close();
