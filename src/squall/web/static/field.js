/* The file for a phone: what each point should read in the light of now, judged at once; kept here, saved as a small file. */
"use strict";
const field = JSON.parse(document.getElementById("field-data").textContent);
const inWords = (text) => field.words[text] || text;
const HELD = `squall-field ${field.job} ${field.kit}`;
const held = (() => { try { return JSON.parse(localStorage.getItem(HELD)) || { typed: {}, visits: [] }; } catch { return { typed: {}, visits: [] }; } })();
const hold = () => { try { localStorage.setItem(HELD, JSON.stringify(held)); } catch { say2(inWords("not saved: this browser keeps nothing")); } };
const say2 = (text) => { document.getElementById("told").textContent = text; };
const numberOf = (text) => { const found = /-?\d+(?:[.,]\d+)?/.exec(text || ""); return found ? parseFloat(found[0].replace(",", ".")) : null; };

/* A lane's value at a light, straight between the two that are nearest; nothing outside or where one of them is unknown. */
function laneAt(lane, light) {
  const lights = field.lights;
  if (light < lights[0] || light > lights[lights.length - 1]) return null;
  let n = 0;
  while (n < lights.length - 2 && light > lights[n + 1]) n += 1;
  const a = lane[n], b = lane[n + 1];
  if (a === null || b === null) return null;
  return a + (b - a) * (light - lights[n]) / (lights[n + 1] - lights[n]);
}
/* Short-circuit amps rise with the light: the light is where their lane passes the amps that were read. */
function lightOf(amps) {
  const lane = field.points.find((one) => one.point === "short-amps")?.lanes[0];
  if (!lane || amps === null) return null;
  for (let n = 0; n + 1 < lane.length; n += 1) {
    if (lane[n] !== null && lane[n + 1] !== null && amps >= lane[n] && amps <= lane[n + 1]) {
      return field.lights[n] + (field.lights[n + 1] - field.lights[n]) * (amps - lane[n]) / (lane[n + 1] - lane[n]);
    }
  }
  return null;
}
const three = (value) => (value === null ? "\u2013" : String(Number(value.toPrecision(3))));

function show() {
  const light = lightOf(numberOf(held.typed["short-amps"]));
  document.getElementById("light").textContent = light === null ? inWords("type the short-circuit amps first") : `${Math.round(light)} W/m\u00b2`;
  for (const point of field.points) {
    const box = document.getElementById(`p-${point.point}`);
    const [value, low, high] = light === null ? [null, null, null] : point.lanes.map((lane) => laneAt(lane, light));
    box.querySelector(".should").textContent = `${three(value)} ${point.sign}${low !== null && high !== null && point.point !== "short-amps" ? ` (${three(low)} \u2013 ${three(high)})` : ""}`;
    const read = numberOf(held.typed[point.point]), judge = box.querySelector(".judge");
    const kind = read === null || low === null || high === null || point.point === "short-amps" ? "" : read < low ? "low" : read > high ? "high" : "good";
    judge.className = `judge ${kind}`;
    judge.textContent = kind ? inWords(kind) : "";
  }
  document.getElementById("kept").textContent = `${inWords("kept on this phone")}: ${held.visits.length}`;
}
document.addEventListener("input", (event) => {
  if (!event.target.dataset.point) return;
  held.typed[event.target.dataset.point] = event.target.value;
  hold();
  show();
});
document.getElementById("keep").addEventListener("click", () => {
  const typed = Object.fromEntries(Object.entries(held.typed).filter(([, text]) => text.trim()));
  if (!Object.keys(typed).length) { say2(inWords("nothing is typed yet")); return; }
  held.visits.push({ at: `${new Date().toISOString().slice(0, 19)}Z`, typed });
  held.typed = {};
  for (const box of document.querySelectorAll("[data-point]")) box.value = "";
  hold();
  show();
  say2(inWords("kept on this phone"));
});
document.getElementById("save").addEventListener("click", () => {
  if (!held.visits.length) { say2(inWords("nothing is kept yet")); return; }
  const file = { format: "squall-readings", version: 1, job: field.job, name: field.name, kit: field.kit, units: field.units, visits: held.visits };
  const link = document.createElement("a");
  link.href = URL.createObjectURL(new Blob([JSON.stringify(file, null, 1)], { type: "application/json" }));
  link.download = "readings.squall-readings.json";
  link.click();
});
let since = null, ticking = null;
const watchButton = document.getElementById("watch"), seconds = document.getElementById("seconds");
watchButton.addEventListener("click", () => {
  if (since === null) {
    since = performance.now();
    ticking = setInterval(() => { seconds.textContent = `${((performance.now() - since) / 1000).toFixed(1)} s`; }, 100);
    watchButton.textContent = inWords("Stop");
    return;
  }
  clearInterval(ticking);
  const took = (performance.now() - since) / 1000, size = numberOf(document.getElementById("bucket").value);
  since = null;
  watchButton.textContent = inWords("Start");
  seconds.textContent = `${took.toFixed(1)} s`;
  const box = document.querySelector('[data-point="outlet-flow"]');
  if (box && size > 0 && took > 0.5) {
    box.value = `${(size / took * 60).toFixed(2)} ${field.points.find((one) => one.point === "outlet-flow").sign}`;
    held.typed["outlet-flow"] = box.value;
    hold();
    show();
  }
});
for (const box of document.querySelectorAll("[data-point]")) box.value = held.typed[box.dataset.point] || "";
show();
