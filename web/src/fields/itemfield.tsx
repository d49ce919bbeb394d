import { type ItemBrief, type ItemRow, messageOf, routes } from "@yosegi/contract";
import { type Choosing, codeKey, reasonNotSelectable } from "@yosegi/core";
import { type Ref, use, useState } from "react";
import { call } from "../api/index.ts";
import {
  type FieldProps,
  type Format,
  ItemPicker,
  type PickerItem,
  sayFailed,
  useFormat,
  useFormWait,
} from "../ui/index.ts";
import { NewItemContext } from "./newitem.ts";
import { useItems } from "./queries.ts";

const OFFERED = 40;

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
  const label = value ? `${value.code} · ${value.name}` : pasted;
  // What is typed stands until it is left; then the field shows what was chosen.
  const [typed, setTyped] = useState<string | null>(null);
  const wait = useFormWait();
  const [unknown, setUnknown] = useState<string | undefined>(undefined);
  const [making, setMaking] = useState<string | null>(null);
  const text = typed ?? label;
  const search = typed === null || typed === label ? "" : typed;
  const { data } = useItems({ search, limit: OFFERED });
  const items = data?.items ?? [];

  const choose = (item: ItemRow) => {
    setTyped(null);
    setUnknown(undefined);
    onChange(item);
  };
  // Leaving the field with a code in it (a scan and Tab) takes that item, chosen from the list or not.
  const leave = async (): Promise<boolean | undefined> => {
    if (typed === null || typed === label) return undefined;
    if (typed.trim() === "") {
      setTyped(null);
      onChange(null);
      return undefined;
    }
    const answer = await call(routes.items, { query: { search: typed, limit: OFFERED } }).catch((e: Error) =>
      sayFailed(e.message),
    );
    if (!answer) return false;
    const exact = answer.items.find((item) => codeKey(item.code) === codeKey(typed));
    const found = exact ?? (answer.items.length === 1 ? answer.items[0] : undefined);
    const why = found ? reason(found, choosing, product) : `Nothing here is called “${typed.trim()}”.`;
    if (found && why === null) choose(found);
    else setUnknown(why ?? undefined);
    return found !== undefined && why === null;
  };
  return (
    <>
      <ItemPicker
        {...field}
        error={unknown ?? (pasted !== "" && !value ? `Nothing here is called “${pasted}”.` : error)}
        items={items.map((item) => offered(item, choosing, product, format))}
        text={text}
        onText={(next) => {
          if (next === text) return;
          setTyped(next);
          setUnknown(undefined);
        }}
        onChoose={(picked) => {
          const item = items.find((i) => i.id === picked.id);
          if (item) choose(item);
        }}
        onLeave={() => wait(leave())}
        onMake={(code) => setMaking(code)}
      />
      {NewItemDialog && (
        <NewItemDialog code={making} choosing={choosing} onClose={() => setMaking(null)} onMade={choose} />
      )}
    </>
  );
}

function reason(item: ItemRow, choosing: Choosing, product: number | undefined): string | null {
  const code = reasonNotSelectable(choosing, item, product ?? null);
  return code && messageOf(code, { code: item.code, kind: item.kind });
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
