/** Dependencies only point down: app → server → db → core. Checked in every test run. */
module.exports = {
  forbidden: [
    {
      name: "core-alone",
      severity: "error",
      from: { path: "^core/" },
      to: { path: "^(app|server|db|instruments|scripts|e2e)/" },
    },
    {
      name: "core-pure",
      severity: "error",
      comment: "Mathematics from packages, nothing that knows a machine, a screen or a clock.",
      from: { path: "^core/", pathNot: "\\.test\\.ts$" },
      to: { dependencyTypes: ["npm", "core"], pathNot: "node_modules/(@stdlib|d3-(random|scale|array|shape)|@types)/" },
    },
    { name: "db-down", severity: "error", from: { path: "^db/" }, to: { path: "^(app|server)/" } },
    { name: "server-down", severity: "error", from: { path: "^server/" }, to: { path: "^app/" } },
    {
      name: "features-apart",
      severity: "error",
      from: { path: "^app/features/([^/]+)/" },
      to: { path: "^app/features/([^/]+)/", pathNot: "^app/features/$1/" },
    },
    { name: "ui-below-features", severity: "error", from: { path: "^app/ui/" }, to: { path: "^app/features/" } },
    {
      name: "server-stays-home",
      severity: "error",
      comment:
        "Parts of the interface may take types from the server, never code; routes load through *.server.ts or their loaders.",
      from: { path: "^app/ui/" },
      to: { path: "^(server|db)/", dependencyTypesNot: ["type-only"] },
    },
    {
      name: "no-circles",
      severity: "error",
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ["type-only"] } },
    },
    {
      name: "no-orphans",
      severity: "warn",
      from: { orphan: true, pathNot: "\\.(d\\.ts|test\\.ts)$|routes\\.ts|entry\\.|root\\.tsx|serve\\.mjs|app\\.ts$" },
      to: {},
    },
  ],
  options: {
    tsConfig: { fileName: "tsconfig.json" },
    tsPreCompilationDeps: "specify",
    doNotFollow: { path: "node_modules" },
    exclude: { path: "^(build|\\.react-router|node_modules/.*/node_modules)|\\+types" },
  },
};
