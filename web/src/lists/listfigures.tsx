import type { ItemSheet } from "@yosegi/contract";
import { use, useState } from "react";
import { useFormContext, useWatch } from "react-hook-form";
import { fieldsOf } from "../fields/index.ts";
import { AmountField, CostBar, Facts, Large, Row, Short, Spoken, useFormat } from "../ui/index.ts";
import { type DraftFigures, priceLeaving } from "./figures.ts";
import { FiguresContext } from "./figurescontext.ts";
import type { DraftList } from "./listdraft.ts";

export interface ListFiguresProps {
  item: ItemSheet;
}

const In = fieldsOf<DraftList>();

/** What the list costs as it is typed, beside price and margin, of which any can be typed; and how many it makes now. */
export function ListFigures({ item }: ListFiguresProps) {
  const { figures } = use(FiguresContext);
  return figures && <Known item={item} figures={figures} />;
}

function Known({ item, figures }: ListFiguresProps & { figures: DraftFigures }) {
  const format = useFormat();
  const { setValue } = useFormContext<DraftList>();
  const makes = useWatch<DraftList, "makes">({ name: "makes" });
  const { usual } = use(FiguresContext);
  const { cost, margin, makesNow, mixed } = figures;
  // A margin being typed stands as typed, until the price or the other of the two is.
  const [typed, setTyped] = useState<{ field: "money" | "percent"; text: string } | null>(null);
  const type = (field: "money" | "percent", text: string) => {
    setTyped({ field, text });
    const price = priceLeaving(cost.each, field, text, format.moneyDecimals);
    if (price !== null) setValue("price", price);
  };
  const shown = (field: "money" | "percent", value: string | undefined) =>
    typed?.field === field ? typed.text : (value ?? "");
  return (
    <>
      <Spoken
        text={`${format.unitCost(cost.each.toFixed(4))} per ${item.unit}. ${
          makesNow === null ? "No part limits it." : `${format.amount(makesNow, item.unit)} can be made now.`
        }`}
      />
      <Facts style={{ marginBottom: 6 }}>
        <div>
          <dt>Cost per {item.unit}</dt>
          <dd>
            <Large>{format.unitCost(cost.each.toFixed(4))}</Large>
          </dd>
        </div>
        <div>
          <dt>Makes now</dt>
          <dd>
            <Large>{makesNow === null ? "no limit" : format.amount(makesNow, item.unit)}</Large>
          </dd>
        </div>
        <div>
          <dt>Price and margin</dt>
          <dd>
            <Row>
              <In.Amount
                label="Price"
                hideLabel
                name="price"
                width="150px"
                unit={format.settings.currency}
                onChanged={() => setTyped(null)}
              />
              <AmountField
                label="Margin in money"
                hideLabel
                width="150px"
                unit={format.settings.currency}
                value={shown("money", margin?.money.toFixed(format.moneyDecimals))}
                onChange={(text) => type("money", text)}
                onBlur={() => setTyped(null)}
              />
              <AmountField
                label="Margin in percent"
                hideLabel
                width="110px"
                unit="%"
                value={shown("percent", margin?.percent?.toFixed(1))}
                onChange={(text) => type("percent", text)}
                onBlur={() => setTyped(null)}
              />
            </Row>
          </dd>
        </div>
      </Facts>
      {mixed && (
        <p>
          Parts measured in {item.unit} add up to <Short>{format.amount(mixed, item.unit)}</Short>, but one
          batch makes {format.amount(makes, item.unit)}.
        </p>
      )}
      <CostBar
        of={`${format.amount(usual, item.unit)}:`}
        cost={{
          materials: cost.materials.toFixed(4),
          work: cost.work.toFixed(4),
          overhead: figures.overhead,
        }}
      />
    </>
  );
}
