/* Nothing typed is lost: what has not reached Squall is kept in this browser and sent, in order, when Squall answers again. */
"use strict";

const UNSENT = "squall-unsent", DRAFTS = "squall-drafts", KEEP_DAYS = 14;
const read = (name) => { try { return JSON.parse(localStorage.getItem(name)) || []; } catch { return []; } };
const write = (name, list) => { try { localStorage.setItem(name, JSON.stringify(list)); } catch { tell("unsaved", say("not saved: this browser keeps nothing")); } };
const jobHere = () => document.getElementById("job")?.dataset.job || "";

/* The quiet sign beside the verdict. */
function tell(kind, words) {
  const sign = document.getElementById("saved");
  if (!sign) return;
  sign.className = `saved ${kind}`;
  if (sign.textContent !== words) sign.textContent = words;
}

/* A field's change as it can be sent again: where, what, on which revision. */
function fieldOf(ctx) {
  const found = /^\/jobs\/(\d+)\/field/.exec(new URL(ctx.request.action, location.href).pathname);
  if (!found || ctx.request.method !== "POST") return null;
  const body = Object.fromEntries(new URLSearchParams(ctx.request.body));
  const label = ctx.sourceElement?.querySelector?.("label")?.textContent.trim() || body.path;
  const name = document.querySelector("#job h1")?.textContent || "";
  return { job: found[1], path: body.path, body, label, name, at: Date.now() };
}
const same = (a, b) => a.job === b.job && a.path === b.path;

function keepItem(item) {
  const list = read(UNSENT), before = list.find((one) => same(one, item));
  const first = before ? { ...item, body: { ...item.body, revision: before.body.revision } } : item;
  write(UNSENT, [...list.filter((one) => !same(one, item)), first]);
  showUnsent();
  later();
}
function dropItem(item) {
  write(UNSENT, read(UNSENT).filter((one) => !(same(one, item) && one.body.value === item.body.value)));
  showUnsent();
}

function showUnsent() {
  const bar = document.getElementById("unsent"), list = read(UNSENT);
  if (!bar) return;
  bar.hidden = !list.length;
  const words = bar.querySelector("[data-unsent-words]"), open = bar.querySelector("[data-unsent-open]");
  const told = list.map((one) => `${one.label}: ${one.body.value}`).join("; ");
  const asked = list.find((one) => one.asks && one.job !== jobHere());
  const gone = list.find((one) => one.gone);
  const what = gone ? say("the job is not there any more") : asked ? `${say("it wants an answer in")} ${asked.name}` : say("kept in this browser, sent when Squall answers again");
  const line = list.length ? `${say("Not saved")}: ${told} (${what})` : "";
  if (words.textContent !== line) words.textContent = line;
  open.hidden = !asked;
  if (asked) open.href = `/jobs/${asked.job}`;
  if (list.length) tell("unsaved", say("not saved"));
}

/* Sending again: one after another, the oldest first; a job on the page by the page's own way, so that its questions stand in place. */
let timer = null, wait = 2000, sending = false;
function later() {
  clearTimeout(timer);
  timer = setTimeout(sendAgain, wait);
}
async function newKey() {
  const answer = await fetch(location.pathname, { headers: { Accept: "text/html" } });
  const page = new DOMParser().parseFromString(await answer.text(), "text/html");
  const key = page.querySelector('meta[name="squall-key"]')?.content, mine = document.querySelector('meta[name="squall-key"]');
  if (!key || key === mine.content) return false;
  mine.content = key;
  return true;
}
async function sendAgain() {
  const item = read(UNSENT).find((one) => !one.gone && !(one.asks && one.job !== jobHere()));
  if (!item || sending) return;
  sending = true;
  try {
    await newKey();
    if (item.job === jobHere()) {
      await window.htmx.ajax("POST", `/jobs/${item.job}/field`, { values: item.body, target: "#job", swap: "outerMorph", source: document.getElementById("job") });
    } else {
      const headers = { "X-Squall-Key": document.querySelector('meta[name="squall-key"]').content, "X-Squall-Tab": tabName, "HX-Request": "true", "HX-Request-Type": "partial" };
      const answer = await fetch(`/jobs/${item.job}/field`, { method: "POST", headers, body: new URLSearchParams(item.body) });
      if (answer.ok) dropItem(item);
      else if (answer.status < 500) write(UNSENT, read(UNSENT).map((one) => (same(one, item) ? { ...one, asks: answer.status !== 404, gone: answer.status === 404 } : one)));
    }
    wait = read(UNSENT).some((one) => same(one, item)) ? 2000 : 100;
  } catch {
    wait = Math.min(wait * 1.5, 15000);
  }
  sending = false;
  showUnsent();
  if (read(UNSENT).some((one) => !one.gone && !(one.asks && one.job !== jobHere()))) later();
}
for (const [where, event] of [[window, "online"], [document, "visibilitychange"]]) where.addEventListener(event, () => { if (read(UNSENT).length) later(); });

document.addEventListener("click", (event) => {
  if (event.target.closest("[data-unsent-now]")) sendAgain();
  if (event.target.closest("[data-unsent-drop]")) { write(UNSENT, []); showUnsent(); tell("", ""); }
});

/* What did not go through is said where the hand is. */
function notDone(source, words) {
  const place = source.closest?.("form") || source;
  let note = place.nextElementSibling;
  if (!note || !note.classList.contains("not-done")) {
    note = document.createElement("p");
    note.className = "not-done";
    note.setAttribute("role", "alert");
    place.after(note);
  }
  note.textContent = words;
}
function sentenceOf(ctx) {
  if (!ctx.response) return say("Squall doesn't answer. What you typed is kept here; try again in a moment.");
  if (ctx.response.status === 401 || /id="passphrase"|name="passphrase"/.test(ctx.text || "")) return say("Squall asks for its passphrase again: open it in another tab, then try again. What you typed is kept here.");
  const page = new DOMParser().parseFromString(ctx.text || "", "text/html");
  return page.querySelector(".error-page p")?.textContent.trim() || page.body?.textContent.trim().slice(0, 200) || say("Squall had a fault there. What you typed is kept here.");
}
const isFragment = (ctx) => (ctx.response.raw.headers.get("content-type") || "").startsWith("text/html") && !/^\s*<!doctype|<html/i.test(ctx.text);

let flying = 0, goTo = null;
document.addEventListener("htmx:before:request", (event) => {
  const ctx = event.detail.ctx;
  if (ctx.request.method !== "GET" && document.querySelector("[data-looks-on]")) {
    event.preventDefault();
    notDone(ctx.sourceElement, say("By this link one may look on, and change nothing."));
    return;
  }
  ctx.counted = true;
  if (ctx.request.method === "GET") return;
  flying += 1;
  tell("saving", say("saving"));
});
function failed(ctx, words) {
  const item = fieldOf(ctx);
  if (item) keepItem(item);
  else if (ctx.sourceElement?.id !== "job") notDone(ctx.sourceElement, words);
  if (ctx.request.method !== "GET") tell("unsaved", say("not saved"));
}
document.addEventListener("htmx:after:request", (event) => {
  const ctx = event.detail.ctx, item = fieldOf(ctx);
  if (!isFragment(ctx)) {
    event.preventDefault();
    if (item && ctx.response.status === 404) { keepItem(item); write(UNSENT, read(UNSENT).map((one) => (same(one, item) ? { ...one, gone: true } : one))); showUnsent(); }
    else if (ctx.response.status === 403 && !ctx.again) newKey().then((fresh) => (fresh && !item ? notDone(ctx.sourceElement, say("Squall was started anew: press it once more.")) : failed(ctx, sentenceOf(ctx))), () => failed(ctx, sentenceOf(ctx)));
    else failed(ctx, sentenceOf(ctx));
    return;
  }
  if (ctx.response.status === 503) { failed(ctx, say("Squall is busy; try again in a moment.")); return; }
  if (item) dropItem(item);
  if (ctx.request.method === "GET") return;
  if (ctx.response.status < 300) { dropDrafts(ctx); tell("", say("saved")); } else tell("unsaved", say("not saved"));
});
document.addEventListener("htmx:error", (event) => { if (event.detail.ctx?.request) failed(event.detail.ctx, sentenceOf(event.detail.ctx)); });
document.addEventListener("htmx:finally:request", (event) => {
  const ctx = event.detail.ctx;
  if (!ctx.counted || ctx.request.method === "GET") return;
  flying = Math.max(flying - 1, 0);
  if (!flying && goTo) { const to = goTo; goTo = null; window.location.href = to; }
});
/* A change that is on its way arrives before the page is left. */
document.addEventListener("click", (event) => {
  const link = event.target.closest("a[href]");
  if (!link || !flying || event.defaultPrevented || event.ctrlKey || event.metaKey || event.shiftKey || link.hasAttribute("download")) return;
  const to = new URL(link.getAttribute("href"), location.href);
  if (to.origin !== location.origin || (to.pathname === location.pathname && to.hash)) return;
  event.preventDefault();
  goTo = to.href;
});
window.addEventListener("beforeunload", (event) => { if (read(UNSENT).some((one) => !one.gone)) event.preventDefault(); });

/* Half-typed fields: kept per job and field until they are kept by Squall. */
const drafted = (field) => field.id && field.matches("#work input:not([type]), #work input[type=text], #work textarea") && field.form && field.form.method === "post";
const place = (field) => `${jobHere()} ${location.pathname} ${field.id}`;
document.addEventListener("input", (event) => {
  const field = event.target;
  if (!field.matches || !drafted(field)) return;
  const rest = read(DRAFTS).filter((one) => one.place !== place(field));
  const own = field.value === field.defaultValue ? [] : [{ place: place(field), value: field.value, base: field.defaultValue, at: Date.now() }];
  write(DRAFTS, [...rest, ...own]);
});
function dropDrafts(ctx) {
  const form = ctx.request.form || ctx.sourceElement, sent = new URLSearchParams(ctx.request.body);
  if (!form?.querySelectorAll) return;
  const done = new Set([...form.querySelectorAll("input, textarea")].filter((field) => field.id && sent.get(field.name) === field.value).map(place));
  if (done.size) write(DRAFTS, read(DRAFTS).filter((one) => !done.has(one.place)));
}
function noteAt(field, words, use) {
  const note = document.createElement("p");
  note.className = "unsent-note";
  note.textContent = words;
  if (use) {
    const button = Object.assign(document.createElement("button"), { type: "button", className: "act small", textContent: say("Put it in") });
    button.addEventListener("click", () => { field.value = use; field.focus(); note.remove(); });
    note.append(" ", button);
  }
  field.after(note);
}
function restoreDrafts() {
  const fresh = read(DRAFTS).filter((one) => Date.now() - one.at < KEEP_DAYS * 86400e3);
  write(DRAFTS, fresh);
  for (const draft of fresh) {
    const id = draft.place.split(" ").slice(2).join(" "), field = id && document.getElementById(id);
    if (!field || !drafted(field) || place(field) !== draft.place || field.value === draft.value) continue;
    if (field.defaultValue === draft.base) {
      field.value = draft.value;
      noteAt(field, say("typed before, not kept yet"));
    } else noteAt(field, `${say("You had typed here")}: ${draft.value}`, draft.value);
    unfold(field);
  }
}
/* A form that is sent the plain way carries its words with it. */
document.addEventListener("submit", (event) => {
  if (event.target.hasAttribute("hx-post") || event.target.method !== "post") return;
  const gone = new Set([...event.target.elements].filter((field) => field.id).map(place));
  write(DRAFTS, read(DRAFTS).filter((one) => !gone.has(one.place)));
});
window.addEventListener("load", () => { restoreDrafts(); showUnsent(); if (read(UNSENT).length) sendAgain(); });
