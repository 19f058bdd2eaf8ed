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

/* Letters move between stages; they never act while someone types. */
document.addEventListener("keydown", (event) => {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  if (event.target.closest("input, select, textarea, dialog[open]")) return;
  if (event.key === "?") {
    document.getElementById("keys").showModal();
  } else if (event.key === "/") {
    const first = document.querySelector("#panel input:not([type=hidden]), .new-job input, main input:not([type=hidden])");
    if (first) { event.preventDefault(); first.focus(); if (first.select) first.select(); }
  } else if (event.key === "u") {
    const undo = document.getElementById("undo");
    if (undo && !undo.disabled) undo.click();
  } else if (event.key === "n") {
    const job = document.getElementById("job");
    const measure = document.querySelector("input.measure");
    if (measure) {
      event.preventDefault();
      if (measure.closest("details")) measure.closest("details").open = true;
      measure.focus();
    }
    else if (job && job.dataset.job) window.location.href = `/jobs/${job.dataset.job}/prove`;
  } else {
    const link = document.querySelector(`.tape a[data-key="${CSS.escape(event.key)}"]`);
    if (link) link.click();
  }
});

document.addEventListener("click", (event) => {
  if (event.target.closest("[data-print]")) window.print();
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

/* Charts. */
const ink = (name) => getComputedStyle(document.documentElement).getPropertyValue(name).trim();

function axis(name, more) {
  return Object.assign({
    name, nameLocation: "middle", nameGap: 34, nameTextStyle: { color: ink("--ink") },
    axisLabel: { color: ink("--ink") }, axisLine: { show: true, lineStyle: { color: ink("--rule-strong") } },
    splitLine: { lineStyle: { color: ink("--rule") } },
  }, more);
}

function frame(legend) {
  return {
    animation: false, textStyle: { fontFamily: "Atkinson Hyperlegible Next" },
    grid: { left: 58, right: 58, top: 34, bottom: 48 }, legend: { data: legend, top: 2, textStyle: { color: ink("--ink") } },
    tooltip: { trigger: "axis", renderMode: "richText" },
  };
}

const drawings = {
  curves(c) {
    const doubt = (data) => ({ name: say("its doubt"), type: "line", data, showSymbol: false, lineStyle: { color: ink("--ink-soft"), width: 1.2, type: "dotted" }, itemStyle: { color: ink("--ink-soft") } });
    return Object.assign(frame([c.name, say("its doubt"), say("this line asks"), say("works here")]), {
      xAxis: axis(c.x, { type: "value" }), yAxis: axis(c.y, { type: "value", nameGap: 40 }),
      series: [
        { name: c.name, type: "line", data: c.pump, showSymbol: false, lineStyle: { color: ink("--ink"), width: 2.5 }, itemStyle: { color: ink("--ink") } },
        doubt(c.low), doubt(c.high),
        { name: say("measured points"), type: "scatter", data: c.measured, symbol: "rect", symbolSize: 6, itemStyle: { color: ink("--ink") } },
        { name: say("this line asks"), type: "line", data: c.system, showSymbol: false, lineStyle: { color: ink("--rain"), width: 2.5, type: "dashed" }, itemStyle: { color: ink("--rain") } },
        { name: say("works here"), type: "scatter", data: c.point ? [c.point] : [], symbol: "diamond", symbolSize: 15, itemStyle: { color: ink("--sun"), borderColor: ink("--ink"), borderWidth: 1.5 } },
      ],
    });
  },
  grade(c) {
    return Object.assign(frame([say("hydraulic grade"), say("the run")]), {
      xAxis: axis(c.x, { type: "value" }), yAxis: axis(c.y, { type: "value", nameGap: 40 }),
      series: [
        { name: say("hydraulic grade"), type: "line", data: c.grade, symbolSize: 5, lineStyle: { color: ink("--moss"), width: 2, type: "dotted" }, itemStyle: { color: ink("--moss") } },
        { name: say("the run"), type: "line", data: c.run, symbol: "rect", symbolSize: 6, lineStyle: { color: ink("--rain"), width: 3 }, itemStyle: { color: ink("--rain") } },
      ],
    });
  },
  year(c) {
    const hatch = { symbol: "rect", rotation: 0.7, dashArrayX: [1, 0], dashArrayY: [2, 4], color: ink("--sheet") };
    return Object.assign(frame([say("average day"), say("clear day"), say("need")]), {
      xAxis: axis("", { type: "category", data: c.months }), yAxis: axis(c.y, { type: "value", nameGap: 44 }),
      series: [
        { name: say("average day"), type: "bar", data: c.average, itemStyle: { color: ink("--rain") } },
        { name: say("clear day"), type: "bar", data: c.clear, itemStyle: { color: ink("--sun"), decal: hatch } },
        { name: say("need"), type: "line", step: "middle", data: c.need, symbol: "none", lineStyle: { color: ink("--clay"), width: 2.5, type: "dashed" }, itemStyle: { color: ink("--clay") } },
      ],
    });
  },
  lights(c) {
    const line = (name, data, colour, type, yAxisIndex) => ({ name, type: "line", data, yAxisIndex, showSymbol: false, lineStyle: { color: ink(colour), width: 2, type }, itemStyle: { color: ink(colour) } });
    return Object.assign(frame([say("flow"), say("volts at the pump"), say("amps")]), {
      xAxis: axis(say("light, W/m²"), { type: "value", max: 1200 }),
      yAxis: [axis(c.y, { type: "value", nameGap: 40 }), axis(say("V, A"), { type: "value", nameGap: 36, splitLine: { show: false } })],
      series: [line(say("flow"), c.flow, "--rain", "solid", 0), line(say("volts at the pump"), c.volts, "--sun", "dashed", 1), line(say("amps"), c.amps, "--ink", "dotted", 1)],
    });
  },
  schools(c) {
    const hatch = { symbol: "rect", rotation: 0.7, dashArrayX: [1, 0], dashArrayY: [2, 4], color: ink("--sheet") };
    return Object.assign(frame([say("January"), say("July")]), {
      xAxis: axis(say("panel to pump"), { type: "category", data: c.names }), yAxis: axis(c.y, { type: "value", nameGap: 46 }),
      series: [
        { name: say("January"), type: "bar", data: c.january, itemStyle: { color: ink("--sun"), decal: hatch } },
        { name: say("July"), type: "bar", data: c.july, itemStyle: { color: ink("--rain") } },
      ],
    });
  },
  front(c) {
    return Object.assign(frame([say("on the front"), say("loses to one of them")]), {
      tooltip: { trigger: "item", renderMode: "richText", formatter: (item) => `${item.data[2]}\n${item.data[0]}: ${item.data[1]} ${say("short days in a hundred")}` },
      xAxis: axis(say("price"), { type: "value", scale: true }), yAxis: axis(say("short days in a hundred"), { type: "value", min: 0, nameGap: 36 }),
      series: [
        { name: say("on the front"), type: "line", step: "end", data: c.front, symbol: "diamond", symbolSize: 11, lineStyle: { color: ink("--ink"), width: 1.6, type: "dashed" }, itemStyle: { color: ink("--sun"), borderColor: ink("--ink"), borderWidth: 1 } },
        { name: say("loses to one of them"), type: "scatter", data: c.others, symbol: "circle", symbolSize: 6, itemStyle: { color: ink("--rule-strong") } },
      ],
    });
  },
  stores(c) {
    const lane = (name, data, colour, type) => ({ name, type: "line", data, showSymbol: false, lineStyle: { color: ink(colour), width: 2, type }, itemStyle: { color: ink(colour) } });
    const lanes = [];
    if (c.tank.length) lanes.push(lane(say("water in the tank"), c.tank, "--rain", "solid"));
    if (c.bank.length) lanes.push(lane(say("usable charge"), c.bank, "--sun", "dashed"));
    return Object.assign(frame(lanes.map((one) => one.name)), {
      xAxis: axis(say("day of the year"), { type: "category", data: c.days, axisLabel: { color: ink("--ink"), interval: 29 } }), yAxis: axis(say("% of full at the day's end"), { type: "value", nameGap: 40, min: 0, max: 100 }),
      series: lanes,
    });
  },
  groups(c) {
    const looks = [["--sun", "solid"], ["--rain", "dashed"], ["--ink", "dotted"]];
    return Object.assign(frame(c.names), {
      xAxis: axis(say("hour of the clock"), { type: "value", min: 4, max: 21, interval: 2 }), yAxis: axis(say("light, W/m²"), { type: "value", nameGap: 42 }),
      series: c.names.map((name, n) => ({ name, type: "line", data: c.lanes[n], showSymbol: false, lineStyle: { color: ink(looks[n][0]), width: 2.2, type: looks[n][1] }, itemStyle: { color: ink(looks[n][0]) } })),
    });
  },
  part(c) {
    const looks = [["--rain", "solid"], ["--sun", "dashed"], ["--ink", "dotted"]];
    return Object.assign(frame(c.names), {
      xAxis: axis(c.x, { type: "value", min: 0 }), yAxis: axis(c.y, { type: "value", nameGap: 40, min: 0 }),
      series: c.names.map((name, n) => ({ name, type: "line", data: c.lanes[n], showSymbol: c.names.length === 1, symbol: "rect", symbolSize: 6, lineStyle: { color: ink(looks[n][0]), width: 2.4, type: looks[n][1] }, itemStyle: { color: ink(looks[n][0]) } })),
    });
  },
  pond(c) {
    return Object.assign(frame([say("depth"), say("intake bare")]), {
      xAxis: axis("", { type: "category", data: c.days, axisLabel: { color: ink("--ink"), interval: 11 } }), yAxis: axis(c.y, { type: "value", nameGap: 40, min: 0 }),
      series: [
        { name: say("depth"), type: "line", data: c.depth, showSymbol: false, areaStyle: { color: ink("--rain-pale") }, lineStyle: { color: ink("--rain"), width: 2.5 }, itemStyle: { color: ink("--rain") } },
        { name: say("intake bare"), type: "line", data: c.depth.map(() => c.bare), showSymbol: false, lineStyle: { color: ink("--clay"), width: 2, type: "dashed" }, itemStyle: { color: ink("--clay") } },
      ],
    });
  },
  tanks(c) {
    return Object.assign(frame([say("water in the tanks"), say("full")]), {
      xAxis: axis(say("day of the year"), { type: "category", data: c.days, axisLabel: { color: ink("--ink"), interval: 29 } }), yAxis: axis(c.y, { type: "value", nameGap: 48, min: 0 }),
      series: [
        { name: say("water in the tanks"), type: "line", data: c.level, showSymbol: false, areaStyle: { color: ink("--rain-pale") }, lineStyle: { color: ink("--rain"), width: 2 }, itemStyle: { color: ink("--rain") } },
        { name: say("full"), type: "line", data: c.level.map(() => c.full), showSymbol: false, lineStyle: { color: ink("--ink"), width: 1.5, type: "dashed" }, itemStyle: { color: ink("--ink") } },
      ],
    });
  },
};

function drawCharts() {
  if (!window.echarts) return;
  for (const box of document.querySelectorAll("[data-chart]")) {
    const chart = JSON.parse(box.dataset.chart);
    const known = window.echarts.getInstanceByDom(box);
    const drawn = known || window.echarts.init(box, null, { renderer: "svg" });
    drawn.setOption(drawings[chart.type](chart), true);
  }
}
window.addEventListener("load", drawCharts);
window.addEventListener("resize", () => {
  if (!window.echarts) return;
  for (const box of document.querySelectorAll("[data-chart]")) {
    const drawn = window.echarts.getInstanceByDom(box);
    if (drawn) drawn.resize();
  }
});
document.addEventListener("htmx:after:swap", drawCharts);

/* What was kept leaves its form, so that the next entry starts empty: a form names what grows when it is kept. */
const grown = new Map();
const countGrown = (form) => document.querySelectorAll(form.dataset.clearsWith).length;
const eachEntry = (act) => { for (const form of document.querySelectorAll("form[data-clears-with]")) act(form, `${form.id} ${form.action}`); };
window.addEventListener("load", () => eachEntry((form, name) => grown.set(name, countGrown(form))));
document.addEventListener("htmx:after:swap", () => eachEntry((form, name) => {
  const now = countGrown(form);
  if (grown.has(name) && now > grown.get(name)) {
    for (const field of form.querySelectorAll("input[type=text], input:not([type])")) if (!("keeps" in field.dataset)) field.value = "";
  }
  grown.set(name, now);
}));

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
