import type { QueryClient } from "@tanstack/react-query";
import { changeEvent, type DataArea, dependsOn, peopleRoutes } from "@yosegi/contract";
import { connected, disconnected, lostSince, onConnection } from "./connection.ts";

/** Keys of commands that are under way: their answers say themselves what they changed. */
const underWay = new Set<string>();

/** Whether something of this page is being recorded just now. */
export const isRecording = (): boolean => underWay.size > 0;

/** Remembers a key until what it did is asked again. */
export async function whileUnderWay<T>(key: string, work: () => Promise<T>): Promise<T> {
  underWay.add(key);
  try {
    return await work();
  } finally {
    underWay.delete(key);
  }
}

/** Asks again what may have changed: what is in view at once, the rest when it is looked at. Null: anything may have. */
export function refresh(client: QueryClient, changed: readonly DataArea[] | null): Promise<void> {
  if (changed === null) return client.invalidateQueries();
  return client.invalidateQueries({ predicate: ({ queryKey: [area] }) => dependsOn(String(area), changed) });
}

/** A stream that was refused, such as by a proxy while the server starts, is opened again after so long. */
const REOPEN_MS = 2_000;

/**
 * Follows what others change, while the tab is looked at: a browser has only a few connections to a server. After a time
 * without, everything is asked again if something was missed. Gives how to stop.
 */
export function followChanges(client: QueryClient): () => void {
  let stream: EventSource | null = null;
  let seen: number | null = null;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const onMessage = ({ data }: MessageEvent<string>) => {
    const { count, areas, key } = changeEvent.parse(JSON.parse(data));
    const isChange = areas.length > 0;
    const missed = seen !== null && count !== (isChange ? seen + 1 : seen);
    seen = count;
    if (missed) void refresh(client, null);
    else if (isChange && !underWay.has(key)) void refresh(client, areas);
  };
  const open = () => {
    stream = new EventSource("/api/events");
    stream.onopen = connected;
    stream.onmessage = onMessage;
    stream.onerror = () => {
      disconnected();
      // A browser tries again by itself where the connection broke, but not where it was refused.
      if (stream?.readyState === EventSource.CLOSED) {
        close();
        timer = setTimeout(open, REOPEN_MS);
      }
    };
  };
  const close = () => {
    clearTimeout(timer);
    stream?.close();
    stream = null;
  };
  const onVisible = () => {
    if (document.visibilityState === "hidden") close();
    else if (stream === null) open();
  };
  document.addEventListener("visibilitychange", onVisible);
  onVisible();
  const stopReading = readAgainWhenBack(client);
  return () => {
    document.removeEventListener("visibilitychange", onVisible);
    close();
    stopReading();
  };
}

/** While the server can't be reached, something is asked so often: a stream that did not break never says that it is back. */
const ASK_EVERY_MS = 5_000;

/** Finds out when the server is back, and reads what could not be read. Gives how to stop. */
function readAgainWhenBack(client: QueryClient): () => void {
  let timer: ReturnType<typeof setInterval> | undefined;
  const ask = () => void client.refetchQueries({ queryKey: [peopleRoutes.company.area] });
  const stop = () => {
    clearInterval(timer);
    window.removeEventListener("online", ask);
  };
  const stopListening = onConnection(() => {
    stop();
    if (lostSince() !== null) {
      timer = setInterval(ask, ASK_EVERY_MS);
      window.addEventListener("online", ask);
    } else void client.invalidateQueries({ predicate: ({ state }) => state.status === "error" });
  });
  return () => {
    stop();
    stopListening();
  };
}
