import { type ItemRow, type PurchaseSheet, routes } from "@yosegi/contract";
import { Plus } from "lucide-react";
import { useState } from "react";
import { useCommand } from "../api/index.ts";
import { ItemField, QuantityField, RateField, useFirms } from "../fields/index.ts";
import {
  Actions,
  Button,
  DateField,
  FieldHeads,
  FieldLine,
  Form,
  type FormRefusal,
  Select,
  Stack,
  sayDone,
  TextField,
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

/** A purchase order made by hand. */
export function NewPurchase({ onMade }: { onMade: (id: number) => void }) {
  const suppliers = useFirms("supplier").data?.firms ?? [];
  const [supplier, setSupplier] = useState("");
  const [note, setNote] = useState("");
  const [lines, setLines] = useState([blank(0)]);
  const make = useCommand(routes.newPurchase, (made) => {
    sayDone(`${made.number} is made.`);
    onMade(made.id);
  });
  const body = { supplier: Number(supplier), note, lines: filled(lines).map(lineBody) };
  return (
    <Form refusal={make.refusal} onSubmit={() => void make.run({ body })}>
      <Stack>
        <Select
          label="Supplier"
          name="supplier"
          width="300px"
          value={supplier}
          options={suppliers.filter((f) => !f.archived).map((f) => ({ value: String(f.id), label: f.name }))}
          onChange={setSupplier}
        />
        <Lines lines={lines} onChange={setLines} refusal={make.refusal} />
        <TextField label="Note to the supplier" name="note" value={note} onChange={setNote} />
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
  const [note, setNote] = useState(purchase.note);
  const [lines, setLines] = useState(() =>
    purchase.orderLines.map(
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
  );
  const change = useCommand(routes.changePurchase, (changed) => {
    sayDone(`${changed.number} is changed.`);
    onDone();
  });
  const body = { note, lines: filled(lines).map(lineBody) };
  return (
    <Form refusal={change.refusal} onSubmit={() => void change.run({ params: { id: purchase.id }, body })}>
      <Stack>
        <Lines lines={lines} onChange={setLines} refusal={change.refusal} />
        <TextField label="Note to the supplier" name="note" value={note} onChange={setNote} />
      </Stack>
      <Actions>
        <Button look="main" type="submit" isPending={change.busy}>
          Save
        </Button>
      </Actions>
    </Form>
  );
}

const IN_UNITS = "–";

interface LinesProps {
  lines: LineDraft[];
  onChange: (lines: LineDraft[]) => void;
  refusal: FormRefusal | null;
}

function Lines({ lines, onChange }: LinesProps) {
  const set = (at: number, to: Partial<LineDraft>) =>
    onChange(lines.map((l, i) => (i === at ? { ...l, ...to } : l)));
  const next = Math.max(-1, ...lines.map((line) => line.key)) + 1;
  return (
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
            onRemove={() => onChange(lines.filter((l) => l.key !== line.key))}
          >
            <ItemField
              label={`Item ${i + 1}`}
              hideLabel
              name={`lines.${i}.item`}
              width="240px"
              choosing="buying"
              value={line.item}
              onChange={(item) => set(i, { item, pack: "", price: "", pricePer: "" })}
            />
            <QuantityField
              label={`Quantity ${i + 1}`}
              hideLabel
              name={`lines.${i}.quantity`}
              width="112px"
              unit={line.item?.unit}
              packs={packs}
              value={line.quantity}
              onChange={(quantity) => set(i, { quantity })}
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
              onChange={(pack) => set(i, { pack: pack === IN_UNITS ? "" : pack })}
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
              onChange={(price, pricePer) => set(i, { price, pricePer })}
            />
            <DateField
              label={`Expected ${i + 1}`}
              hideLabel
              name={`lines.${i}.expected`}
              width="172px"
              value={line.expected}
              onChange={(expected) => set(i, { expected })}
            />
            <TextField
              label={`Cost tag ${i + 1}`}
              hideLabel
              name={`lines.${i}.costTag`}
              width="90px"
              value={line.costTag}
              onChange={(costTag) => set(i, { costTag })}
            />
          </FieldLine>
        );
      })}
      <Button look="link" onPress={() => onChange([...lines, blank(next)])}>
        <Plus /> Another line
      </Button>
    </div>
  );
}
