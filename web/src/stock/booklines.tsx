import type { ReactNode } from "react";
import { useFormContext, useWatch } from "react-hook-form";
import styled from "styled-components";
import { fieldsOf, useItem } from "../fields/index.ts";
import { color, useFormat } from "../ui/index.ts";
import { type BookDraft, type BookItem, type Booking, fromKey, fromOf } from "./bookscan.ts";

const In = fieldsOf<BookDraft>();

/** The fields of one line: what, how much, from where, and where it goes. */
export function BookLineFields({ kind, at, nth }: { kind: Booking; at: `lines.${number}`; nth: number }) {
  const { setValue } = useFormContext<BookDraft>();
  const item = useWatch<BookDraft, `lines.${number}.item`>({ name: `${at}.item` });
  return (
    <Fields>
      <In.Item
        label={`Item ${nth}`}
        name={`${at}.item`}
        width="260px"
        choosing="stock"
        onChanged={() => setValue(`${at}.from`, "")}
      />
      {kind !== "receive" && <PlaceChoice label={`From ${nth}`} name={`${at}.from`} item={item} />}
      <In.Quantity
        label={`Quantity ${nth}`}
        name={`${at}.quantity`}
        width="130px"
        unit={item?.unit}
        packs={item?.packs ?? []}
      />
      {kind !== "scrap" && (
        <>
          <In.Store label={`To store ${nth}`} name={`${at}.store`} width="150px" />
          <In.Text label={`To bin ${nth}`} name={`${at}.bin`} width="100px" />
        </>
      )}
      {kind === "receive" && (
        <>
          {item?.tracking === "lot" && (
            <>
              <In.Text label={`Lot ${nth}`} name={`${at}.lot`} width="130px" />
              <In.Day label={`Use by ${nth}`} name={`${at}.expiry`} width="170px" />
            </>
          )}
          {item?.tracking === "serial" && (
            <In.Text label={`Serial number ${nth}`} name={`${at}.serial`} width="160px" />
          )}
          <In.Rate
            label={`Unit cost ${nth}`}
            name={`${at}.unitCost`}
            per={`${at}.costPer`}
            perLabel={`Per ${nth}`}
            width="110px"
            placeholder="standard"
            unit={item?.unit}
            packs={item?.packs ?? []}
          />
        </>
      )}
    </Fields>
  );
}

interface PlaceChoiceProps {
  label: string;
  /** Where the form holds the place; `fromOf` reads it. */
  name: string;
  item: Pick<BookItem, "id"> | null;
}

const Any = fieldsOf<Record<string, string>>();

/** Where stock is taken from: one of the places that have some of an item. */
export function PlaceChoice({ label, name, item }: PlaceChoiceProps): ReactNode {
  const format = useFormat();
  const from: string = useWatch({ name }) ?? "";
  const { data } = useItem(item?.id ?? 0);
  const spots = (item && data?.id === item.id ? data.stockByBin : []).filter(({ kind }) => kind === "store");
  const options = spots.map((spot) => ({
    value: fromKey(spot),
    label: `${[`${spot.store} ${spot.bin}`.trim(), spot.serial || spot.lot].filter(Boolean).join(" · ")}: ${format.amount(spot.quantity, data?.unit ?? "")}`,
  }));
  const isThere = from === "" || options.some(({ value }) => value === from);
  const typed = fromOf(from);
  const gone = {
    value: from,
    label: `${[`${typed.store} ${typed.bin}`.trim(), typed.serial || typed.lot].filter(Boolean).join(" · ")}: nothing there`,
  };
  return (
    <Any.Choice label={label} name={name} width="260px" options={isThere ? options : [...options, gone]} />
  );
}

const Fields = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  flex: 1;
  padding-bottom: 8px;
  border-bottom: 1px solid ${color.line};
`;
