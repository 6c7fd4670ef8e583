/** Dependencies only point down: app → server → db → core. Checked in every test run. */
module.exports = {
  forbidden: [
    {
      name: "core-alone",
      severity: "error",
      from: { path: "^core/" },
      to: { path: "^(app|server|db|scripts|e2e)/" },
    },
    {
      name: "core-pure",
      severity: "error",
      comment:
        "Mathematics, dates and memory from packages; nothing that knows a database, a machine, a screen or a clock.",
      from: { path: "^core/", pathNot: "\\.test\\.ts$" },
      to: {
        dependencyTypes: ["npm", "core"],
        pathNot: "node_modules/(@stdlib|d3|d3-[a-z]+|date-fns|@date-fns|lru-cache|@types)/",
      },
    },
    { name: "db-down", severity: "error", from: { path: "^db/" }, to: { path: "^(app|server)/" } },
    { name: "server-down", severity: "error", from: { path: "^server/" }, to: { path: "^app/" } },
    {
      name: "features-apart",
      severity: "error",
      from: { path: "^app/features/([^/]+)/", pathNot: "^app/features/api/" },
      to: { path: "^app/features/([^/]+)/", pathNot: "^app/features/$1/" },
    },
    {
      name: "api-takes-forms",
      severity: "error",
      comment:
        "What programs send is understood by the schemas of the forms: those it may know, and nothing else of a feature.",
      from: { path: "^app/features/api/" },
      to: { path: "^app/features/", pathNot: ["^app/features/api/", "schema\\.ts$"] },
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
      name: "views-and-commands-apart",
      severity: "error",
      comment: "What is shown and what is written know the job, not each other.",
      from: { path: "^server/jobs/(views|commands)/", pathNot: "\\.test\\.ts$" },
      to: { path: "^server/jobs/(views|commands)/", pathNot: "^server/jobs/$1/" },
    },
    {
      name: "rows-stay-below",
      severity: "error",
      comment: "A job is made from its rows in one place; only commands write rows.",
      from: { path: "^server/jobs/views/", pathNot: "\\.test\\.ts$" },
      to: { path: "^db/schema" },
    },
    {
      name: "no-circles",
      severity: "error",
      comment: "Types included: what needs each other to be understood is one file.",
      from: {},
      to: { circular: true },
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
