import { type ItemBrief, type ItemRow, itemSheetRoutes, problemMessage } from "@yosegi/contract";
import { type Choosing, codeKey, reasonNotSelectable } from "@yosegi/core";
import { type Ref, use, useMemo, useState } from "react";
import { call } from "../api/index.ts";
import { type FieldProps, type Format, ItemPicker, type PickerItem, useFormat } from "../ui/index.ts";
import { NewItemContext } from "./newitem.ts";
import { OFFERED, useItems } from "./queries.ts";
import { useTypedChoice } from "./typedchoice.ts";

export interface ItemFieldProps extends FieldProps {
  name?: string;
  /** What was chosen; null while nothing is. */
  value: Pick<ItemBrief, "id" | "code" | "name"> | null;
  /** What stands here while nothing is chosen, such as a pasted code that is not known. */
  pasted?: string;
  onChange: (item: ItemRow | null) => void;
  choosing: Choosing;
  /** The product whose parts are chosen. */
  product?: number | undefined;
  inputRef?: Ref<HTMLInputElement> | undefined;
  autoFocus?: boolean;
}

/** A field that takes an item by code or name, scanned or typed. */
export function ItemField({
  value,
  pasted = "",
  onChange,
  choosing,
  product,
  error,
  ...field
}: ItemFieldProps) {
  const format = useFormat();
  const NewItemDialog = use(NewItemContext);
  // A field that is left with a code in it (a scan and Tab) takes that item, chosen from the list or not; so it does with the
  // beginning of one code only.
  const find = async (typed: string) => {
    const answer = await call(itemSheetRoutes.items, { query: { search: typed, limit: OFFERED } });
    const exact = answer.items.find((item) => codeKey(item.code) === codeKey(typed));
    const begin = answer.items.filter((item) => codeKey(item.code).startsWith(codeKey(typed)));
    const [only, ...others] = begin.length > 0 ? begin : answer.items;
    const found = exact ?? (others.length === 0 ? only : undefined);
    if (!found) return nothing(typed);
    return reason(found, choosing, product) ?? found;
  };
  const label = value ? `${value.code} · ${value.name}` : pasted;
  const choice = useTypedChoice<ItemRow>({ label, find, onChange });
  const [withArchived, setWithArchived] = useState(false);
  const { data } = useItems({
    search: choice.search,
    limit: OFFERED,
    ...(withArchived && { state: "all" as const }),
  });
  const items = data?.items ?? NONE;
  const offers = useMemo(
    () => items.map((item) => offered(item, choosing, product, format)),
    [items, choosing, product, format],
  );
  return (
    <>
      <ItemPicker
        {...field}
        {...choice.picker}
        error={choice.unknown ?? (pasted !== "" && !value ? nothing(pasted) : error)}
        items={offers}
        more={moreWords(data, items.length, format)}
        {...(data &&
          data.archived > 0 && {
            hidden: archivedWords(data.archived, format),
            onShowHidden: () => setWithArchived(true),
          })}
        onChoose={(picked) => {
          const item = items.find((i) => i.id === picked.id);
          if (item) choice.choose(item);
        }}
      />
      {NewItemDialog && (
        <NewItemDialog
          code={choice.making}
          choosing={choosing}
          onClose={choice.onMadeEnd}
          onMade={choice.choose}
        />
      )}
    </>
  );
}

const NONE: readonly ItemRow[] = [];

/** How many match beyond what is offered; "" where all are. */
const moreWords = (data: { total: number } | undefined, offered: number, format: Format): string =>
  data && data.total > offered
    ? `${format.amount(String(data.total - offered))} more match. Type more of the code or name.`
    : "";

const archivedWords = (archived: number, format: Format): string =>
  `${format.count(archived, "archived item matches", "archived items match")}. Show ${archived === 1 ? "it" : "them"}`;

const nothing = (typed: string) => `Nothing here is called “${typed.trim()}”.`;

function reason(item: ItemRow, choosing: Choosing, product: number | undefined): string | null {
  const code = reasonNotSelectable(choosing, item, product ?? null);
  return code && problemMessage(code, { code: item.code, kind: item.kind });
}

function offered(item: ItemRow, choosing: Choosing, product: number | undefined, format: Format): PickerItem {
  return {
    id: item.id,
    code: item.code,
    name: item.name,
    free:
      item.kind === "service" || item.notStockTracked ? "" : `${format.amount(item.free, item.unit)} free`,
    why: reason(item, choosing, product),
  };
}
