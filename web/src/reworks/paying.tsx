import { type ReworkSheet, reworkRoutes } from "@yosegi/contract";
import { decimal, doesItPay, ZERO } from "@yosegi/core";
import { useState } from "react";
import { useCommand } from "../api/index.ts";
import { AmountField, CostBar, Notice, Row, Section, Short, Sub, useFormat } from "../ui/index.ts";

/** The price typed as a number; null while it is none. */
const priced = (text: string) => (/^\d{1,9}(\.\d{1,4})?$/.test(text) ? text : null);

/** Whether a rework pays, as one types what its units are to be sold for. */
export function Paying({ one }: { one: ReworkSheet }) {
  const format = useFormat();
  const [price, setPrice] = useState(one.price ?? "");
  const keep = useCommand(reworkRoutes.priceRework, () => undefined);
  const typed = priced(price);
  const isOpen = one.state !== "done" && !one.undone;
  // It is kept once the person leaves the field; what is no number is refused there.
  const leave = () => {
    const same =
      typed === null || one.price === null ? price === (one.price ?? "") : decimal(typed).eq(one.price);
    // Back at what is kept, nothing is wrong with it any longer.
    if (same) keep.clear();
    if (!isOpen || same) return;
    void keep.run({
      params: { id: one.id },
      body: { price: price === "" ? null : price },
    });
  };
  const money = {
    valueIn: decimal(one.valueIn),
    soFar: decimal(one.soFar),
    toCome: decimal(one.toCome),
  };
  const paying = doesItPay({ ...money, price: typed === null ? ZERO : decimal(typed) });
  return (
    <Section title="Does it pay">
      <CostBar
        of={`Cost ${format.money(paying.cost.toFixed(4))}`}
        cost={{ "value in": one.valueIn, "cost so far": one.soFar, "still to come": one.toCome }}
      />
      <Row style={{ marginTop: 10 }}>
        <AmountField
          label={one.units.length > 1 ? "Price of all units" : "Price"}
          value={price}
          onChange={setPrice}
          width="170px"
          unit={format.settings.currency}
          isDisabled={!isOpen}
          error={keep.errors.price}
          onBlur={leave}
          onKeyDown={(event) => event.key === "Enter" && leave()}
        />
        {typed !== null && (
          <Sub as="div" role="status" style={{ alignSelf: "end" }}>
            {paying.margin.lt(0) ? (
              <Short>It loses {format.money(paying.margin.abs().toFixed(4))}.</Short>
            ) : (
              <>
                Margin {format.money(paying.margin.toFixed(4))}
                {paying.percent && `, ${format.quantity(paying.percent.toFixed())} %`}.
              </>
            )}{" "}
            Worth spending from now on: up to {format.money(paying.worthSpending.toFixed(4))}.
          </Sub>
        )}
      </Row>
      {keep.refusal && !keep.errors.price && <Notice>{keep.refusal.message}</Notice>}
    </Section>
  );
}
