// Takes the pictures in docs/screenshots: node pictures.mjs
import { fileURLToPath } from "node:url";
import { answer, App, launch, pageOf } from "./harness.mjs";

const folder = fileURLToPath(new URL("../../docs/screenshots/", import.meta.url));
const app = await App.start();
const browser = await launch();
const page = await pageOf(browser, app, { width: 1280, height: 800 });
const take = (name, full = false) => page.screenshot({ path: `${folder}${name}.png`, fullPage: full });

await page.goto(app.url);
await take("bench");
await page.goto(`${app.url}/jobs/T-0001/complaint`);
await take("complaint");
await page.goto(`${app.url}/jobs/T-0001`);
await page.fill("#typed", "3.9");
await take("diagnose");
await page.goto(`${app.url}/jobs/T-0001/look`);
await take("look");
await page.goto(`${app.url}/jobs/T-0001/why`);
await take("why");

const phone = await pageOf(browser, app, { width: 390, height: 844 }, { colorScheme: "dark", hasTouch: true, isMobile: true });
await phone.goto(`${app.url}/jobs/T-0001`);
await phone.fill("#typed", "3.9");
await phone.screenshot({ path: `${folder}diagnose-phone-night.png` });

const fault = "C4@to/joint/open";
await page.goto(`${app.url}/jobs/T-0002`);
while (!(await page.locator("text=Take this verdict").count())) {
  await page.fill("#typed", await answer(app, page, fault));
  await Promise.all([page.waitForNavigation(), page.press("#typed", "Enter")]);
}
await take("verdict");
await page.goto(`${app.url}/jobs/T-0001/parts`);
for (const input of await page.locator(".prices td input").all()) await input.fill("45");
for (const [name, sum] of [["hour", "45"], ["trip", "20"], ["days", "2"], ["day", "15"], ["mended", "900"], ["inParts", "350"]]) await page.fill(`input[name='Term[${name}]']`, sum);
await Promise.all([page.waitForNavigation(), page.click("text=Work it out")]);
await take("parts");
await page.goto(`${app.url}/jobs/T-0002`);
await page.click("text=Take this verdict");
await page.waitForURL(/repair$/);
await page.fill("input[name=Done]", "Strap off, both faces and the bolt brightened, refitted tight.");
await page.fill("input[name=MinutesTaken]", "20");
await page.click("text=Done, now prove it");
await page.waitForURL(/prove$/);
await page.locator(".checks button[value=true]").first().click();
await page.waitForLoadState();
await take("prove", true);
await page.goto(`${app.url}/jobs/T-0002/sheet`);
await take("sheet", true);
await page.goto(`${app.url}/rewires/R-0001/marry`);
await take("rewire-marry");
await page.goto(`${app.url}/rewires/R-0001/prove`);
await take("rewire-prove");
await phone.goto(`${app.url}/rewires/R-0001/build`);
await phone.screenshot({ path: `${folder}rewire-bay-phone.png` });
const part = await app.api("/part-tests", { machine: "ridge-carrier-4", part: "stator" });
for (const [reading, figure] of [["ohms-a-b", "0.6"], ["ohms-b-c", "0.6"], ["ohms-c-a", "0.5"], ["core-a", "1.3"], ["core-b", "0.9"]]) await app.api(`/part-tests/${part.tag}/readings`, { reading, figure });
await page.goto(`${app.url}/part-tests/${part.tag}`);
await take("part-test");
await phone.goto(`${app.url}/part-tests`);
await phone.click("text=Which post is which?");
await phone.waitForURL(/switch/);
for (const beeps of ["Silent", "Beeps", "Silent"]) {
  await phone.click(`button:text-is('${beeps}')`);
  await phone.waitForLoadState();
}
await phone.screenshot({ path: `${folder}part-switch-phone.png` });
await page.goto(`${app.url}/machines`);
await take("machines");
await page.goto(`${app.url}/machines/orchard-zero-turn-7?c.key=RUN&c.seat=sat&rpm=3500&wire=12`);
await take("loom", true);
await page.goto(`${app.url}/machines/hill-quad-2?view=switches&c.key=ON&c.start=pressed`);
await take("switches");
await page.goto(`${app.url}/machines/make?from=orchard-tractor-4`);
await page.click("text=Change this machine");
await page.waitForURL(/drafts/);
await page.goto(`${page.url()}?on=wire&item=C2`);
await take("making");
await browser.close();
await app.stop();
