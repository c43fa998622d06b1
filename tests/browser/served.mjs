// One application and one browser for a file of tests, started before its first test and ended after its last.
import { after, afterEach, before } from "node:test";
import { App, launch } from "./harness.mjs";

/** The application that `serve` started. */
export let app;

/** The browser that goes with it. */
export let browser;

/** Starts both for this file, with options of the program. */
export function serve(...options) {
  before(async () => {
    app = await App.start(...options);
    browser = await launch();
  });
  // A page that stays open goes on drawing beside the next test's.
  afterEach(() => Promise.all((browser?.contexts() ?? []).map((context) => context.close())));
  after(async () => {
    await browser?.close();
    await app?.stop();
  });
}
