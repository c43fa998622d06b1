// Instant parts of the pages. Everything works without this file; forms post and pages redraw.
"use strict";

const figure = /^([+-]?)(\d{0,9})(?:[.,](\d{1,9}))?([mk]?)$/;

/** Volts typed so far, or null while it is not a figure. */
function typedVolts(text) {
  const match = figure.exec(text.trim().replace("−", "-"));
  if (!match || (match[2] === "" && match[3] === undefined)) return null;
  const size = Number(`${match[2] || "0"}.${match[3] || "0"}`) * ({ m: 1e-3, k: 1e3 }[match[4]] ?? 1);
  return match[1] === "-" ? -size : size;
}

/** Moves the typed-not-entered mark on the staircase. */
function showTyped(text) {
  const mark = document.getElementById("preview");
  if (!mark) return;
  const volts = typedVolts(text);
  const drawing = mark.closest("svg");
  if (volts === null || !drawing) {
    mark.setAttribute("visibility", "hidden");
    return;
  }
  const { top, bottom, most } = drawing.dataset;
  const held = Math.min(Math.max(volts, -0.5), Number(most));
  const y = Number(bottom) - (held / Number(most)) * (Number(bottom) - Number(top));
  mark.setAttribute("transform", `translate(${mark.dataset.x} ${y.toFixed(1)})`);
  mark.setAttribute("visibility", "visible");
}

document.addEventListener("alpine:init", () => {
  window.Alpine.data("entry", () => ({
    init() {
      // A spark is answered by buttons: there is nothing to type.
      if (this.$refs.typed) showTyped(this.$refs.typed.value);
    },
    preview() {
      showTyped(this.$refs.typed.value);
    },
    press(event) {
      const input = this.$refs.typed;
      const key = event.currentTarget.dataset.key;
      if (key === "⌫") input.value = input.value.slice(0, -1);
      else if (key === "±") input.value = input.value.startsWith("-") ? input.value.slice(1) : `-${input.value}`;
      else input.value += key;
      showTyped(input.value);
    },
  }));
});

/** What changes the predictions of a complaint: how things stood, what was bridged, what else was tried. */
const foretold = /^(Stood|Bridged|Speed|Also)/;

document.addEventListener("alpine:init", () => {
  window.Alpine.data("complaint", () => ({
    // The predictions are begun as they are told, and are there when the complaint is written down.
    ahead(event) {
      if (!foretold.test(event.target.name)) return;
      fetch(`${window.location.pathname}?handler=Ahead`, { method: "POST", body: new FormData(event.target.form) }).catch(() => {});
    },
  }));
});

let asked = 0;

/** Fetches this page as it would be at another address and puts its live part in place, without leaving. */
async function redraw(address) {
  const mine = ++asked;
  const answer = await fetch(address);
  if (!answer.ok) {
    window.location.assign(address);
    return;
  }
  const fresh = new DOMParser().parseFromString(await answer.text(), "text/html").getElementById("live");
  // A control moved since has asked again: only the last answer is shown.
  if (mine !== asked) return;
  const from = document.activeElement?.getAttribute("name");
  document.getElementById("live").replaceWith(document.adoptNode(fresh));
  window.history.replaceState(null, "", address);
  if (from) document.querySelector(`#live [name="${CSS.escape(from)}"]`)?.focus();
}

document.addEventListener("alpine:init", () => {
  window.Alpine.data("moves", () => ({
    init() {
      this.$root.addEventListener("click", (event) => {
        const link = event.target.closest("a[href]");
        const address = link?.getAttribute("href") ?? "";
        const here = `${window.location.pathname}?`;
        if (!address.startsWith(here) || link.hasAttribute("download") || event.ctrlKey || event.metaKey || event.shiftKey) return;
        event.preventDefault();
        redraw(address);
      });
    },
    moved(event) {
      const form = event.target.form;
      const filled = [...new FormData(form)].filter(([, value]) => value !== "");
      redraw(`${window.location.pathname}?${new URLSearchParams(filled)}`);
    },
  }));
});

document.addEventListener("keydown", (event) => {
  const typing = event.target instanceof HTMLElement && event.target.matches("input:not([type=radio]):not([type=checkbox]), textarea");
  if (event.key === "?" && (!typing || event.target.value === "")) {
    event.preventDefault();
    document.getElementById("keys")?.showModal();
    return;
  }
  if (event.altKey && !event.ctrlKey && !event.metaKey) {
    const button = document.querySelector(`[data-shortcut="${CSS.escape(event.key.toLowerCase())}"]:not(:disabled)`);
    if (button) {
      event.preventDefault();
      button.click();
    }
  }
});

document.addEventListener("click", (event) => {
  if (event.target instanceof HTMLElement && event.target.closest("[data-print]")) window.print();
});

/** A place's own tick ticks all that is there. */
document.addEventListener("change", (event) => {
  const all = event.target.closest("[data-all-of]");
  if (all) all.closest("[data-all]").querySelectorAll("input[name]").forEach((box) => (box.checked = all.checked));
});

/** What is long is fetched when it is opened; its link leads there where this cannot. */
document.addEventListener(
  "toggle",
  async (event) => {
    const link = event.target.open && event.target.querySelector("[data-more]");
    if (!link) return;
    const answer = await fetch(link.dataset.more).catch(() => null);
    if (!answer?.ok) return;
    const fresh = new DOMParser().parseFromString(await answer.text(), "text/html").body;
    link.parentElement.replaceWith(...fresh.childNodes);
  },
  true,
);
