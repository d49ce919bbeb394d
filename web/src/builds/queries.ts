import { useQuery } from "@tanstack/react-query";
import { type BodyOf, routes } from "@yosegi/contract";
import { asking, following } from "../api/index.ts";

export const useBuilds = () => useQuery(asking(routes.builds, { query: {} }));
export const useBuild = (id: number) => useQuery(asking(routes.build, { params: { id } }));

/** What a finish would take and cost, following what is typed; asked only while the figures can be read. */
export const useFinishPreview = (id: number, body: BodyOf<typeof routes.previewFinish>) =>
  useQuery({
    ...following(routes.previewFinish, { params: { id }, body }),
    enabled: routes.previewFinish.body.safeParse(body).success,
    retry: false,
  });
