import { index, route, type RouteConfig } from "@react-router/dev/routes";

export default [
  index("routes/shelf.tsx"),
  route("demo.hebel.json", "routes/demo-study.ts"),
  route("health", "routes/health.ts"),
  route("manual", "routes/manual.tsx"),
  route("study/:id", "routes/study.tsx", [
    index("routes/study-start.tsx"),
    route("data", "routes/data.tsx"),
    route("screening", "routes/screening.tsx"),
    route("measures", "routes/measures.tsx"),
    route("hypotheses", "routes/hypotheses.tsx"),
    route("plan", "routes/plan.tsx"),
    route("evidence", "routes/evidence.tsx"),
    route("probe", "routes/probe.tsx"),
    route("checks", "routes/checks.tsx"),
    route("compare", "routes/compare.tsx"),
    route("report", "routes/report.tsx"),
  ]),
  route("*", "routes/nothing-here.tsx"),
] satisfies RouteConfig;
