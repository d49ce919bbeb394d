import { useSyncExternalStore } from "react";
import { NARROW } from "./theme.ts";

const query = NARROW.replace("@media ", "");

function subscribe(listener: () => void): () => void {
  const media = matchMedia(query);
  media.addEventListener("change", listener);
  return () => media.removeEventListener("change", listener);
}

/** Whether the page is narrow, for what is not only laid out otherwise then but something else. */
export const useNarrow = (): boolean => useSyncExternalStore(subscribe, () => matchMedia(query).matches);
