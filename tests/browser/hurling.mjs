// Requests that know the API's structure and break it: every route of its own description and every page, with right, wrong,
// missing, huge and foreign values.
import { readFileSync } from "node:fs";

const texts = ["", "x", "12.4", "OL", "0,1", "-5", "1e999", "NaN", "٣", "\u0000", "\ud800", "'); DROP TABLE Jobs;--", "<script>", "=1+1", "a".repeat(5000), "key", "START", "battery.+", "battery.-", "solenoid.S", "coil", "stator", "grounds", "cranks", "sparks-magneto", "nothing", "volts", "ohms", "dcVolts", "OFF"];
const numbers = [0, 1, -1, 3, 0.5, 1e9, -1e9, 1e308, 2 ** 53, 1e-300, 20];
const pages = ["/", "/machines/{id}", "/machines/{id}/normal", "/machines/{id}/pictures", "/machines/{id}?view={id}&c.key={id}", "/jobs/{id}", "/jobs/{id}/look", "/jobs/{id}/complaint", "/jobs/{id}/repair", "/jobs/{id}/prove", "/jobs/{id}/why", "/jobs/{id}/sheet", "/jobs/{id}/reading", "/jobs/{id}/history", "/part-tests/{id}", "/part-tests/new?kind={id}", "/part-tests?machine={id}", "/rewires/{id}/sides", "/rewires/{id}/marry", "/rewires/looms/{id}", "/machines/drafts/{id}", "/record/restore?backup={id}", "/jobs/{id}?line={id}", "/jobs/{id}?condition={id}"];

/**
 * Sends `wanted` requests, the same ones for the same seed, four at a time. Tells how often each status came, what answered
 * 5xx or not at all, what was worked on for over two seconds and what was waited for as long, and the most memory in MB.
 * `leave` leaves routes out.
 */
export async function hurl(app, wanted, seed, { leave = () => false, every = () => {} } = {}) {
  const random = ((state) => () => (state = (state * 48271) % 2147483647) / 2147483647)(seed);
  const any = (all) => all[Math.floor(random() * all.length)];
  const read = async (path) => (await fetch(app.url + path)).json();
  const description = await read("/api/v1/openapi.json");
  const machines = (await read("/api/v1/machines")).map((m) => m.id);
  const file = await read("/api/v1/machines/hedgerow-mower-2");
  const ids = [...machines, "T-0001", "T-0003", "T-9999", "P-0001", "R-0001", "x", "..", "%00", "é", "a".repeat(300), "0", "-1"];
  const fitting = (path) => (/machines/.test(path) ? machines : /jobs/.test(path) ? ["T-0001", "T-0002", "T-0003", "T-0004", "T-0005", "T-0006"] : /looms/.test(path) ? ["R-0002"] : /rewires/.test(path) ? ["R-0001"] : /part-tests/.test(path) ? ["P-0001", "P-0002", "P-0003"] : ids);

  function value(schema, depth = 0) {
    if (random() < 0.08) return any([null, [], {}, "x", 7, true, [[[]]], { a: { b: {} } }]);
    if (schema?.$ref) return value(description.components.schemas[schema.$ref.split("/").at(-1)], depth + 1);
    const one = schema?.oneOf ?? schema?.anyOf;
    if (one) return value(any(one), depth + 1);
    if (schema?.enum) return random() < 0.9 ? any(schema.enum) : any(texts);
    const type = Array.isArray(schema?.type) ? any(schema.type) : schema?.type;
    if (type === "object" || schema?.properties) {
      const made = {};
      for (const [name, inner] of Object.entries(schema.properties ?? {})) if (random() < 0.8) made[name] = name === "machine" && random() < 0.6 ? any(machines) : value(inner, depth + 1);
      if (schema.additionalProperties) for (let k = 0; k < 2; k++) made[any(texts).slice(0, 40)] = value(schema.additionalProperties, depth + 1);
      if (random() < 0.05) made[any(texts).slice(0, 40)] = 1;
      return made;
    }
    if (type === "array") return depth > 6 ? [] : Array.from({ length: any([0, 1, 2, 2, 60]) }, () => value(schema.items, depth + 1));
    if (type === "number" || type === "integer") return any(numbers);
    if (type === "boolean") return random() < 0.5;
    return random() < 0.5 ? any(ids) : any(texts);
  }

  /** A machine file with one thing in it changed. */
  function changed() {
    const copy = structuredClone(file);
    const places = [];
    const walk = (at) => Object.keys(at).forEach((key) => (places.push([at, key]), at[key] && typeof at[key] === "object" && walk(at[key])));
    walk(copy);
    for (let k = 0; k < any([1, 1, 2, 5]); k++) {
      const [at, key] = any(places);
      at[key] = any([null, "", [], {}, any(texts), any(numbers), any(ids), at[any(Object.keys(at))]]);
    }
    return copy;
  }

  const routes = Object.entries(description.paths).flatMap(([path, methods]) => Object.entries(methods).map(([method, what]) => ({ path, method: method.toUpperCase(), schema: what.requestBody?.content?.["application/json"]?.schema }))).filter((r) => !leave(r));
  const shown = pages.map((path) => ({ path, method: "GET" })).filter((r) => !leave(r));
  const told = { sent: 0, statuses: new Map(), faults: new Map(), slow: new Map(), waited: new Map(), megabytes: 0 };
  async function one() {
    const page = random() < 0.15;
    const route = page ? any(shown) : any(routes);
    const path = route.path.replaceAll(/\{[^}]+\}/g, () => encodeURIComponent(random() < 0.8 ? any(fitting(route.path)) : any(ids)).replace("%2500", "%00"));
    let body;
    if (route.method === "POST") {
      const made = route.schema ? value(route.schema) : {};
      if (/measure$/.test(route.path) && made && typeof made === "object" && "machine" in made && random() < 0.7) made.machine = changed();
      body = route.path.endsWith("/machines") ? JSON.stringify(changed()) : JSON.stringify(made);
      if (random() < 0.03) body = body.slice(0, Math.floor(random() * body.length));
    }
    const begun = performance.now();
    const answer = await fetch(app.url + path, { method: route.method, headers: body === undefined ? {} : { "content-type": random() < 0.98 ? "application/json" : "text/plain" }, body, redirect: "manual" }).catch((e) => ({ status: `broken: ${e.cause?.code ?? e.message}`, text: async () => "" }));
    const text = await answer.text();
    const took = performance.now() - begun;
    told.statuses.set(answer.status, (told.statuses.get(answer.status) ?? 0) + 1);
    const name = `${route.method} ${route.path}`;
    if (!(answer.status < 500)) told.faults.set(`${answer.status} ${name}`, `${path} ${body?.slice(0, 400) ?? ""} → ${text.slice(0, 200)}`);
    const worked = Number(/work;dur=([\d.]+)/.exec(answer.headers?.get("server-timing") ?? "")?.[1] ?? took);
    for (const [ms, longest] of [[worked, told.slow], [took, told.waited]]) if (ms > 2000) longest.set(name, Math.max(longest.get(name) ?? 0, ms));
    told.sent++;
    if (told.sent % 500 === 0) {
      told.megabytes = Math.max(told.megabytes, Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${app.process.pid}/status`, "utf8"))[1]) / 1024);
      every(told);
    }
  }

  await Promise.all(
    Array.from({ length: 4 }, async () => {
      while (told.sent < wanted) await one();
    }),
  );
  return told;
}
