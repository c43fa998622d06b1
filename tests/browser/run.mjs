// Runs all files of tests, two at once, beside one application and one browser that those share which can.
import { spawn } from "node:child_process";
import { App, launchServer } from "./harness.mjs";

const app = await App.start("--empty");
const browser = await launchServer();
const shared = JSON.stringify({ url: app.url, folder: app.folder, browser: browser.wsEndpoint() });
const tests = spawn(process.execPath, ["--test", "--test-concurrency=2", "--test-reporter=spec", ...process.argv.slice(2)], {
  stdio: "inherit",
  env: { ...process.env, PRITCHEL_TEST_TABLES: app.tables, PRITCHEL_TEST_SHARED: shared },
});
process.exitCode = await new Promise((resolve) => tests.once("exit", (code) => resolve(code ?? 1)));
await browser.close();
await app.stop();
