/* The frame of the pages: letters, rows that are one stop of the Tab key, folds that stay as they were left, parts of the drawing. */
"use strict";

const typing = (target) => target.closest("input:not([type=checkbox]), select, textarea, dialog[open]");

function openKeys() {
  const keys = document.getElementById("keys");
  if (!keys.open) keys.showModal();
}
function openFind() {
  const find = document.getElementById("find");
  if (find.open) return;
  find.querySelector("[name=job]").value = document.getElementById("job")?.dataset.job || 0;
  find.showModal();
  const words = document.getElementById("find-words");
  words.focus();
  words.select();
}
/* What was found on this very page is shown without loading it again; the arrows move along what was found. */
document.addEventListener("click", (event) => {
  const hit = event.target.closest(".hits a");
  if (!hit) return;
  const to = new URL(hit.getAttribute("href"), location.href);
  document.getElementById("find")?.close();
  if (to.pathname === location.pathname && to.hash) { event.preventDefault(); history.replaceState(null, "", to.hash); showPart(to.hash, false); }
});
document.addEventListener("keydown", (event) => {
  const by = { ArrowDown: 1, ArrowUp: -1 }[event.key], find = event.target.closest?.("#find");
  if (!find || (!by && event.key !== "Enter")) return;
  const links = [...find.querySelectorAll(".hits a")], at = links.indexOf(document.activeElement);
  if (by && links.length) { event.preventDefault(); (links[at + by] || document.getElementById("find-words")).focus(); }
  else if (event.key === "Enter" && at < 0 && event.target.id === "find-words") { event.preventDefault(); links[0]?.click(); }
});
document.addEventListener("click", (event) => {
  if (event.target.closest("[data-help]")) openKeys();
  if (event.target.closest("[data-find]")) openFind();
  if (event.target.closest("[data-print]")) window.print();
});

/* Letters move between stages; they never act while someone types, and can be switched off. */
const LETTERS = "squall-letters";
const lettersOn = () => localStorage.getItem(LETTERS) !== "off";
document.addEventListener("change", (event) => {
  if (event.target.id === "letters-on") localStorage.setItem(LETTERS, event.target.checked ? "on" : "off");
});
window.addEventListener("load", () => {
  const box = document.getElementById("letters-on");
  if (box) box.checked = lettersOn();
});

/* Open whatever an element is folded away in. */
function unfold(element) {
  for (let fold = element.closest("details:not([open])"); fold; fold = element.closest("details:not([open])")) fold.open = true;
}
function toFirst(selector) {
  const field = document.querySelector(selector);
  if (!field) return false;
  unfold(field);
  field.focus();
  if (field.select) field.select();
  return true;
}

const acts = {
  "?": openKeys,
  "/": openFind,
  "u": () => document.getElementById("undo")?.click(),
  "n": () => {
    const job = document.getElementById("job");
    if (!toFirst("input.measure") && job && job.dataset.job) window.location.href = `/jobs/${job.dataset.job}/prove`;
  },
};
document.addEventListener("keydown", (event) => {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  if (event.key === "Escape" && event.target.matches("input, select, textarea") && !event.target.closest("dialog")) {
    event.target.blur();
    return;
  }
  if (typing(event.target) || !lettersOn()) return;
  if (acts[event.key]) {
    event.preventDefault();
    acts[event.key]();
  } else {
    document.querySelector(`.tape a[data-key="${CSS.escape(event.key)}"]`)?.click();
  }
});

/* A row of links is one stop of the Tab key; the arrows move along it. Without scripts each link is a stop of its own. */
const linksOf = (row) => [...row.querySelectorAll("a")];
function oneStop() {
  for (const row of document.querySelectorAll("[data-row]")) {
    const links = linksOf(row), here = links.find((link) => link.hasAttribute("aria-current")) || links[0];
    for (const link of links) link.tabIndex = link === here ? 0 : -1;
  }
}
document.addEventListener("keydown", (event) => {
  const row = event.target.closest?.("[data-row]"), by = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
  if (!row || !by) return;
  event.preventDefault();
  const links = linksOf(row), next = links[(links.indexOf(event.target.closest("a")) + by + links.length) % links.length];
  for (const link of links) link.tabIndex = link === next ? 0 : -1;
  next.focus();
});

/* What a person folded or opened stays so through answers and until the tab is closed. What has a problem in it is never folded away. */
const foldsOf = () => `squall-folds ${location.pathname}`;
const readFolds = () => JSON.parse(sessionStorage.getItem(foldsOf()) || "{}");
document.addEventListener("click", (event) => {
  const fold = event.target.closest("summary")?.parentElement;
  if (!fold || !fold.id) return;
  setTimeout(() => sessionStorage.setItem(foldsOf(), JSON.stringify({ ...readFolds(), [fold.id]: fold.open })));
});
let there = null;
function refold() {
  const folds = readFolds();
  /* A row that has just come is open: what it is must be said next. */
  const rows = new Set([...document.querySelectorAll("details.row-opens[id]")].map((row) => row.id));
  const fresh = there ? [...rows].filter((id) => !there.has(id) && !(id in folds)) : [];
  for (const id of fresh) folds[id] = true;
  if (fresh.length) sessionStorage.setItem(foldsOf(), JSON.stringify(folds));
  there = rows;
  for (const fold of document.querySelectorAll("details[id]")) {
    if (fold.id in folds) fold.open = folds[fold.id];
    if (fold.querySelector(".problem:not(:empty), .conflict")) fold.open = true;
  }
}

/* A part of the drawing opens its own place in the work; what stood open beside it is folded. */
function showPart(hash, alone) {
  const part = hash.length > 1 && document.getElementById(decodeURIComponent(hash.slice(1)));
  const work = document.getElementById("work");
  if (part && part.matches("details")) part.open = true;
  if (!part || !work || part === work || !work.contains(part)) return;
  if (alone) {
    for (const fold of work.querySelectorAll(":scope > details.block[open], details.row-opens[open]")) {
      if (!fold.contains(part) && !part.contains(fold)) fold.open = false;
    }
  }
  unfold(part);
  part.scrollIntoView({ block: "start" });
  const field = part.querySelector("input:not([type=hidden]), select, textarea") || part.querySelector("summary, a, button");
  if (field && window.matchMedia("(pointer: fine)").matches) field.focus({ preventScroll: true });
}
document.addEventListener("click", (event) => {
  const link = event.target.closest("a.part");
  if (!link) return;
  const more = document.getElementById("side-more");
  if (more && window.matchMedia("(max-width: 1099px)").matches) more.open = false;
  const address = new URL(link.getAttribute("href"), location.href);
  if (address.pathname === location.pathname) setTimeout(() => showPart(address.hash, true));
});
window.addEventListener("hashchange", () => showPart(location.hash, false));

window.addEventListener("load", () => { oneStop(); refold(); showPart(location.hash, true); });
document.addEventListener("htmx:after:swap", () => { oneStop(); refold(); });
