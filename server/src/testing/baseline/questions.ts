import { IMPORT_KINDS, routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";

/** What was answered to one question; of a PDF only that there is one, for it says when it was made. */
export interface Answered {
  status: number;
  body: unknown;
}

interface Question {
  method: "GET" | "POST";
  url: string;
  body?: object;
}

interface Ids {
  id: number;
}

/** Asks an app everything that its database has an answer to: every GET, and the questions that are asked with a body. */
export async function askAll(app: FastifyInstance): Promise<Record<string, Answered>> {
  const answers: Record<string, Answered> = {};
  const ask = async ({ method, url, body }: Question): Promise<unknown> => {
    // Lists that were sent whole come in pages now; a page of all is what compares with them.
    const whole = PAGED.test(url) ? `${url}${url.includes("?") ? "&" : "?"}limit=1000` : url;
    const response = await app.inject({ method, url: whole, ...(body && { payload: body }) });
    const type = String(response.headers["content-type"] ?? "");
    const json = type.startsWith("application/json");
    const content = json ? response.json() : type.startsWith("application/pdf") ? "PDF" : response.body;
    const { statusCode: status } = response;
    // The reference of an unexpected error is another one each time.
    const text = status === 500 ? "unexpected" : content;
    answers[body ? `${method} ${url} ${JSON.stringify(body)}` : `${method} ${url}`] = { status, body: text };
    return content;
  };
  const get = async <T>(url: string): Promise<T> => (await ask({ method: "GET", url })) as T;

  for (const url of PLAIN) await get(url);
  const { items } = await get<{ items: (Ids & { code: string; kind: string; hasList: boolean })[] }>(
    "/api/items?state=all&limit=1000",
  );
  for (const sort of ["name", "kind", "free", "onHand", "price"])
    await get(`/api/items?sort=${sort}&limit=50`);
  for (const { id, code, kind } of items) {
    await get(`/api/items/${id}`);
    await get(`/api/items/${id}/where-used`);
    await get(`/api/find?text=${encodeURIComponent(code)}`);
    const demands =
      kind === "built" || kind === "kit" ? [{ item: id, quantity: "10", day: "2026-12-10" }] : [];
    if (demands.length > 0) await ask({ method: "POST", url: routes.cover.path, body: { demands } });
    if (kind === "built") await askProduct(get, id);
    await ask({ method: "POST", url: routes.partTimeline.path, body: { demands, item: id } });
  }
  await ask({
    method: "POST",
    url: routes.cover.path,
    body: {
      demands: items
        .filter((i) => i.kind === "built" && i.hasList)
        .map((i) => ({ item: i.id, quantity: "12" })),
      store: "Front store",
    },
  });
  const open = await get<{ demands: object[] }>("/api/cover/open");
  if (open.demands.length > 0)
    await ask({ method: "POST", url: routes.cover.path, body: { demands: open.demands.slice(0, 200) } });
  const { builds } = await get<{ builds: (Ids & { stage: string })[] }>("/api/builds");
  for (const { id, stage } of builds) {
    for (const url of ["", "/orders", "/used-serials"]) await get(`/api/builds/${id}${url}`);
    if (stage !== "queued" && stage !== "on the bench") continue;
    const body = { good: "1", rejected: "0", lines: [], day: "2026-11-23", closeRest: false };
    await ask({ method: "POST", url: `/api/builds/${id}/finish-preview`, body });
  }
  await get(
    `/api/build-sheets?ids=${builds
      .slice(0, 3)
      .map((build) => build.id)
      .join(",")}`,
  );
  const { orders } = await get<{ orders: Ids[] }>("/api/orders");
  for (const { id } of orders) await get(`/api/orders/${id}`);
  const { purchases } = await get<{ purchases: Ids[] }>("/api/purchases");
  for (const { id } of purchases)
    for (const url of ["", "/paper?format=csv"]) await get(`/api/purchases/${id}${url}`);
  const { messages } = await get<{ messages: Ids[] }>("/api/outbox");
  for (const { id } of messages) await get(`/api/outbox/${id}`);
  for (const kind of ["supplier", "customer"]) {
    const { firms } = await get<{ firms: Ids[] }>(`/api/firms?kind=${kind}`);
    for (const { id } of firms) await get(`/api/firms/${id}`);
  }
  return answers;
}

const PAGED = /^\/api\/(builds|orders|purchases|outbox|firms|prices|reorder)(\?|$)/;

const PLAIN = [
  "company",
  "people",
  "units",
  "groups",
  "custom-fields",
  "stores",
  "prices?wish=40",
  "replacements",
  "waiting",
  "recurring",
  "labels",
  "checks",
  "reorder",
  "stock/movements?limit=1000",
  "find?text=B-12",
  "find?text=o-5",
  "find?text=P-3",
  "find?text=RC-2",
  "find?text=01-a",
  "find?text=hive",
  ...IMPORT_KINDS.map((kind) => `exports/${kind}`),
].map((path) => `/api/${path}`);

async function askProduct(get: <T>(url: string) => Promise<T>, id: number): Promise<void> {
  await get(`/api/cover/expected/${id}?quantity=7`);
  const { lists } = await get<{ lists: { revisions: Ids[] }[] }>(`/api/items/${id}/lists`);
  for (const { revisions } of lists) {
    for (const revision of revisions) await get(`/api/revisions/${revision.id}`);
    const [newest, before] = revisions;
    if (newest && before) await get(`/api/revisions/${newest.id}/compare?with=${before.id}`);
  }
}
