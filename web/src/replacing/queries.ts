import { useQuery } from "@tanstack/react-query";
import { type BodyOf, replacingRoutes } from "@yosegi/contract";
import { asking, following } from "../api/index.ts";

/** What a replacement would do to each list and kit, following while it is typed; asked once `ready`. */
export const useReplacement = (body: BodyOf<typeof replacingRoutes.previewReplacement>, ready: boolean) =>
  useQuery({ ...following(replacingRoutes.previewReplacement, { body }), enabled: ready, retry: false });

export const useReplacements = () => useQuery(asking(replacingRoutes.replacements, {}));
