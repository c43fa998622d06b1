// Runs all files of tests, three at once since a page waits on the browser as long as on a core, beside one application and one browser that those share which can.
import { spawn } from "node:child_process";
import { readdir } from "node:fs/promises";
import { fileURLToPath } from "node:url";
import { App, launchServer } from "./harness.mjs";

const folder = fileURLToPath(new URL(".", import.meta.url));
const names = (await readdir(folder)).filter((name) => name.endsWith(".test.mjs"));
// Those that take minutes first, as they were timed: one that came last would be waited for with nothing beside it.
const long = ["running", "circuits", "stories", "parts", "rewire-jobs", "hostile", "keeping", "job"];
const rank = (name) => {
  const at = long.indexOf(name.replace(".test.mjs", ""));
  return at < 0 ? long.length : at;
};
const files = names.sort((a, b) => rank(a) - rank(b));

const app = await App.start("--empty");
const browser = await launchServer();
const shared = JSON.stringify({ url: app.url, folder: app.folder, browser: browser.wsEndpoint() });
const tests = spawn(process.execPath, ["--test", "--test-concurrency=3", "--test-reporter=spec", ...process.argv.slice(2), ...files], {
  cwd: folder,
  stdio: "inherit",
  env: { ...process.env, PRITCHEL_TEST_TABLES: app.tables, PRITCHEL_TEST_SHARED: shared },
});
process.exitCode = await new Promise((resolve) => tests.once("exit", (code) => resolve(code ?? 1)));
await browser.close();
await app.stop();
