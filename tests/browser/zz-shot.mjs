import { App, launch, pageOf } from "./harness.mjs";
const app = await App.start(); const browser = await launch();
const list = process.argv.slice(2);
for (const item of list) { const [path, name, w = "1280", h = "800", dark = ""] = item.split("|");
const page = await pageOf(browser, app, { width: +w, height: +h }, dark ? {colorScheme:"dark"}:{});
const t=Date.now(); await page.goto(app.url + path); const t2=Date.now(); await page.goto(app.url + path); console.log(name, t2-t, Date.now()-t2, (await page.content()).length); await page.screenshot({ path: `/tmp/${name}.png`, fullPage: h!=="844" }); await page.close(); }
await browser.close(); await app.stop();
