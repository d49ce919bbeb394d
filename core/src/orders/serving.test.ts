import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { decimal, sum, ZERO } from "../amounts/index.ts";
import { dealOut, serve, setsReady, takeState, unlinked } from "./serving.ts";

const d = decimal;
const texts = (values: readonly { toFixed: () => string }[]) => values.map((v) => v.toFixed());
const amount = fc.integer({ min: 0, max: 500 }).map((n) => d(n).div(10));

describe("what is there, dealt out to orders", () => {
  const ask = (open: string, made = "0") => ({ open: d(open), made: d(made) });
  it("goes in turn, to the first first", () => {
    expect(texts(dealOut(d(25), [ask("20"), ask("10"), ask("5")]))).toEqual(["20", "5", "0"]);
    expect(texts(dealOut(d(100), [ask("20"), ask("10")]))).toEqual(["20", "10"]);
    expect(texts(dealOut(d(-3), [ask("20")]))).toEqual(["0"]);
  });
  it("leaves a line what was made for it, whoever stands before it", () => {
    expect(texts(dealOut(d(20), [ask("20"), ask("12", "12")]))).toEqual(["8", "12"]);
    expect(texts(dealOut(d(6), [ask("20"), ask("12", "12")]))).toEqual(["0", "6"]);
  });
  it("never gives more than is there, nor more than is asked, and leaves nothing that somebody asks for", () => {
    const asks = fc.array(fc.record({ open: amount, made: amount }), { maxLength: 6 });
    fc.assert(
      fc.property(amount, asks, (there, list) => {
        const got = dealOut(there, list);
        const [given, asked] = [sum(got), sum(list.map((a) => a.open))];
        return (
          got.every((g, i) => g.gte(0) && g.lte(list[i]?.open ?? ZERO)) &&
          given.eq(there.lt(asked) ? there : asked)
        );
      }),
    );
  });
});

describe("a build that serves orders", () => {
  const open = { wanted: d(20), good: d(12), ended: false };
  it("gives each its share, what is made to the first first", () => {
    const served = serve(open, [d(8), d(10), d(5)]);
    expect(served.map(({ made, coming }) => `${made.toFixed()} ${coming.toFixed()}`)).toEqual([
      "8 0",
      "4 6",
      "0 2",
    ]);
  });
  it("gives no more than came out of it, once it has ended", () => {
    const served = serve({ ...open, ended: true }, [d(8), d(10)]);
    expect(served.map(({ made, coming }) => `${made.toFixed()} ${coming.toFixed()}`)).toEqual(["8 0", "4 0"]);
  });
  it("serves no more further units than it has left", () => {
    expect(unlinked(open, [d(8), d(5)]).toFixed()).toBe("7");
    expect(unlinked({ ...open, ended: true }, [d(8), d(5)]).toFixed()).toBe("0");
    expect(unlinked({ ...open, good: d(24) }, []).toFixed()).toBe("24");
  });
  it("never gives out more than there is of it", () => {
    const build = fc.record({ wanted: amount, good: amount, ended: fc.boolean() });
    fc.assert(
      fc.property(build, fc.array(amount, { maxLength: 5 }), (given, linked) => {
        const served = serve(given, linked);
        const most = given.ended || given.good.gt(given.wanted) ? given.good : given.wanted;
        return (
          sum(served.map((s) => s.made)).lte(given.good) &&
          sum(served.map((s) => s.made.plus(s.coming))).lte(most) &&
          served.every((s, i) => s.made.plus(s.coming).lte(linked[i] ?? ZERO))
        );
      }),
    );
  });
});

describe("how an order line stands", () => {
  it("is there, being built, or missing; together all that is open", () => {
    const state = takeState(d(40), d(15), d(20));
    expect([state.ready, state.coming, state.missing].map((v) => v.toFixed())).toEqual(["15", "20", "5"]);
    // More is being built than is missing: the rest of it is for stock.
    expect(takeState(d(40), d(35), d(20)).coming.toFixed()).toBe("5");
  });
  it("counts whole sets, the scarcest content first; work needs nothing", () => {
    const takes = [
      { per: d(6), ready: d(17) },
      { per: d(2), ready: d(30) },
    ];
    expect(setsReady(d(4), takes, 0).toFixed()).toBe("2");
    expect(setsReady(d("1.5"), [{ per: d(1), ready: d("1.234") }], 3).toFixed()).toBe("1.234");
    expect(setsReady(d(4), [], 0).toFixed()).toBe("4");
  });
});
