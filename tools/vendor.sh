#!/usr/bin/env bash
# Brings the front-end files that ship with the application afresh, by package name and pinned
# version, and checks them against checksums.txt. Only needed to change a version.
set -euo pipefail
cd "$(dirname "$0")/.."
out=src/squall/web/static/vendor
box=$(mktemp -d)
trap 'rm -rf "$box"' EXIT
fetch() {
  (cd "$box" && tar xzf "$(npm pack --silent "$1")" && rm -rf "$2" && mv package "$2")
}
fetch htmx.org@4.0.1 htmx
fetch @alpinejs/csp@3.17.4 alpine
fetch bootstrap@5.3.9 bootstrap
fetch @fontsource-variable/atkinson-hyperlegible-next@5.3.0 font
cp "$box/htmx/dist/htmx.min.js" "$out/htmx.min.js"
cp "$box/alpine/dist/cdn.min.js" "$out/alpine-csp.min.js"
sed '/sourceMappingURL/d' "$box/bootstrap/dist/css/bootstrap.min.css" > "$out/bootstrap.min.css"
# Of the charts only what charts.js draws with, bound into one file: half of what the ready-made one weighs.
cat > "$box/charts.js" <<'JS'
import { getInstanceByDom, init, use } from "echarts/core";
import { BarChart, LineChart, ScatterChart } from "echarts/charts";
import { AriaComponent, GridComponent, LegendPlainComponent, TooltipComponent } from "echarts/components";
import { SVGRenderer } from "echarts/renderers";
use([AriaComponent, BarChart, GridComponent, LegendPlainComponent, LineChart, ScatterChart, SVGRenderer, TooltipComponent]);
export { getInstanceByDom, init };
JS
(cd "$box" && npm install --silent --no-save --no-package-lock echarts@6.1.0 esbuild@0.25.0 &&
  npx esbuild charts.js --bundle --minify --format=iife --global-name=echarts --target=es2020 --legal-comments=none \
    --banner:js="/* Bound from Apache ECharts 6.1.0 (Apache-2.0) with zrender and tslib; see licences. */" --outfile=bound.js)
cp "$box/bound.js" "$out/echarts.bound.min.js"
cp "$box/font/files/atkinson-hyperlegible-next-latin-wght-normal.woff2" "$out/"
(cd "$out" && sha256sum --check checksums.txt)
