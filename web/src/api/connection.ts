import { useSyncExternalStore } from "react";

/** Since when the server has not answered, in milliseconds since 1970; null while it does. */
let lostAt: number | null = null;

const listeners = new Set<() => void>();

function set(to: number | null): void {
  if ((lostAt === null) === (to === null)) return;
  lostAt = to;
  for (const listener of listeners) listener();
}

/** An answer came, whatever it says. */
export const connected = (): void => set(null);

/** No answer came. */
export const disconnected = (): void => set(Date.now());

/** Since when the server has not answered; null while it does. */
export const lostSince = (): number | null => lostAt;

/** Calls `listener` when the connection is lost and when it is back; gives how to stop. */
export function onConnection(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** The same, for a page that shows it. */
export const useLostAt = (): number | null => useSyncExternalStore(onConnection, lostSince);
