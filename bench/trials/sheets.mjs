// From a figure entered on a sheet to the verdict in the answer: every reading of every sheet, three times each, the middle one.
//   node bench/trials/sheets.mjs
import { readFileSync } from "node:fs";
import { App } from "../../tests/browser/harness.mjs";

const listed = readFileSync(new URL("../../tests/Pritchel.Core.Tests/sheet-readings.txt", import.meta.url), "utf8");
const sheets = listed.split("\n").filter((l) => l.includes("|") && !l.startsWith("#")).map((l) => l.split("|").map((x) => x.trim()));
const app = await App.start("--empty");
const times = [];
for (const [kind, sheet] of sheets) {
  const { tag, readings } = await app.api("/part-tests", { kind, sheet });
  for (const { id, unit } of readings) {
    const three = [];
    for (let n = 0; n < 3; n++) {
      const begun = performance.now();
      // What is seen is one of three; everything else is read.
      await app.api(`/part-tests/${tag}/readings`, { reading: id, figure: unit ? "0.6" : "1" });
      three.push(performance.now() - begun);
    }
    times.push({ ms: three.sort((a, b) => a - b)[1], at: `${kind} ${sheet} ${id}` });
  }
}
await app.stop();
times.sort((a, b) => a.ms - b.ms);
const at = (share) => times[Math.floor(share * (times.length - 1))].ms.toFixed(0);
console.log(`${sheets.length} sheets, ${times.length} readings: median ${at(0.5)} ms, 95 % within ${at(0.95)}, worst ${at(1)} (${times.at(-1).at})`);
