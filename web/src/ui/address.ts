import { useEffect, useMemo, useSyncExternalStore } from "react";
import { useLocation, useNavigate } from "react-router";

export interface Address {
  /** What the address says of a name; "" where it says nothing. */
  get: (name: string) => string;
  /** Writes one name into the address, without a step for the Back key. */
  set: (name: string, value: string) => void;
  /** Writes several names at once. */
  setAll: (values: Record<string, string>) => void;
  clear: () => void;
  /** The address's part after the question mark. */
  text: string;
}

/** What was written into the address of a page and has not arrived there: the router takes a moment, a typist does not. */
let ahead: { path: string; text: string } | null = null;

const listeners = new Set<() => void>();

function setAhead(to: typeof ahead): void {
  ahead = to;
  for (const listener of listeners) listener();
}

function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/**
 * The address's part after the question mark, and how to change it without a step for the Back key. A change shows at once,
 * and begins with what was written last.
 */
export function useSearch(): [
  URLSearchParams,
  (change: (before: URLSearchParams) => URLSearchParams) => void,
] {
  const { pathname, search } = useLocation();
  const navigate = useNavigate();
  const written = useSyncExternalStore(subscribe, () => (ahead?.path === pathname ? ahead.text : null));
  const text = written ?? search.slice(1);
  useEffect(() => {
    if (ahead !== null && (ahead.path !== pathname || ahead.text === search.slice(1))) setAhead(null);
  }, [pathname, search]);
  const change = (to: (before: URLSearchParams) => URLSearchParams) => {
    // What the address says now, not when this was drawn: an answer that comes late loses nothing that was written since.
    const { location } = window;
    const there = location.pathname === pathname ? location.search : search;
    const before = ahead?.path === pathname ? ahead.text : there.slice(1);
    const mine = { path: pathname, text: to(new URLSearchParams(before)).toString() };
    setAhead(mine);
    // Where another page was gone to meanwhile, this address never arrives.
    void Promise.resolve(navigate({ search: mine.text }, { replace: true })).then(() =>
      setTimeout(() => ahead === mine && setAhead(null)),
    );
  };
  return [useMemo(() => new URLSearchParams(text), [text]), change];
}

/** What a page was asked for, kept in its address: so that a reload, a link and Back show the same. */
export function useAddress(): Address {
  const [address, change] = useSearch();
  const setAll = (values: Record<string, string>) =>
    change((next) => {
      for (const [name, value] of Object.entries(values))
        if (value === "") next.delete(name);
        else next.set(name, value);
      return next;
    });
  return {
    get: (name) => address.get(name) ?? "",
    set: (name, value) => setAll({ [name]: value }),
    setAll,
    clear: () => change(() => new URLSearchParams()),
    text: address.toString(),
  };
}
