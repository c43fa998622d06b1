import { App } from "./harness.mjs";
const app = await App.start("--empty");
for (let i=0;i<14;i++) for (const p of ["/machines/ridge-carrier-4","/machines/ridge-carrier-4?rpm=3500&c.key=ON","/machines/sound-cruiser-2?rpm=3200"]) { const t=performance.now(); const r=await fetch(app.url+p); await r.text(); console.log(p, r.status, Math.round(performance.now()-t)); }
await app.stop();
