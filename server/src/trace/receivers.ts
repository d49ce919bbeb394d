import type { TracePiece } from "@yosegi/core";
import { asJson, groupBy, type Reading, type Writing } from "../db/index.ts";
import { type Bytes, tableBytes } from "../http/index.ts";
import { addMessage } from "../outbox/index.ts";
import { trace } from "./trace.ts";

interface Receiver {
  name: string;
  address: string;
  contact: string;
  email: string;
  phone: string;
  orders: { id: number; number: string }[];
  shipments: string[];
  /** What each received of it, in words. */
  goods: string[];
}

/** All customers that received anything with a lot or serial number in it. */
export async function receivers(ctx: Reading, start: TracePiece): Promise<Receiver[]> {
  const { pieces, steps } = await trace(ctx, start, "forward");
  const shipped = steps.filter(({ end, firm }) => end === "with a customer" && firm !== null);
  const byFirm = groupBy(shipped, ({ firm }) => firm?.id ?? 0);
  const rows = await ctx.sql.all<{
    id: number;
    name: string;
    address: string;
    contact: string;
    email: string;
    phone: string;
  }>(
    "SELECT id, name, address, contact, email, phone FROM firm_head WHERE id IN (SELECT value FROM json_each($ids)) ORDER BY name",
    { ids: asJson(byFirm.keys()) },
  );
  return rows.map(({ id, ...firm }) => {
    const own = byFirm.get(id) ?? [];
    return {
      ...firm,
      orders: [...new Map(own.flatMap(({ order }) => (order ? [[order.id, order] as const] : []))).values()],
      shipments: [...new Set(own.flatMap(({ shipment }) => shipment?.number ?? []))],
      goods: own.map(({ from, quantity, day }) => {
        const piece = pieces[from];
        const code = piece?.serial || piece?.lot || "";
        return `${quantity} ${piece?.item.unit} ${piece?.item.code} ${code} on ${day}`.replace("  ", " ");
      }),
    };
  });
}

const COLUMNS = ["customer", "address", "contact", "email", "phone", "orders", "shipments", "received"].map(
  (name) => ({ name }),
);

/** The same as a spreadsheet. */
export async function receiversFile(ctx: Reading, start: TracePiece, format: "csv" | "xlsx"): Promise<Bytes> {
  const rows = (await receivers(ctx, start)).map((own) => [
    own.name,
    own.address,
    own.contact,
    own.email,
    own.phone,
    own.orders.map(({ number }) => number).join(", "),
    own.shipments.join(", "),
    own.goods.join("; "),
  ]);
  return tableBytes(`receivers-${start.serial || start.lot}`, COLUMNS, rows, format);
}

/** Puts a message to each of these customers into the outbox; gives how many. */
export async function messageReceivers(ctx: Writing, start: TracePiece): Promise<number> {
  const all = await receivers(ctx, start);
  const company = ctx.company?.name ?? "";
  const code = start.serial || start.lot;
  for (const { name, contact, email, goods, orders } of all)
    await addMessage(
      ctx,
      { document: code, ...(orders[0] && { order: orders[0].id }) },
      {
        to: email,
        subject: `About what you received from ${company}`,
        text: [
          `Dear ${contact || name},`,
          `you received from us:\n${goods.map((line) => `- ${line}`).join("\n")}`,
          `With kind regards,\n${ctx.person.name}\n${company}`,
        ].join("\n\n"),
        files: [],
      },
    );
  return all.length;
}
