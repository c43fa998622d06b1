// One application and one browser for a file of tests, started before its first test and ended after its last; or those of the whole run.
import { after, afterEach, before } from "node:test";
import { App, connect, launch } from "./harness.mjs";

/** The application that `serve` started. */
export let app;

/** The browser that goes with it. */
export let browser;

/** Starts both for this file, with options of the program. */
export function serve(...options) {
  serving(
    () => App.start(...options),
    () => launch(),
  );
}

/**
 * Those that run.mjs started, for files that neither stop the program nor mind other files' jobs and machines beside their own: a program
 * started anew spends seconds on compiling itself. A file run by itself starts its own, on an empty record.
 */
export function serveShared() {
  const shared = process.env.PRITCHEL_TEST_SHARED && JSON.parse(process.env.PRITCHEL_TEST_SHARED);
  if (!shared) return serve("--empty");
  serving(
    () => App.at(shared),
    () => connect(shared.browser),
  );
}

function serving(startApp, startBrowser) {
  before(async () => {
    app = await startApp();
    browser = await startBrowser();
  });
  // A page that stays open goes on drawing beside the next test's.
  afterEach(() => Promise.all((browser?.contexts() ?? []).map((context) => context.close())));
  after(async () => {
    await browser?.close();
    await app?.stop();
  });
}
