// Rewires driven in the browser: what every whole job does on its way from what stays to a proved machine.
import assert from "node:assert/strict";

/** Presses something that leads to another page. */
export const press = (page, what) => Promise.all([page.waitForNavigation(), page.click(what)]);

/** Begins a rewire of a machine, with another or a circuit that is added. */
export async function begin(page, app, name, host, donor) {
  await page.goto(`${app.url}/rewires`);
  await page.fill("[name=Name]", name);
  await page.selectOption("[name=Host]", host);
  if (donor) await page.selectOption("[name=Donor]", donor);
  await press(page, "text=Begin");
}

/** Says what goes of the host, what comes of the donor, and which wires are cut through. */
export async function keep(page, { gone = [], comes = [], cuts = "" }) {
  for (const part of gone) await page.uncheck(`[name=HostKeeps][value='${part}']`);
  for (const part of comes) await page.check(`[name=DonorKeeps][value='${part}']`);
  await page.fill("[name=HostCuts]", cuts);
  await press(page, "text=Keep this");
}

/** Numbers of flags by their ends. */
export async function flags(page) {
  const ends = await page.locator(".flag-list input").evaluateAll((all) => all.map((i) => i.value));
  const numbers = await page.locator(".flag-list b").allInnerTexts();
  return Object.fromEntries(ends.map((e, i) => [e, numbers[i]]));
}

/** Joins flags by their numbers, or lands them on a terminal. */
export async function join(page, numbers, onto = "") {
  for (const flag of numbers) await page.locator(".flag-list label", { has: page.locator(`b:text-is('${flag}')`) }).locator("input").check();
  await page.selectOption("[name=Onto]", onto);
  await press(page, "text=Join what is ticked");
  assert.equal(await page.locator(".error").count(), 0);
}

/** Goes to the proof and waits until it is worked out: what was found, in words. */
export async function prove(page, way = "text=Prove it") {
  await press(page, way);
  return found(page);
}

/** What a proof that is shown, or soon will be, has found. */
export const found = (page) => page.locator("[aria-labelledby=found-title]").innerText();

/** Says of every join that it is made; the steps as printed. */
export async function build(page) {
  await press(page, "text=Build it");
  for (let left = 20; left > 0 && (await page.locator(".bay").count()); left--) await press(page, ".bay button:text-is('Done')");
  assert.match(await page.locator("main").innerText(), /All \d+ joins are made/);
  return page.locator(".steps li").allInnerTexts();
}

/** Saves the machine that comes of it: its id. */
export async function save(page) {
  await press(page, ".stages a:text-is('Prove')");
  await page.waitForSelector("#found-title");
  await press(page, "text=Save as a machine");
  return new URL(page.url()).pathname.split("/").pop();
}
