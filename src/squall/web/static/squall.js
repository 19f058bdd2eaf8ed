/* What the pages need in the browser: the key that changes carry, letters for stages, charts, the bucket timer. */
"use strict";

/* Words of this file in the reader's language; English where the page brings none. */
const told = JSON.parse(document.getElementById("script-words")?.textContent || "{}");
const say = (text) => told[text] || text;

const tabName = sessionStorage.getItem("squall-tab") || `tab ${crypto.getRandomValues(new Uint32Array(1))[0].toString(36)}`;
sessionStorage.setItem("squall-tab", tabName);

document.addEventListener("htmx:config:request", (event) => {
  const headers = event.detail.ctx.request.headers;
  headers["X-Squall-Key"] = document.querySelector('meta[name="squall-key"]').content;
  headers["X-Squall-Tab"] = tabName;
});

/* What one form says for another goes with it at once, not only when the page has answered. */
document.addEventListener("input", (event) => {
  if (!event.target.id) return;
  for (const twin of document.querySelectorAll(`[data-mirrors="${CSS.escape(event.target.id)}"]`)) twin.value = event.target.value;
});

/* The outline of the world: a press or the arrow keys write a place into the field; nothing else is changed by it. */
const NORTH = 75, DEGREES = { wide: 360, high: 134 };

function placeText(latitude, longitude) {
  const part = (value, plus, minus) => `${Math.abs(value).toFixed(1)} ${value < 0 ? minus : plus}`;
  return `${part(latitude, "N", "S")} ${part(longitude, "E", "W")}`;
}

function crossAt(world, latitude, longitude) {
  const cross = world.querySelector(".world-cross");
  cross.hidden = false;
  cross.style.left = `${((longitude + 180) / DEGREES.wide) * 100}%`;
  cross.style.top = `${((NORTH - latitude) / DEGREES.high) * 100}%`;
  world.dataset.at = `${latitude},${longitude}`;
  writePlace(placeText(latitude, longitude));
}

function writePlace(text) {
  const field = document.getElementById("place-at");
  if (field) field.value = text;
}

document.addEventListener("click", (event) => {
  const world = event.target.closest("[data-world]");
  if (world) {
    const box = world.getBoundingClientRect();
    const latitude = NORTH - ((event.clientY - box.top) / box.height) * DEGREES.high;
    crossAt(world, Math.round(latitude * 10) / 10, Math.round(((event.clientX - box.left) / box.width) * 3600) / 10 - 180);
  }
  const see = event.target.closest("[data-see]");
  if (see) {
    event.preventDefault();
    const [path, anchor] = see.getAttribute("formaction").split("#");
    window.location.href = `${path}?see=${encodeURIComponent(see.form.elements.place.value)}#${anchor}`;
  }
  const position = event.target.closest("[data-position]");
  if (position) {
    const problem = position.parentElement.querySelector("[data-position-problem]");
    problem.textContent = "";
    navigator.geolocation.getCurrentPosition(
      (found) => writePlace(`${found.coords.latitude.toFixed(4)}, ${found.coords.longitude.toFixed(4)}`),
      () => { problem.textContent = say("This device doesn't say where it is; type the place, or press the outline."); },
      { timeout: 20000, maximumAge: 600000 },
    );
  }
});

document.addEventListener("keydown", (event) => {
  const world = event.target.closest("[data-world]");
  const step = { ArrowUp: [1, 0], ArrowDown: [-1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }[event.key];
  if (!world || !step) return;
  event.preventDefault();
  const by = event.shiftKey ? 10 : 1;
  const [latitude, longitude] = (world.dataset.at || "0,0").split(",").map(Number);
  const turned = ((longitude + step[1] * by + 540) % 360) - 180;
  crossAt(world, Math.max(-58, Math.min(73, latitude + step[0] * by)), turned);
});

/* Browsers tell a page where they are only on this machine itself or over a secured line. */
function showPosition() {
  if (!navigator.geolocation || !window.isSecureContext) return;
  for (const button of document.querySelectorAll("[data-position]")) button.hidden = false;
}
showPosition();
document.addEventListener("htmx:after:swap", showPosition);

/* What was kept leaves its form, so that the next entry starts empty: a form names what grows when it is kept. */
const grown = new Map();
const countGrown = (form) => document.querySelectorAll(form.dataset.clearsWith).length;
const eachEntry = (act) => { for (const form of document.querySelectorAll("form[data-clears-with]")) act(form, `${form.id} ${form.action}`); };
window.addEventListener("load", () => eachEntry((form, name) => grown.set(name, countGrown(form))));
document.addEventListener("htmx:after:swap", () => eachEntry((form, name) => {
  const now = countGrown(form);
  if (grown.has(name) && now > grown.get(name)) {
    for (const field of form.querySelectorAll("input[type=text], input[type=file], input:not([type])")) if (!("keeps" in field.dataset)) field.value = "";
  }
  grown.set(name, now);
}));

/* A board that was on its way while a job was deleted still holds that job: it stays deleted in sight. */
const gone = new Map();
document.addEventListener("htmx:after:swap", () => {
  for (const row of document.querySelectorAll(".job-gone")) gone.set(row.querySelector("[name=removed]").value, row);
  for (const [job, row] of gone) {
    if (!row.isConnected) document.querySelector(`.job-row form[action="/jobs/${job}/delete"]`)?.closest(".job-row").replaceWith(row.cloneNode(true));
  }
});

/* Stop-watches: seconds of a bucket or of a pebble's fall. The moment counts from the touch, not from its end. */
const watch = (digits) => ({
  since: null, seconds: 0, timer: null,
  get label() { return this.since === null ? say("Start") : say("Stop"); },
  get shown() { return `${this.seconds.toFixed(digits)} s`; },
  toggle() {
    if (this.since === null) {
      this.seconds = 0;
      this.since = performance.now();
      this.timer = setInterval(() => { this.seconds = (performance.now() - this.since) / 1000; }, 100);
    } else {
      clearInterval(this.timer);
      this.seconds = (performance.now() - this.since) / 1000;
      this.since = null;
      this.stopped();
    }
  },
  stopped() {},
});
const mixed = (base, more) => Object.defineProperties(base, Object.getOwnPropertyDescriptors(more));

document.addEventListener("alpine:init", () => {
  window.Alpine.data("bucket", () => mixed(watch(1), {
    size: "",
    init() { this.size = this.$root.dataset.size; },
    get idle() { return this.since !== null || this.seconds < 0.5; },
    use() {
      const held = parseFloat(this.size.replace(",", "."));
      const field = document.getElementById("m-outlet-flow");
      if (held > 0 && field) { field.value = `${(held / this.seconds * 60).toFixed(2)} ${this.$root.dataset.sign}`; field.focus(); }
    },
  }));
  /* A watch that writes its seconds into the field it names. */
  window.Alpine.data("stopwatch", () => mixed(watch(2), {
    stopped() {
      const field = document.getElementById(this.$root.dataset.target);
      if (field) { field.value = `${this.seconds.toFixed(2)} s`; field.focus(); }
    },
  }));
});

/* A day's strip: the hand moves by slider or keys, the values are said, the drawing's sun and words follow. */
function moveHand(strip) {
  const slider = strip.querySelector("input[type=range]");
  const day = JSON.parse(strip.dataset.strip);
  const step = Number(slider.value), hour = (step + 0.5) * day.step;
  const minutes = Math.round(hour * 60), two = (n) => String(n).padStart(2, "0");
  const clock = `${two(Math.floor(minutes / 60))}:${two(minutes % 60)}`;
  const said = day.lanes.map((lane) => `${lane.name} ${lane.values[step]}${lane.sign ? ` ${lane.sign}` : ""}`).join(", ");
  strip.querySelector(".strip-now").textContent = `${clock}: ${said}`;
  slider.setAttribute("aria-valuetext", `${clock}, ${said}`);
  const x = day.left + (day.right - day.left) * hour / 24;
  const hand = strip.querySelector(".strip-hand");
  hand.setAttribute("x1", x); hand.setAttribute("x2", x);
  for (const now of document.querySelectorAll(".section .hour-now")) {
    const d = now.dataset, share = (hour - 5) / 14, up = share >= 0 && share <= 1;
    const sunX = Number(d.left) + share * (d.right - d.left), sunY = d.base - d.rise * 4 * share * (1 - share);
    now.style.display = up ? "" : "none";
    now.setAttribute("transform", `translate(${sunX.toFixed(1)} ${sunY.toFixed(1)})`);
    const flow = day.lanes.find((lane) => lane.name.startsWith("flow"));
    now.querySelector("text").textContent = flow ? `${clock}  ${flow.values[step]} ${flow.sign}` : clock;
    now.closest("svg").classList.toggle("flowing", Boolean(flow && flow.values[step] > 0));
  }
}
const moveHands = () => document.querySelectorAll("[data-strip]").forEach(moveHand);
document.addEventListener("input", (event) => { const strip = event.target.closest("[data-strip]"); if (strip) moveHand(strip); });
window.addEventListener("load", moveHands);
document.addEventListener("htmx:after:swap", moveHands);

/* In a table of days the arrows move between days; only one of them is a stop of the Tab key. */
document.addEventListener("keydown", (event) => {
  const table = event.target.closest && event.target.closest("[data-roving]");
  const ways = { ArrowRight: [0, 1], ArrowLeft: [0, -1], ArrowDown: [1, 0], ArrowUp: [-1, 0] };
  if (!table || !ways[event.key]) return;
  const cell = event.target.closest("td"), row = cell.parentElement, [down, right] = ways[event.key];
  const rows = [...table.rows], other = rows[rows.indexOf(row) + down];
  const next = other && other.cells[Math.min(cell.cellIndex + right, other.cells.length - 1)];
  const link = next && next.querySelector("a");
  if (link) { event.preventDefault(); event.target.tabIndex = -1; link.tabIndex = 0; link.focus(); }
});

/* A link to look on carries its code behind the #, which goes to nobody: it is given from here, and leaves the address. */
window.addEventListener("load", () => {
  const form = document.getElementById("guest-form"), code = location.hash.slice(1);
  if (!form || !code) return;
  history.replaceState(null, "", location.pathname);
  form.elements.code.value = code;
  form.submit();
});

/* A page that moves with what a logger sends: a word from the server, and it looks again. */
let listens = null;

// A slider writes into its field, and what would gainsay it is emptied.
document.addEventListener("input", (event) => {
  const slider = event.target.closest("[data-slides]");
  if (!slider) return;
  document.getElementById(slider.dataset.slides).value = slider.value;
  document.getElementById(slider.dataset.empties).value = "";
});

function listen() {
  const live = document.querySelector("[data-live]");
  const address = live ? live.dataset.live : "";
  if ((listens?.address || "") === address) return;
  listens?.source.close();
  listens = null;
  if (!live) return;
  listens = { address, source: new EventSource(address), came: null };
  listens.source.addEventListener("message", (event) => {
    const { came } = JSON.parse(event.data);
    const first = listens.came === null;
    if (came === listens.came) return;
    listens.came = came;
    if (!first) htmx.trigger(document.querySelector("[data-live]"), "live-came");
  });
}

document.addEventListener("DOMContentLoaded", listen);
document.addEventListener("htmx:after:swap", listen);
addEventListener("pagehide", () => listens?.source.close());
