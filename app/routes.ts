import { type RouteConfig, index, layout, route } from "@react-router/dev/routes";

export default [
  layout("features/account/house.tsx", [
    index("features/bench/bench.tsx"),
    route("register", "features/machines/register.tsx"),
    route("labels", "features/machines/labels.tsx"),
    route("machines/new", "features/machines/new-machine.tsx"),
    route("machines/serial/:serial", "features/machines/by-serial.ts"),
    route("machines/:machineId", "features/machines/machine.tsx"),
    route("machines/:machineId/edit", "features/machines/edit-machine.tsx"),
    route("library", "features/library/library.tsx"),
    route("library/kinds/:kind", "features/library/kind.tsx"),
    route("library/models/new", "features/library/new-model.tsx"),
    route("library/models/:modelId", "features/library/model.tsx"),
    route("library/specs/new", "features/library/new-spec.tsx"),
    route("library/specs/:cardId", "features/library/spec.tsx"),
    route("jobs/:jobId", "features/jobs/sheet.tsx"),
    route("settings", "features/settings/settings.tsx"),
  ]),
  route("jobs/:jobId/photos/:photoId", "features/jobs/photo.ts"),
  route("news", "features/bench/news.ts"),
  route("alive", "features/account/alive.ts"),
  route("sign-in", "features/account/sign-in.tsx"),
  route("sign-out", "features/account/sign-out.ts"),
  route("owner/:token", "features/handover/owner-page.tsx"),
  route("*", "features/account/not-found.tsx"),
] satisfies RouteConfig;
