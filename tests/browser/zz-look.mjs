import { App, launch, pageOf } from "./harness.mjs";
const app = await App.start("--empty");
const browser = await launch();
const page = await pageOf(browser, app, { width: 1280, height: 800 });
const phone = await pageOf(browser, app, { width: 390, height: 844 });
const shots = [["harbour-launch-1","loom","c.key=START&wire=12"],["ridge-twin-1","line","c.key=ON&c.start=pressed"],["sound-cruiser-2","switches",""],["tide-outboard-3","loom","rpm=900&wire=9"],["ridge-carrier-4","loom","c.key=ON&wire=20"],["packhouse-generator-1","line","rpm=3000"],["quay-scooter-3","switches","c.key=ON"]];
for (const [m,v,q] of shots) { await page.goto(`${app.url}/machines/${m}?view=${v}&${q}`); await page.screenshot({path:`/tmp/s-${m}-${v}.png`, fullPage:true}); await phone.goto(`${app.url}/machines/${m}?view=${v}&${q}`); await phone.locator(".drawing-head").scrollIntoViewIfNeeded(); await phone.evaluate(()=>window.scrollBy(0,500)); await phone.screenshot({path:`/tmp/p-${m}-${v}.png`}); }
const { writeFile } = await import("node:fs/promises");
await writeFile("/tmp/loom.svg", await (await fetch(`${app.url}/machines/harbour-launch-1?handler=drawing&view=loom&c.key=START`)).text());
await page.goto("file:///tmp/loom.svg"); await page.screenshot({path:"/tmp/svg.png"});
await page.goto(`${app.url}/machines/orchard-tractor-4/normal`); await page.screenshot({path:"/tmp/normal.png"});
await browser.close(); await app.stop();
