import { type BuildSheet, routes } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import { useState } from "react";
import { useNavigate } from "react-router";
import { useCommand } from "../api/index.ts";
import { ItemField, QuantityField } from "../fields/index.ts";
import {
  Actions,
  AmountField,
  Button,
  Checkbox,
  DateField,
  Form,
  Notice,
  Row,
  Select,
  Stack,
  Sub,
  sayDone,
  useFormat,
} from "../ui/index.ts";
import { useBuilds, useLinkableOrders } from "./queries.ts";

export interface StepProps {
  build: BuildSheet;
  onClose: () => void;
}

/** A draft like this build, by its list or by what it really used. */
export function CopyForm({ build, onClose }: StepProps) {
  const navigate = useNavigate();
  const [quantity, setQuantity] = useState(build.wanted);
  const [due, setDue] = useState("");
  const [actual, setActual] = useState(false);
  const copy = useCommand(routes.copyBuild, (made) => {
    sayDone(`${made.number} is a draft like ${build.number}.`);
    onClose();
    void navigate(`/builds/${made.id}`);
  });
  return (
    <Form
      refusal={copy.refusal}
      onSubmit={() =>
        void copy.run({ params: { id: build.id }, body: { quantity, due: due === "" ? null : due, actual } })
      }
    >
      <Row>
        <QuantityField
          autoFocus
          packs={build.product.packs}
          label="How many"
          name="quantity"
          width="150px"
          unit={build.product.unit}
          value={quantity}
          onChange={setQuantity}
        />
        <DateField label="Due on" name="due" value={due} onChange={setDue} />
      </Row>
      {build.lines.some((line) => line.used !== "0") && (
        <Checkbox isSelected={actual} onChange={setActual}>
          Plan what {build.number} really used, instead of the parts list
        </Checkbox>
      )}
      {copy.errors.actual && <Notice>{copy.errors.actual}</Notice>}
      <Actions>
        <Button look="main" type="submit" isPending={copy.busy}>
          Make the draft
        </Button>
      </Actions>
    </Form>
  );
}

/** Splits so many off into a build of their own. */
export function SplitForm({ build, onClose }: StepProps) {
  const navigate = useNavigate();
  const format = useFormat();
  const [quantity, setQuantity] = useState("");
  const split = useCommand(routes.splitBuild, (made) => {
    sayDone(`${made.number} has ${format.amount(made.quantity, build.product.unit)} of ${build.number}.`);
    onClose();
    void navigate(`/builds/${made.id}`);
  });
  return (
    <Form
      refusal={split.refusal}
      onSubmit={() => void split.run({ params: { id: build.id }, body: { quantity } })}
    >
      <Sub>
        {format.amount(build.open, build.product.unit)} of {build.number} are still to be made. The new build
        reserves what it needs by itself, also what is taken once per build; spare parts on the bench go
        along.
      </Sub>
      <QuantityField
        autoFocus
        packs={build.product.packs}
        label="Split off"
        name="quantity"
        width="150px"
        unit={build.product.unit}
        value={quantity}
        onChange={setQuantity}
      />
      <Actions>
        <Button look="main" type="submit" isPending={split.busy}>
          Split
        </Button>
      </Actions>
    </Form>
  );
}

/** Puts another draft of the same product into this one. */
export function JoinForm({ build, onClose }: StepProps) {
  const format = useFormat();
  const drafts = useBuilds({ stage: "draft", product: build.product.id }).data?.rows ?? [];
  const others = drafts.filter((other) => other.id !== build.id);
  const [other, setOther] = useState("");
  const join = useCommand(routes.joinBuilds, (joined) => {
    sayDone(`${build.number} makes ${format.amount(joined.quantity, build.product.unit)} now.`);
    onClose();
  });
  if (others.length === 0) return <p>There is no other draft of {build.product.code}.</p>;
  return (
    <Form
      refusal={join.refusal}
      onSubmit={() => void join.run({ params: { id: build.id }, body: { other: Number(other) } })}
    >
      <Select
        label="Draft to put into this one"
        name="other"
        width="320px"
        value={other}
        options={others.map((o) => ({
          value: String(o.id),
          label: `${o.number} · ${format.amount(o.quantity, build.product.unit)}${o.due ? ` · due ${format.day(o.due)}` : ""}`,
        }))}
        onChange={setOther}
      />
      <Actions>
        <Button look="main" type="submit" isPending={join.busy} isDisabled={other === ""}>
          Join
        </Button>
      </Actions>
    </Form>
  );
}

/** Lets the build work for an order that asks for its product. */
export function LinkForm({ build, onClose }: StepProps) {
  const format = useFormat();
  const { data } = useLinkableOrders(build.id);
  const [line, setLine] = useState("");
  const [quantity, setQuantity] = useState("");
  const link = useCommand(routes.linkOrder, () => {
    sayDone(`${build.number} is built for it.`);
    onClose();
  });
  if (!data) return null;
  if (data.lines.length === 0)
    return (
      <p>
        No {build.orders.length > 0 ? "other" : "open"} order asks for more {build.product.code} than is being
        built for it.
      </p>
    );
  const body = { line: Number(line), quantity: quantity === "" ? null : quantity };
  return (
    <Form refusal={link.refusal} onSubmit={() => void link.run({ params: { id: build.id }, body })}>
      <Row>
        <Select
          label="Order"
          name="line"
          width="400px"
          value={line}
          options={data.lines.map((l) => ({
            value: String(l.line),
            label: `${l.number} · ${l.customer.name} · ${format.amount(l.open, build.product.unit)}${l.due ? ` · due ${format.day(l.due)}` : ""}`,
          }))}
          onChange={setLine}
        />
        <QuantityField
          packs={build.product.packs}
          label="How many of it"
          name="quantity"
          width="150px"
          unit={build.product.unit}
          placeholder="all"
          value={quantity}
          onChange={setQuantity}
        />
      </Row>
      <Actions>
        <Button look="main" type="submit" isPending={link.busy} isDisabled={line === ""}>
          Link it
        </Button>
      </Actions>
    </Form>
  );
}

/** Orders the fee of the outside workshop: a purchase line for work, linked to the build. */
export function FeeForm({ build, onClose }: StepProps) {
  const [item, setItem] = useState<{ id: number; code: string; name: string; unit: string } | null>(null);
  const [quantity, setQuantity] = useState("1");
  const [price, setPrice] = useState("");
  const buy = useCommand(routes.buyNeeds, ({ purchases }) => {
    sayDone(`The fee is on ${purchases.map((p) => p.number).join(", ")}.`);
    onClose();
  });
  const [tried, setTried] = useState(false);
  const errorOf = (field: string) => buy.errors[`lines.0.${field}`];
  return (
    <Form
      refusal={buy.refusal}
      onSubmit={() => {
        setTried(true);
        if (item === null) return;
        void buy.run({
          body: {
            lines: [
              {
                item: item.id,
                supplier: build.subcontractor?.id ?? null,
                quantity,
                price: price === "" ? null : price,
                pricePer: "",
                expected: build.due,
                costTag: build.costTag,
                for: [{ build: build.id, product: null, quantity }],
              },
            ],
          },
        });
      }}
    >
      <Sub>
        A line on the purchase order to {build.subcontractor?.name}. It goes into the cost of {build.number},
        in a part finish by its share.
      </Sub>
      <Stack>
        <ItemField
          autoFocus
          label="Work"
          choosing="any"
          value={item}
          onChange={setItem}
          error={tried && item === null ? "Choose the work." : (errorOf("item") ?? errorOf("supplier"))}
        />
        <Row>
          <AmountField
            label="How many"
            width="120px"
            unit={item?.unit}
            value={quantity}
            onChange={setQuantity}
            error={errorOf("quantity")}
          />
          <AmountField
            label="Price of one"
            width="150px"
            placeholder="as they ask"
            value={price}
            onChange={setPrice}
            error={errorOf("price")}
          />
        </Row>
      </Stack>
      <Actions>
        <Button look="main" type="submit" isPending={buy.busy}>
          Put it on the order
        </Button>
      </Actions>
    </Form>
  );
}

/** Puts what lies on the bench back to the bins it came from. */
export function ReturnForm({ build, onClose }: StepProps) {
  const format = useFormat();
  const [day, setDay] = useState(format.settings.today);
  const returnToStock = useCommand(routes.returnToStock, () => {
    sayDone(`What lay on the bench for ${build.number} is back.`);
    onClose();
  });
  return (
    <Form
      refusal={returnToStock.refusal}
      onSubmit={() => void returnToStock.run({ params: { id: build.id }, body: { day } })}
    >
      <Sub>They go back to the bins they came from, at the value they had, and stay reserved.</Sub>
      <DateField label="Put back on" name="day" value={day} onChange={setDay} />
      <Actions>
        <Button look="main" type="submit" isPending={returnToStock.busy}>
          Put them back
        </Button>
      </Actions>
    </Form>
  );
}

/** Cancelling says what goes back before it is done. */
export function CancelForm({ build, onClose }: StepProps) {
  const cancel = useCommand(routes.cancelBuild, () => {
    sayDone(`${build.number} is cancelled.`);
    onClose();
  });
  const reserved = build.lines.filter((line) => decimal(line.open).gt(0)).length;
  const benched = build.lines.filter((line) => decimal(line.bench).gt(0)).length;
  return (
    <>
      {cancel.refusal && <Notice>{cancel.refusal.message}</Notice>}
      <p>
        {reserved === 0
          ? "Nothing is reserved for it."
          : `The ${reserved} parts reserved for it become free.`}
        {benched > 0 && ` The ${benched} parts handed out for it go back to their bins.`}
        {build.good !== "0" && " What was made and recorded stays."} A cancelled build cannot be taken up
        again.
      </p>
      <Actions>
        <Button
          look="main"
          isPending={cancel.busy}
          onPress={() => void cancel.run({ params: { id: build.id } })}
        >
          Cancel {build.number}
        </Button>
        <Button onPress={onClose}>Keep it</Button>
      </Actions>
    </>
  );
}
