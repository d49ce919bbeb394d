/** What a person may be told of. */
export const NOTICES = ["build queued", "parts complete", "order ready", "late"] as const;
export type NoticeKind = (typeof NOTICES)[number];

/** What documents are watched for. */
export type WatchedFact = "queued" | "waiting" | "ready" | "late";

export interface WatchedDocument {
  kind: "build" | "order" | "purchase";
  id: number;
  facts: readonly WatchedFact[];
}

export interface Notice extends Pick<WatchedDocument, "kind" | "id"> {
  what: NoticeKind;
}

const BECAME: Partial<Record<WatchedFact, NoticeKind>> = {
  queued: "build queued",
  ready: "order ready",
  late: "late",
};

/** One fact of one document, as it is remembered. */
export const factKey = ({ kind, id }: Pick<WatchedDocument, "kind" | "id">, fact: WatchedFact): string =>
  `${kind} ${id} ${fact}`;

/**
 * What is new since the last look: a build was queued, an order became ready, something became late; and a build that waited for
 * parts waits no longer. What is open no longer is nobody's news.
 */
export function newNotices(before: ReadonlySet<string>, now: readonly WatchedDocument[]): Notice[] {
  return now.flatMap((document) => {
    const { kind, id, facts } = document;
    const became = facts.flatMap((fact) => {
      const what = BECAME[fact];
      return what !== undefined && !before.has(factKey(document, fact)) ? [{ kind, id, what }] : [];
    });
    const waited = before.has(factKey(document, "waiting")) && !facts.includes("waiting");
    return waited ? [...became, { kind, id, what: "parts complete" as const }] : became;
  });
}
