import {
  type AnswerOf,
  type QueryOf,
  Refusal,
  type routes,
  type TakeApartRow,
  type TakeApartSheet,
} from "@yosegi/contract";
import { type Day, moneyFromScaled, quantityFromScaled } from "@yosegi/core";
import { asJson, findPage, type Reading } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { locationNames } from "../ledger/index.ts";
import { takeApartById } from "./service.ts";
import { TAKE_APART_PART } from "./tables.ts";

interface ListedRow {
  id: number;
  number: string;
  item: number;
  lot: string;
  serial: string;
  quantity: number;
  day: Day;
  person: string;
  moment: string;
  undone_by: string | null;
  undone_at: string | null;
}

const COLUMNS = `t.id, t.number, t.item_id AS item, t.lot, t.serial, t.quantity, t.day, n.name AS person, t.moment, u.name AS undone_by, t.undone_at`;
const FROM = `take_apart t JOIN item_head i ON i.id = t.item_id JOIN person_name n ON n.id = t.person_id LEFT JOIN person_name u ON u.id = t.undone_by`;

const rowOf = (row: ListedRow, brief: Awaited<ReturnType<typeof briefs>>): TakeApartRow => ({
  id: row.id,
  number: row.number,
  item: brief(row.item),
  lot: row.lot,
  serial: row.serial,
  quantity: quantityFromScaled(row.quantity).toFixed(),
  day: row.day,
  person: row.person,
  moment: row.moment,
  undone: row.undone_at === null ? null : { person: row.undone_by ?? "", moment: row.undone_at },
});

/** A page of take-aparts, the latest first. */
export async function findTakeAparts(
  ctx: Reading,
  query: QueryOf<typeof routes.takeAparts>,
): Promise<AnswerOf<typeof routes.takeAparts>> {
  const { ids, total, next } = await findPage(ctx.sql, query, {
    id: "t.id",
    text: "t.number || ' ' || i.code || ' ' || i.name || ' ' || t.lot || ' ' || t.serial",
    from: `${FROM} ORDER BY t.id DESC`,
  });
  const rows = await ctx.sql.all<ListedRow>(
    `SELECT ${COLUMNS} FROM json_each($ids) ids JOIN ${FROM} WHERE t.id = ids.value ORDER BY ids.key`,
    { ids: asJson(ids) },
  );
  const brief = await briefs(
    ctx,
    rows.map((row) => row.item),
  );
  return { takeAparts: rows.map((row) => rowOf(row, brief)), total, next };
}

/** One take-apart: what came out of it, and where the value landed. */
export async function takeApartSheet(ctx: Reading, id: number): Promise<TakeApartSheet> {
  const own = await takeApartById(ctx, id);
  const row = await ctx.sql.one<
    ListedRow & {
      build: string | null;
      returned: string | null;
      list: string | null;
      revision: number | null;
      costTag: string | null;
    }
  >(
    `SELECT ${COLUMNS}, b.number AS build, r.number AS returned, l.name AS list, v.number AS revision, o.cost_tag AS costTag FROM ${FROM}
       LEFT JOIN build_head b ON b.id = t.build_id LEFT JOIN return_head r ON r.id = t.return_id
       LEFT JOIN revision_head v ON v.id = t.revision_id LEFT JOIN list_head l ON l.id = v.list_id
       LEFT JOIN posting_head o ON o.id = t.posting_id WHERE t.id = $id`,
    { id },
  );
  if (!row) throw new Refusal("not-found", { what: "take-apart", id });
  const parts = (
    await ctx.model(TAKE_APART_PART).findAll({ where: { take_apart_id: id }, order: ["line"] })
  ).map((part) => part.get({ plain: true }));
  const brief = await briefs(ctx, [own.item_id, ...parts.map((part) => part.item_id)]);
  const names = await locationNames(ctx);
  const placeOf = (location: number | null, bin: string) =>
    location === null ? "" : `${names.get(location) ?? ""} ${bin}`.trim();
  const money = (value: number) => moneyFromScaled(value).toFixed(4);
  const quantity = (value: number) => quantityFromScaled(value).toFixed();
  return {
    ...rowOf(row, brief),
    from: placeOf(own.location_id, own.bin),
    build: own.build_id === null ? null : { id: own.build_id, number: row.build ?? "" },
    revision: row.revision === null ? null : { list: row.list ?? "", number: row.revision },
    costTag: row.costTag ?? "",
    return: own.return_id === null ? null : { id: own.return_id, number: row.returned ?? "" },
    reason: own.reason,
    valueOut: money(own.value_out),
    recovered: money(parts.reduce((total, part) => total + part.recovered, 0)),
    damaged: money(own.damaged),
    missing: money(own.missing),
    workPutIn: money(own.work_put_in),
    work: money(own.work),
    charged: money(own.charged),
    minutes: quantity(own.minutes),
    parts: parts.map((part) => ({
      line: part.line,
      item: brief(part.item_id),
      lot: part.lot,
      serial: part.serial,
      expected: quantity(part.expected),
      good: quantity(part.good),
      damaged: quantity(part.damaged),
      missing: quantity(part.missing),
      place: placeOf(part.location_id, part.bin),
      allotted: money(part.allotted),
      recovered: money(part.recovered),
    })),
  };
}
