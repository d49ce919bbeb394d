import { type ItemRow, type PurchaseSheet, routes } from "@yosegi/contract";
import { useCommand } from "../api/index.ts";
import { FirmField, ItemField, QuantityField, RateField } from "../fields/index.ts";
import {
  Actions,
  AddLine,
  Button,
  DateField,
  type Described,
  FieldHeads,
  FieldLine,
  Form,
  type FormRefusal,
  KeptDraft,
  Notice,
  Select,
  Stack,
  Stale,
  sayDone,
  TextField,
  useDraft,
} from "../ui/index.ts";

/** A line as it is typed. */
interface LineDraft {
  key: number;
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

const blank = (key: number): LineDraft => ({
  key,
  id: null,
  item: null,
  quantity: "",
  pack: "",
  price: "",
  pricePer: "",
  expected: "",
  costTag: "",
  note: "",
});

const lineBody = ({ key: _, item, price, pricePer, expected, ...line }: LineDraft) => ({
  ...line,
  item: item?.id ?? 0,
  price: price === "" ? null : price,
  pricePer: price === "" ? "" : pricePer,
  expected: expected === "" ? null : expected,
});

/** Lines that are still empty are room to go on; they are not sent. */
const filled = (lines: readonly LineDraft[]) =>
  lines.filter((line) => line.item !== null || line.quantity !== "");

/** A purchase order as it stands in the form. */
interface PurchaseDraft {
  /** Of the order as it was when this began; null for a new one. */
  version: number | null;
  supplier: { id: number; name: string } | null;
  note: string;
  lines: readonly LineDraft[];
}

const NEW: PurchaseDraft = { version: null, supplier: null, note: "", lines: [blank(0)] };

const draftOf = (purchase: PurchaseSheet): PurchaseDraft => ({
  version: purchase.version,
  supplier: purchase.supplier,
  note: purchase.note,
  lines: purchase.orderLines.map(
    (line, key): LineDraft => ({
      key,
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

const bodyOf = ({ note, lines }: PurchaseDraft) => ({ note, lines: filled(lines).map(lineBody) });

/** What an order says, to be held against what somebody else made of it. */
const describe = ({ note, lines }: PurchaseDraft): Described => [
  ["Note to the supplier", note],
  ...filled(lines).map(({ item, quantity, price, expected }): [string, string] => [
    "Line",
    [quantity, item?.code, price && `at ${price}`, expected].filter(Boolean).join(" "),
  ]),
];

/** A purchase order made by hand. */
export function NewPurchase({ onMade }: { onMade: (id: number) => void }) {
  const { draft, change, keptAt, startAgain, forget } = useDraft("purchase", () => NEW);
  const make = useCommand(routes.newPurchase, (made) => {
    forget();
    sayDone(`${made.number} is made.`);
    onMade(made.id);
  });
  const body = { supplier: draft.supplier?.id ?? 0, ...bodyOf(draft) };
  return (
    <Form keeps refusal={make.refusal} onSubmit={() => void make.run({ body })}>
      <KeptDraft at={keptAt} onStartAgain={startAgain} />
      <Stack>
        <FirmField
          label="Supplier"
          name="supplier"
          kind="supplier"
          width="300px"
          value={draft.supplier}
          onChange={(supplier) => change((before) => ({ ...before, supplier }))}
          autoFocus
        />
        <Lines draft={draft} change={change} refusal={make.refusal} />
      </Stack>
      <Actions>
        <Button look="main" type="submit" isPending={make.busy}>
          Make the draft
        </Button>
      </Actions>
    </Form>
  );
}

/** A draft, changed. */
export function ChangePurchase({ purchase, onDone }: { purchase: PurchaseSheet; onDone: () => void }) {
  const { draft, change, keptAt, startAgain, forget } = useDraft(`purchase ${purchase.id}`, () =>
    draftOf(purchase),
  );
  const save = useCommand(routes.changePurchase, (changed) => {
    forget();
    sayDone(`${changed.number} is changed.`);
    onDone();
  });
  const run = () =>
    void save.run({ params: { id: purchase.id }, body: bodyOf(draft), version: draft.version });
  const keepMine = () => {
    change((before) => ({ ...before, version: purchase.version }));
  };
  return (
    <Form keeps refusal={save.refusal} onSubmit={run}>
      <KeptDraft at={keptAt} onStartAgain={startAgain} />
      <Stale
        command={save}
        mine={describe(draft)}
        theirs={describe(draftOf(purchase))}
        onMine={keepMine}
        onTheirs={startAgain}
      />
      <Stack>
        <Lines draft={draft} change={change} refusal={save.refusal} />
      </Stack>
      <Actions>
        <Button look="main" type="submit" isPending={save.busy}>
          Save
        </Button>
      </Actions>
    </Form>
  );
}

const IN_UNITS = "–";

interface LinesProps {
  draft: PurchaseDraft;
  change: (to: (before: PurchaseDraft) => PurchaseDraft) => void;
  refusal: FormRefusal | null;
}

/** The lines of an order, and the note below them. */
function Lines({ draft: { lines, note }, change, refusal }: LinesProps) {
  const changeLines = (to: (lines: readonly LineDraft[]) => readonly LineDraft[]) =>
    change((before) => ({ ...before, lines: to(before.lines) }));
  const set = (key: number, to: Partial<LineDraft>) =>
    changeLines((before) => before.map((line) => (line.key === key ? { ...line, ...to } : line)));
  const noLine = refusal?.fields.find((field) => field.field === "lines");
  return (
    <>
      <div>
        <FieldHeads
          gap="6px"
          heads={[
            ["Item", "240px"],
            ["Quantity", "112px"],
            ["Ordered in", "104px"],
            ["Price and what for", "202px"],
            ["Expected", "172px"],
            ["Cost tag", "90px"],
          ]}
        />
        {lines.map((line, i) => {
          const packs = line.item?.packs ?? [];
          return (
            <FieldLine
              key={line.key}
              remove={`Remove line ${i + 1}`}
              onRemove={() => changeLines((before) => before.filter((l) => l.key !== line.key))}
            >
              <ItemField
                label={`Item ${i + 1}`}
                hideLabel
                name={`lines.${i}.item`}
                width="240px"
                choosing="buying"
                value={line.item}
                onChange={(item) => set(line.key, { item, pack: "", price: "", pricePer: "" })}
              />
              <QuantityField
                label={`Quantity ${i + 1}`}
                hideLabel
                name={`lines.${i}.quantity`}
                width="112px"
                unit={line.item?.unit}
                packs={packs}
                value={line.quantity}
                onChange={(quantity) => set(line.key, { quantity })}
              />
              <Select
                label={`Ordered in ${i + 1}`}
                hideLabel
                name={`lines.${i}.pack`}
                width="104px"
                value={line.pack === "" ? IN_UNITS : line.pack}
                options={[
                  { value: IN_UNITS, label: line.item?.unit ?? "units" },
                  ...packs.map((p) => ({ value: p.name, label: p.name })),
                ]}
                onChange={(pack) => set(line.key, { pack: pack === IN_UNITS ? "" : pack })}
              />
              <RateField
                label={`Price ${i + 1}`}
                hideLabel
                name={`lines.${i}.price`}
                perLabel={`Per, line ${i + 1}`}
                width="106px"
                placeholder="as asked"
                unit={line.item?.unit}
                packs={packs}
                value={line.price}
                per={line.pricePer}
                onChange={(price, pricePer) => set(line.key, { price, pricePer })}
              />
              <DateField
                label={`Expected ${i + 1}`}
                hideLabel
                name={`lines.${i}.expected`}
                width="172px"
                value={line.expected}
                onChange={(expected) => set(line.key, { expected })}
              />
              <TextField
                label={`Cost tag ${i + 1}`}
                hideLabel
                name={`lines.${i}.costTag`}
                width="90px"
                value={line.costTag}
                onChange={(costTag) => set(line.key, { costTag })}
              />
            </FieldLine>
          );
        })}
        <AddLine onAdd={() => changeLines((before) => [...before, blank(nextKey(before))])}>
          Another line
        </AddLine>
        {noLine && <Notice>{noLine.message}</Notice>}
      </div>
      <TextField
        label="Note to the supplier"
        name="note"
        value={note}
        onChange={(text) => change((before) => ({ ...before, note: text }))}
      />
    </>
  );
}

const nextKey = (lines: readonly LineDraft[]): number => Math.max(-1, ...lines.map((line) => line.key)) + 1;
