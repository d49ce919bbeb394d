import type { AnswerOf, ListedStep, QueryOf, ReworkRow, routes } from "@yosegi/contract";
import { type Day, quantityFromScaled, reworkState, type StepState } from "@yosegi/core";
import { asJson, findPage, type Reading } from "../db/index.ts";
import { briefs } from "../items/index.ts";

interface ListedRow {
  id: number;
  number: string;
  item: number;
  quantity: number;
  serials: string;
  customer: number | null;
  code: string | null;
  name: string | null;
  theirs: number;
  due: Day | null;
  assigned: number | null;
  assignee: string | null;
  reason: string;
  out_at: string | null;
  steps: string;
  undone_by: string | null;
  undone_at: string | null;
}

const COLUMNS = `r.id, r.number, r.item_id AS item, r.customer_id AS customer, f.code, f.name, r.theirs, r.due, r.assigned_id AS assigned,
  a.name AS assignee, r.reason, r.out_at, u.name AS undone_by, r.undone_at,
  (SELECT SUM(x.quantity) FROM rework_unit x WHERE x.rework_id = r.id) AS quantity,
  (SELECT json_group_array(x.serial) FROM rework_unit x WHERE x.rework_id = r.id AND x.serial <> '') AS serials,
  (SELECT json_group_array(s.state) FROM rework_step s WHERE s.rework_id = r.id) AS steps`;
const FROM = `rework r JOIN item_head i ON i.id = r.item_id LEFT JOIN firm_head f ON f.id = r.customer_id
  LEFT JOIN person_name a ON a.id = r.assigned_id LEFT JOIN person_name u ON u.id = r.undone_by`;

const OPEN = "r.out_at IS NULL AND r.undone_at IS NULL";
const STEPS = "SELECT 1 FROM rework_step s WHERE s.rework_id = r.id";
/** The same as `reworkState` of the core, to narrow a list by. */
const IN_STATE = {
  "": "1",
  open: OPEN,
  done: "r.out_at IS NOT NULL",
  "to finish": `${OPEN} AND EXISTS (${STEPS}) AND NOT EXISTS (${STEPS} AND s.state <> 'done')`,
  "under way": `${OPEN} AND EXISTS (${STEPS} AND s.state <> 'done') AND EXISTS (${STEPS} AND s.state <> 'waiting')`,
  waiting: `${OPEN} AND NOT EXISTS (${STEPS} AND s.state <> 'waiting')`,
} as const;

/** A page of reworks: what is open first, by its due day. */
export async function findReworks(
  ctx: Reading,
  query: QueryOf<typeof routes.reworks>,
): Promise<AnswerOf<typeof routes.reworks>> {
  const { ids, total, next } = await findPage(ctx.sql, query, {
    id: "r.id",
    text: `r.number || ' ' || i.code || ' ' || i.name || ' ' || r.reason || ' ' || COALESCE(f.name, '')
      || COALESCE((SELECT ' ' || group_concat(x.serial || ' ' || x.lot, ' ') FROM rework_unit x WHERE x.rework_id = r.id), '')`,
    from: `${FROM} WHERE ${IN_STATE[query.state]} AND ($person = 0 OR r.assigned_id = $person) AND ($late = '' OR (${OPEN} AND r.due < $today))
      ORDER BY NOT (${OPEN}), CASE WHEN ${OPEN} THEN COALESCE(r.due, '9999') ELSE '' END, CASE WHEN ${OPEN} THEN r.id ELSE -r.id END`,
    bind: { person: query.person, late: query.late, today: ctx.today },
  });
  return { reworks: await reworkRows(ctx, ids), total, next };
}

/** Reworks by their ids, in that order. */
export async function reworkRows(ctx: Reading, ids: readonly number[]): Promise<ReworkRow[]> {
  const rows = await ctx.sql.all<ListedRow>(
    `SELECT ${COLUMNS} FROM json_each($ids) ids JOIN ${FROM} WHERE r.id = ids.value ORDER BY ids.key`,
    { ids: asJson(ids) },
  );
  const brief = await briefs(
    ctx,
    rows.map(({ item }) => item),
  );
  return rows.map((row) => ({
    id: row.id,
    number: row.number,
    item: brief(row.item),
    quantity: quantityFromScaled(row.quantity).toFixed(),
    serials: JSON.parse(row.serials) as string[],
    customer: row.customer === null ? null : { id: row.customer, code: row.code ?? "", name: row.name ?? "" },
    isTheirs: row.theirs === 1,
    due: row.due,
    isLate: row.out_at === null && row.undone_at === null && row.due !== null && row.due < ctx.today,
    assigned: row.assigned === null ? null : { id: row.assigned, name: row.assignee ?? "" },
    reason: row.reason,
    state: reworkState(row.out_at !== null, JSON.parse(row.steps) as StepState[]),
    undone: row.undone_at === null ? null : { person: row.undone_by ?? "", moment: row.undone_at },
  }));
}

interface StepRow {
  id: number;
  what: string;
  person: number | null;
  person_name: string | null;
  supplier: number | null;
  code: string | null;
  name: string | null;
  due: Day | null;
  hour: string;
  state: StepState;
  rework: number;
  number: string;
  item: number;
}

const STEP_FROM = `rework_step s JOIN rework r ON r.id = s.rework_id JOIN item_head i ON i.id = r.item_id
  LEFT JOIN person_name a ON a.id = s.person_id LEFT JOIN firm_head f ON f.id = s.supplier_id`;

/** A page of the steps that are not done of all open reworks, by when they are due. */
export async function findSteps(
  ctx: Reading,
  query: QueryOf<typeof routes.reworkSteps>,
): Promise<AnswerOf<typeof routes.reworkSteps>> {
  const { ids, total, next } = await findPage(ctx.sql, query, {
    id: "s.id",
    text: "s.what || ' ' || r.number || ' ' || i.code || ' ' || i.name || ' ' || COALESCE(f.name, '') || ' ' || COALESCE(a.name, '')",
    from: `${STEP_FROM} WHERE ${OPEN} AND CASE WHEN $state = '' THEN s.state <> 'done' ELSE s.state = $state END
      AND ($person = 0 OR s.person_id = $person) ORDER BY s.due IS NULL, s.due, CASE WHEN s.hour = '' THEN '24' ELSE s.hour END, s.id`,
    bind: { state: query.state, person: query.person },
  });
  const rows = await ctx.sql.all<StepRow>(
    `SELECT s.id, s.what, s.person_id AS person, a.name AS person_name, s.supplier_id AS supplier, f.code, f.name, s.due, s.hour, s.state,
            r.id AS rework, r.number, r.item_id AS item
       FROM json_each($ids) ids JOIN ${STEP_FROM} WHERE s.id = ids.value ORDER BY ids.key`,
    { ids: asJson(ids) },
  );
  const brief = await briefs(
    ctx,
    rows.map(({ item }) => item),
  );
  const steps = rows.map(
    (row): ListedStep => ({
      id: row.id,
      what: row.what,
      person: row.person === null ? null : { id: row.person, name: row.person_name ?? "" },
      supplier:
        row.supplier === null ? null : { id: row.supplier, code: row.code ?? "", name: row.name ?? "" },
      due: row.due,
      hour: row.hour,
      state: row.state,
      isLate: row.state !== "done" && row.due !== null && row.due < ctx.today,
      rework: { id: row.rework, number: row.number },
      item: brief(row.item),
    }),
  );
  return { steps, total, next };
}
