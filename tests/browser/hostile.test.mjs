// A sample of requests made to break the API and its pages: a clear refusal each, never a fault of the program.
import assert from "node:assert/strict";
import { after, before, test } from "node:test";
import { App } from "./harness.mjs";
import { hurl } from "./hurling.mjs";

let app;
before(async () => {
  app = await App.start();
});
after(() => app?.stop());

test("three hundred requests that know the API's structure are answered, none by a fault of the program", async () => {
  // What weighs a whole complaint works for minutes on tables that are not there yet; other tests wait for those.
  const told = await hurl(app, 300, 77, { leave: (r) => /next-test|suspects|proof|verdict|close|^.jobs/.test(r.path) });
  assert.deepEqual([...told.faults], []);
  assert.ok(told.sent >= 300);
  // A sample that only ever missed would show nothing.
  assert.ok(told.statuses.get(200) > 50 && told.statuses.get(400) > 50, [...told.statuses].join("; "));
  assert.equal((await fetch(`${app.url}/health`)).status, 200);
});
