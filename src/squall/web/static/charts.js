/* Charts: what each looks like, in the colours of the theme. `say` comes from squall.js. */
"use strict";

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
    return Object.assign(frame([say("none beats it"), say("beaten by one of them")]), {
      tooltip: { trigger: "item", renderMode: "richText", formatter: (item) => `${item.data[2]}\n${item.data[0]}: ${item.data[1]} ${say("short days in a hundred")}` },
      xAxis: axis(say("price"), { type: "value", scale: true }), yAxis: axis(say("short days in a hundred"), { type: "value", min: 0, nameGap: 36 }),
      series: [
        { name: say("none beats it"), type: "line", step: "end", data: c.front, symbol: "diamond", symbolSize: 11, lineStyle: { color: ink("--ink"), width: 1.6, type: "dashed" }, itemStyle: { color: ink("--sun"), borderColor: ink("--ink"), borderWidth: 1 } },
        { name: say("beaten by one of them"), type: "scatter", data: c.others, symbol: "circle", symbolSize: 6, itemStyle: { color: ink("--rule-strong") } },
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

