import {
  type FinishBody,
  type NewBuild,
  PLAIN_BUILD,
  PLAIN_FINISH,
  PLAIN_LINE,
  PLAIN_ORDER_LINE,
  parseAmounts,
  routes,
} from "@yosegi/contract";
import { addDays, type Day, dayIn, decimal } from "@yosegi/core";
import {
  change,
  finishBuild,
  linkOrder,
  newBuild,
  newOrder,
  newPurchase,
  openStore,
  queueBuild,
  type Store,
  type Writing,
} from "@yosegi/server";

export const TIME_ZONE = "Europe/Vienna";
const MS_PER_MINUTE = 60_000;
/** The working day of the demo begins at this time (UTC), and something happens every few minutes. */
const MORNING = "07:00";
const BETWEEN = 7;

/** A line to be ordered; `expected` in days from today. */
type Ordered = [code: string, quantity: string, expected: number, more?: { pack?: string; costTag?: string }];

/** Does what the people of the demo company do, through the server's own use cases; days are counted from the day it is played. */
export class Player {
  /** Which day it is now, before today. */
  daysAgo = 0;
  /** Who orders, sells and plans. */
  owner = 0;
  /** Who finishes builds. */
  builder = 0;
  #steps = 0;
  readonly #today: Day;
  #store: Store | null = null;

  private constructor(started: Date) {
    // Counted from the company's own day: late in the evening, UTC is a day behind it.
    this.#today = dayIn(TIME_ZONE, started.toISOString());
  }

  /** Begins in a new database file. */
  static async open(file: string, started: Date): Promise<Player> {
    const player = new Player(started);
    player.#store = await openStore(file, () => player.#now());
    return player;
  }

  get store(): Store {
    if (this.#store === null) throw new Error("The demo's database is not open");
    return this.#store;
  }

  #now(): Date {
    const morning = Date.parse(`${addDays(this.#today, -this.daysAgo)}T${MORNING}:00Z`);
    return new Date(morning + this.#steps * BETWEEN * MS_PER_MINUTE);
  }

  /** The first step, before there is anybody. */
  first<T>(work: (ctx: Writing) => Promise<T>): Promise<T> {
    return change(this.store, null, work);
  }

  /** A step of one person, a few minutes after the one before. */
  as<T>(person: number, work: (ctx: Writing) => Promise<T>): Promise<T> {
    this.#steps++;
    return change(this.store, person, work);
  }

  make(code: string, quantity: string, due: number | null, more: Partial<NewBuild> = {}): Promise<number> {
    return this.as(this.owner, async (ctx) => {
      const product = await this.idOf(ctx, code);
      const body = {
        ...PLAIN_BUILD,
        product,
        quantity,
        due: due === null ? null : this.#day(ctx, due),
        ...more,
      };
      return newBuild(ctx, parseAmounts(routes.newBuild.body, body));
    });
  }

  async queue(build: number): Promise<void> {
    await this.as(this.owner, (ctx) => queueBuild(ctx, build));
  }

  /** Finishes units; `expires` in days from then. */
  async finish(
    build: number,
    { used = [], expires, ...rest }: Partial<FinishBody> & { used?: [number, string][]; expires?: number },
  ): Promise<void> {
    await this.as(this.builder, (ctx) => {
      const body: FinishBody = {
        ...PLAIN_FINISH,
        good: "0",
        day: ctx.today,
        store: "Front store",
        lines: used.map(([line, quantity]) => ({ ...PLAIN_LINE, line, used: quantity })),
        expiry: expires === undefined ? null : addDays(ctx.today, expires),
        ...rest,
      };
      return finishBuild(ctx, build, parseAmounts(routes.finishBuild.body, body));
    });
  }

  /** Writes a purchase order. */
  order(supplier: string, lines: Ordered[], note = ""): Promise<number> {
    return this.as(this.owner, async (ctx) =>
      newPurchase(ctx, {
        supplier: await this.idOf(ctx, supplier),
        note,
        lines: await Promise.all(
          lines.map(async ([code, quantity, expected, { pack = "", costTag = "" } = {}]) => ({
            id: null,
            item: await this.idOf(ctx, code),
            quantity: decimal(quantity),
            pack,
            price: null,
            pricePer: "",
            costTag,
            note: "",
            expected: this.#day(ctx, expected),
          })),
        ),
      }),
    );
  }

  /** Writes a customer's order. */
  sell(
    customer: string,
    due: number,
    lines: [code: string, quantity: string][],
    more: { reference?: string; note?: string; validUntil?: string } = {},
  ): Promise<number> {
    return this.as(this.owner, async (ctx) => {
      const { id } = await newOrder(ctx, {
        customer: await this.idOf(ctx, customer),
        due: this.#day(ctx, due),
        reference: "",
        address: "",
        terms: "",
        costTag: "",
        goOn: false,
        note: "",
        validUntil: null,
        texts: [],
        lines: await Promise.all(
          lines.map(async ([code, quantity]) => ({
            ...PLAIN_ORDER_LINE,
            item: await this.idOf(ctx, code),
            quantity: decimal(quantity),
            discount: decimal("0"),
          })),
        ),
        ...more,
      });
      return id;
    });
  }

  /** Lets a build work for the first line of an order, as far as both go. */
  async link(build: number, order: number): Promise<void> {
    await this.as(this.owner, async (ctx) => {
      const line = await ctx.sql.one<{ id: number }>(
        "SELECT id FROM sales_line WHERE order_id = $order ORDER BY line",
        { order },
      );
      if (!line) throw new Error(`Order ${order} has no line`);
      return linkOrder(ctx, build, { line: line.id, quantity: null });
    });
  }

  /** The id of an item or a firm. */
  async idOf(ctx: Writing, code: string): Promise<number> {
    const row = await ctx.sql.one<{ id: number }>(
      "SELECT id FROM item WHERE code = $code UNION ALL SELECT id FROM firm WHERE code = $code",
      { code },
    );
    if (!row) throw new Error(`The demo has no ${code}`);
    return row.id;
  }

  /** A day so many days after today, as it is said on the day of the step. */
  #day(ctx: Writing, days: number): Day {
    return addDays(ctx.today, days + this.daysAgo);
  }
}
