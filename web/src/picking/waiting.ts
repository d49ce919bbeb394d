import { type QueryClient, useQueryClient } from "@tanstack/react-query";
import {
  type DataArea,
  type ErrorAnswer,
  type FetchBody,
  type PickRound,
  pickingRoutes,
} from "@yosegi/contract";
import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import { useEffect, useSyncExternalStore } from "react";
import { asking, command, NoAnswer, newKey, onConnection, Refused, refresh } from "../api/index.ts";

/** What was fetched, as it is kept on this device until the server has it. */
export interface KeptFetch {
  /** Its idempotency key: however often it is sent, it is recorded once. */
  key: string;
  round: number;
  person: number | null;
  /** When it was scanned. */
  at: string;
  body: FetchBody;
  /** Why the server refused it; null while it waits. */
  refused: ErrorAnswer | null;
}

interface Kept extends DBSchema {
  fetches: { key: string; value: KeptFetch };
}

let opened: Promise<IDBPDatabase<Kept>> | null = null;

const database = (): Promise<IDBPDatabase<Kept>> => {
  opened ??= openDB<Kept>("yosegi", 1, {
    upgrade(db) {
      db.createObjectStore("fetches", { keyPath: "key" });
    },
  });
  return opened;
};

let waiting: readonly KeptFetch[] = [];
const listeners = new Set<() => void>();

async function readAgain(): Promise<void> {
  const all = await (await database()).getAll("fetches");
  waiting = all.sort((a, b) => (a.at < b.at ? -1 : 1));
  for (const listener of listeners) listener();
}

const listen = (listener: () => void): (() => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

/** Whether two fetches are of the same line: where one was refused, those after it wait for it to be settled. */
const sameLine = (a: KeptFetch, b: KeptFetch): boolean =>
  a.round === b.round &&
  a.body.item === b.body.item &&
  a.body.bin === b.body.bin &&
  a.body.location === b.body.location;

type Recorded = (round: PickRound, changed: readonly DataArea[]) => void;

let sending: Promise<void> | null = null;

/** Sends what waits, in the order in which it was scanned; one that is refused holds back only its own line. */
function sendAll(recorded: Recorded): Promise<void> {
  sending ??= send(recorded).finally(() => {
    sending = null;
  });
  return sending;
}

async function send(recorded: Recorded): Promise<void> {
  const db = await database();
  for (;;) {
    const held = waiting.filter((one) => one.refused !== null);
    const next = waiting.find((one) => one.refused === null && !held.some((other) => sameLine(one, other)));
    if (!next) return;
    const { key, round, person, body } = next;
    try {
      const { answer, changed } = await command(
        pickingRoutes.fetchPick,
        { params: { id: round }, body },
        key,
        person,
      );
      await db.delete("fetches", key);
      recorded(answer, changed);
    } catch (error) {
      // It stays, and is sent when the server is back.
      if (error instanceof NoAnswer) return;
      if (!(error instanceof Refused)) throw error;
      await db.put("fetches", { ...next, refused: error.answer });
    }
    await readAgain();
  }
}

export interface Fetches {
  /** Those of the round that the server does not have yet, refused ones too. */
  waiting: readonly KeptFetch[];
  add: (body: FetchBody, person: number | null) => Promise<void>;
  /** Lets go of one that was refused. */
  drop: (key: string) => Promise<void>;
  /** Sends one that was refused again, as it was changed. */
  sendAgain: (key: string, body: FetchBody) => Promise<void>;
}

/** The fetches of a round that are stored on this device, and sent in order when the server can be reached. */
export function useFetches(round: number): Fetches {
  const client = useQueryClient();
  const all = useSyncExternalStore(listen, () => waiting);
  const go = () => sendAll(shownBy(client));
  useEffect(() => {
    const drain = () => void readAgain().then(() => sendAll(shownBy(client)));
    drain();
    const timer = setInterval(drain, AGAIN_MS);
    const stop = onConnection(drain);
    return () => {
      clearInterval(timer);
      stop();
    };
  }, [client]);
  return {
    waiting: all.filter((one) => one.round === round),
    add: async (body, person) => {
      const kept = { key: newKey(), round, person, at: new Date().toISOString(), body, refused: null };
      await (await database()).put("fetches", kept);
      await readAgain();
      await go();
    },
    drop: async (key) => {
      await (await database()).delete("fetches", key);
      await readAgain();
      await go();
    },
    sendAgain: async (key, body) => {
      const db = await database();
      const kept = await db.get("fetches", key);
      // What was refused was not recorded; as it is changed it is another command.
      if (kept) {
        await db.delete("fetches", key);
        await db.put("fetches", { ...kept, key: newKey(), body, refused: null });
      }
      await readAgain();
      await go();
    },
  };
}

/** The answer shows the round as it is now; everything else that changed is asked again. */
const shownBy =
  (client: QueryClient): Recorded =>
  (round, changed) => {
    client.setQueryData(asking(pickingRoutes.pickRound, { params: { id: round.id } }).queryKey, round);
    const others = changed.filter((area) => area !== "picking");
    void refresh(client, changed.length > 0 ? others : null);
  };

/** How often it is tried again while the server is away. */
const AGAIN_MS = 5000;
