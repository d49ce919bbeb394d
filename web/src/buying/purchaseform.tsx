import { buyingRoutes, type ItemRow, type PurchaseSheet } from "@yosegi/contract";
import { useFormContext, useWatch } from "react-hook-form";
import { fieldsOf, rateBody } from "../fields/index.ts";
import { FormDialog, sentLines } from "../forms/index.ts";
import { Stack, sayDone } from "../ui/index.ts";

/** A line as it is typed. */
interface LineDraft {
  id: number | null;
  item: Pick<ItemRow, "id" | "code" | "name" | "unit" | "packs"> | null;
  quantity: string;
  pack: string;
  price: string;
  pricePer: string;
  expected: string;
  costTag: string;
  note: string;
}

const BLANK: LineDraft = {
  id: null,
  item: null,
  quantity: "",
  pack: "",
  price: "",
  pricePer: "",
  expected: "",
  costTag: "",
  note: "",
};

const lineBody = ({ item, price, pricePer, expected, ...line }: LineDraft) => ({
  ...line,
  item: item?.id ?? 0,
  ...rateBody(price, pricePer),
  expected: expected === "" ? null : expected,
});

/** A purchase order as it stands in the form. */
interface PurchaseDraft {
  supplier: { id: number; name: string } | null;
  note: string;
  lines: LineDraft[];
}

const NEW: PurchaseDraft = { supplier: null, note: "", lines: [BLANK] };

const draftOf = (purchase: PurchaseSheet): PurchaseDraft => ({
  supplier: purchase.supplier,
  note: purchase.note,
  lines: purchase.orderLines.map(
    (line): LineDraft => ({
      id: line.id,
      item: line.item,
      quantity: line.quantity,
      pack: line.pack?.name ?? "",
      price: line.price,
      pricePer: line.pricePer,
      expected: line.expected ?? "",
      costTag: line.costTag,
      note: line.note,
    }),
  ),
});

/** Lines that are still empty are room to go on. */
const isFilled = (line: LineDraft): boolean => line.item !== null || line.quantity !== "";

interface PurchaseDialogProps {
  /** The draft that is changed; null for a new one. */
  purchase: PurchaseSheet | null;
  isOpen: boolean;
  onClose: () => void;
  onSaved?: (id: number) => void;
}

/** A purchase order made by hand, or a draft changed. */
export function PurchaseDialog({ purchase, isOpen, onClose, onSaved }: PurchaseDialogProps) {
  return (
    <FormDialog
      title={purchase ? `Change ${purchase.number}` : "New purchase order"}
      isOpen={isOpen}
      onClose={onClose}
      width="1040px"
      save={purchase ? "Save" : "Create draft"}
      route={purchase ? buyingRoutes.changePurchase : buyingRoutes.newPurchase}
      params={{ id: purchase?.id ?? 0 }}
      begin={purchase ? draftOf(purchase) : NEW}
      version={purchase?.version}
      keptAs={purchase ? `purchase ${purchase.id}` : "purchase"}
      fieldOf={sentLines("lines", isFilled)}
      body={({ supplier, note, lines }: PurchaseDraft) => ({
        supplier: supplier?.id ?? 0,
        note,
        lines: lines.filter(isFilled).map(lineBody),
      })}
      done={(saved) => {
        sayDone(`Purchase order ${saved.number} ${purchase ? "saved" : "created"}.`);
        onSaved?.(saved.id);
      }}
    >
      <Stack>
        {!purchase && <In.Firm label="Supplier" name="supplier" kind="supplier" width="300px" autoFocus />}
        <In.Lines name="lines" blank={BLANK} heads={HEADS} add="Add line">
          {(at, i) => <LineFields at={at} number={i + 1} />}
        </In.Lines>
        <In.Text label="Note to the supplier" name="note" />
      </Stack>
    </FormDialog>
  );
}

const In = fieldsOf<PurchaseDraft>();

const HEADS = [
  ["Item", "240px"],
  ["Quantity", "112px"],
  ["Order unit", "104px"],
  ["Price and what for", "202px"],
  ["Expected", "172px"],
  ["Cost tag", "90px"],
] as const;

function LineFields({ at, number }: { at: `lines.${number}`; number: number }) {
  const { setValue } = useFormContext<PurchaseDraft>();
  const item = useWatch<PurchaseDraft, `lines.${number}.item`>({ name: `${at}.item` });
  const packs = item?.packs ?? [];
  return (
    <>
      <In.Item
        label={`Item ${number}`}
        hideLabel
        name={`${at}.item`}
        width="240px"
        choosing="buying"
        onChanged={() => {
          setValue(`${at}.pack`, "");
          setValue(`${at}.price`, "");
          setValue(`${at}.pricePer`, "");
        }}
      />
      <In.Quantity
        label={`Quantity ${number}`}
        hideLabel
        name={`${at}.quantity`}
        width="112px"
        unit={item?.unit}
        packs={packs}
      />
      <In.Choice
        label={`Order unit ${number}`}
        hideLabel
        name={`${at}.pack`}
        width="104px"
        none={item?.unit ?? "units"}
        options={packs.map((p) => ({ value: p.name, label: p.name }))}
      />
      <In.Rate
        label={`Price ${number}`}
        hideLabel
        name={`${at}.price`}
        per={`${at}.pricePer`}
        perLabel={`Per, line ${number}`}
        width="106px"
        placeholder="supplier's price"
        unit={item?.unit}
        packs={packs}
      />
      <In.Day label={`Expected ${number}`} hideLabel name={`${at}.expected`} width="172px" />
      <In.Text label={`Cost tag ${number}`} hideLabel name={`${at}.costTag`} width="90px" />
    </>
  );
}
