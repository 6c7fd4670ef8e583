import { type RouteConfig, index, layout, route } from "@react-router/dev/routes";

export default [
  layout("features/account/house.tsx", [
    index("features/bench/bench.tsx"),
    route("machines/:machineId", "features/machines/machine.tsx"),
    route("jobs/:jobId", "features/jobs/sheet.tsx"),
    route("settings", "features/settings/settings.tsx"),
  ]),
  route("jobs/:jobId/news", "features/jobs/news.ts"),
  route("jobs/:jobId/photos/:photoId", "features/jobs/photo.ts"),
  route("news", "features/bench/news.ts"),
  route("sign-in", "features/account/sign-in.tsx"),
  route("sign-out", "features/account/sign-out.ts"),
  route("owner/:token", "features/handover/owner-page.tsx"),
  route("*", "features/account/not-found.tsx"),
] satisfies RouteConfig;
