// The rules of docs/architecture.md that concern who may import whom. Each has a number there.
module.exports = {
  forbidden: [
    { name: "4-no-cycles", severity: "error", from: {}, to: { circular: true } },
    {
      name: "1-core-alone",
      comment: "core imports its decimal library and nothing else",
      severity: "error",
      from: { path: "^core/src", pathNot: "(\\.test|/testing/solver)\\.ts$" },
      to: { pathNot: "^(core/src|node_modules/(@types/)?big\\.js)" },
    },
    {
      name: "1-web-not-server",
      severity: "error",
      from: { path: "^web/src" },
      to: { path: "^(server|demo)/" },
    },
    {
      name: "contract-on-core",
      severity: "error",
      from: { path: "^contract/src" },
      to: { path: "^(server|web|demo)/" },
    },
    {
      name: "4-areas-by-index",
      comment: "areas of the server talk through their index.ts",
      severity: "error",
      from: { path: "^server/src/([^/]+)/", pathNot: "^server/src/db/views\\.ts$" },
      to: { path: "^server/src/([^/]+)/", pathNot: "^server/src/($1/|[^/]+/index\\.ts$|testing/)" },
    },
    {
      name: "views-know-nothing-of-the-server",
      comment: "the views of an area are text that the schema takes in before any area is there",
      severity: "error",
      from: { path: "^server/src/[^/]+/views\\.ts$", pathNot: "^server/src/db/" },
      to: { path: "^server/" },
    },
    {
      name: "4-core-areas-by-index",
      severity: "error",
      from: { path: "^core/src/([^/]+)/" },
      to: { path: "^core/src/([^/]+)/", pathNot: "^core/src/($1/|[^/]+/index\\.ts$|testing/)" },
    },
    {
      name: "4-pages-by-index",
      comment: "areas of the page talk through their index.ts; ui and app know no area",
      severity: "error",
      from: { path: "^web/src/([^/]+)/" },
      to: { path: "^web/src/([^/]+)/", pathNot: "^web/src/($1/|[^/]+/index\\.tsx?$)" },
    },
    {
      name: "routes-are-http-only",
      comment: "a route asks its service; it reads no table and figures nothing",
      severity: "error",
      from: { path: "^server/src/[^/]+/routes\\.ts$" },
      to: { path: "^server/src/(db/(sql|models|open)|ledger)" },
    },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ["exports"],
      conditionNames: ["import", "node", "default"],
      extensions: [".ts", ".tsx", ".js"],
    },
  },
};
