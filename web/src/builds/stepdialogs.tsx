import { type BuildSheet, buildRoutes, buyingRoutes } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import { useWatch } from "react-hook-form";
import { useNavigate } from "react-router";
import { useCommand } from "../api/index.ts";
import { fieldsOf } from "../fields/index.ts";
import { FormOf, useCommandForm } from "../forms/index.ts";
import { Actions, Button, Notice, Row, Stack, Sub, sayDone, useFormat } from "../ui/index.ts";
import { useBuilds, useLinkableOrders } from "./queries.ts";

export interface StepProps {
  build: BuildSheet;
  onClose: () => void;
}

interface CopyDraft {
  quantity: string;
  due: string;
  actual: boolean;
}

const CopyIn = fieldsOf<CopyDraft>();

/** A draft like this build, by its list or by what it really used. */
export function CopyForm({ build, onClose }: StepProps) {
  const navigate = useNavigate();
  const form = useCommandForm({
    route: buildRoutes.copyBuild,
    params: { id: build.id },
    begin: { quantity: build.wanted, due: "", actual: false },
    body: ({ due, ...typed }: CopyDraft) => ({ ...typed, due: due === "" ? null : due }),
    done: (made) => {
      sayDone(`Draft ${made.number} created from ${build.number}.`);
      onClose();
      void navigate(`/builds/${made.id}`);
    },
  });
  const { packs, unit } = build.product;
  return (
    <FormOf form={form} save="Create draft">
      <Row>
        <CopyIn.Quantity autoFocus packs={packs} label="How many" name="quantity" width="150px" unit={unit} />
        <CopyIn.Day label="Due on" name="due" />
      </Row>
      {build.lines.some((line) => line.used !== "0") && (
        <CopyIn.Tick name="actual">{`Plan what ${build.number} really used, instead of the parts list`}</CopyIn.Tick>
      )}
    </FormOf>
  );
}

const SplitIn = fieldsOf<{ quantity: string }>();

/** Splits so many off into a build of their own. */
export function SplitForm({ build, onClose }: StepProps) {
  const navigate = useNavigate();
  const format = useFormat();
  const { packs, unit } = build.product;
  const form = useCommandForm({
    route: buildRoutes.splitBuild,
    params: { id: build.id },
    begin: { quantity: "" },
    body: (typed: { quantity: string }) => typed,
    done: (made) => {
      sayDone(`${format.amount(made.quantity, unit)} moved to ${made.number}.`);
      onClose();
      void navigate(`/builds/${made.id}`);
    },
  });
  return (
    <FormOf form={form} save="Split">
      <Sub>
        {format.amount(build.open, unit)} of {build.number} are still to be made. The new build reserves what
        it needs by itself, also what is taken once per build; spare parts on the bench go along.
      </Sub>
      <SplitIn.Quantity autoFocus packs={packs} label="Split off" name="quantity" width="150px" unit={unit} />
    </FormOf>
  );
}

const JoinIn = fieldsOf<{ other: string }>();

/** Puts another draft of the same product into this one. */
export function JoinForm({ build, onClose }: StepProps) {
  const format = useFormat();
  const drafts = useBuilds({ stage: "draft", product: build.product.id }).data?.rows ?? [];
  const others = drafts.filter((other) => other.id !== build.id);
  const form = useCommandForm({
    route: buildRoutes.joinBuilds,
    params: { id: build.id },
    begin: { other: "" },
    body: ({ other }: { other: string }) => ({ other: Number(other) }),
    done: (joined) => {
      sayDone(`${build.number} is now for ${format.amount(joined.quantity, build.product.unit)}.`);
      onClose();
    },
  });
  if (others.length === 0) return <p>There is no other draft of {build.product.code}.</p>;
  return (
    <FormOf form={form} save="Join">
      <JoinIn.Choice
        label="Draft to merge in"
        name="other"
        width="320px"
        options={others.map((o) => ({
          value: String(o.id),
          label: `${o.number} · ${format.amount(o.quantity, build.product.unit)}${o.due ? ` · due ${format.day(o.due)}` : ""}`,
        }))}
      />
    </FormOf>
  );
}

interface LinkDraft {
  line: string;
  quantity: string;
}

const LinkIn = fieldsOf<LinkDraft>();

/** Lets the build work for an order that asks for its product. */
export function LinkForm({ build, onClose }: StepProps) {
  const format = useFormat();
  const { data } = useLinkableOrders(build.id);
  const form = useCommandForm({
    route: buildRoutes.linkOrder,
    params: { id: build.id },
    begin: { line: "", quantity: "" },
    body: ({ line, quantity }: LinkDraft) => ({
      line: Number(line),
      quantity: quantity === "" ? null : quantity,
    }),
    done: () => {
      sayDone(`${build.number} linked.`);
      onClose();
    },
  });
  if (!data) return null;
  if (data.lines.length === 0)
    return (
      <p>
        No {build.orders.length > 0 ? "other" : "open"} order needs more {build.product.code}.
      </p>
    );
  return (
    <FormOf form={form} save="Link it">
      <Row>
        <LinkIn.Choice
          label="Order"
          name="line"
          width="400px"
          options={data.lines.map((l) => ({
            value: String(l.line),
            label: `${l.number} · ${l.customer.name} · ${format.amount(l.open, build.product.unit)}${l.due ? ` · due ${format.day(l.due)}` : ""}`,
          }))}
        />
        <LinkIn.Quantity
          packs={build.product.packs}
          label="Quantity"
          name="quantity"
          width="150px"
          unit={build.product.unit}
          placeholder="all"
        />
      </Row>
    </FormOf>
  );
}

interface FeeDraft {
  lines: {
    item: { id: number; code: string; name: string; unit: string } | null;
    quantity: string;
    price: string;
  }[];
}

const FeeIn = fieldsOf<FeeDraft>();

/** Orders the fee of the subcontractor: a purchase line for work, linked to the build. */
export function FeeForm({ build, onClose }: StepProps) {
  const form = useCommandForm({
    route: buyingRoutes.buyNeeds,
    begin: { lines: [{ item: null, quantity: "1", price: "" }] },
    body: ({ lines }: FeeDraft) => ({
      lines: lines.map(({ item, quantity, price }) => ({
        item: item?.id ?? 0,
        supplier: build.subcontractor?.id ?? null,
        quantity,
        price: price === "" ? null : price,
        pricePer: "",
        expected: build.due,
        costTag: build.costTag,
        for: [{ build: build.id, product: null, orderLine: null, quantity }],
      })),
    }),
    done: ({ purchases }) => {
      sayDone(`Subcontractor fee added to ${purchases.map((p) => p.number).join(", ")}.`);
      onClose();
    },
  });
  return (
    <FormOf form={form} save="Add to order">
      <Sub>
        A line on the purchase order to {build.subcontractor?.name}. It is added to the cost of {build.number}
        ; part finishes take their share.
      </Sub>
      <FeeFields />
    </FormOf>
  );
}

function FeeFields() {
  const item = useWatch<FeeDraft, "lines.0.item">({ name: "lines.0.item" });
  return (
    <Stack>
      <FeeIn.Item autoFocus label="Service" name="lines.0.item" choosing="any" />
      <Row>
        <FeeIn.Amount label="How many" name="lines.0.quantity" width="120px" unit={item?.unit} />
        <FeeIn.Amount label="Unit price" name="lines.0.price" width="150px" placeholder="supplier's price" />
      </Row>
    </Stack>
  );
}

const ReturnIn = fieldsOf<{ day: string }>();

/** Puts what lies on the bench back to the bins it came from. */
export function ReturnForm({ build, onClose }: StepProps) {
  const format = useFormat();
  const form = useCommandForm({
    route: buildRoutes.returnToStock,
    params: { id: build.id },
    begin: { day: format.settings.today },
    body: (typed: { day: string }) => typed,
    done: () => {
      sayDone(`Parts for ${build.number} are back in stock.`);
      onClose();
    },
  });
  return (
    <FormOf form={form} save="Return to stock">
      <Sub>They return to the bins they came from at the same value, and stay reserved.</Sub>
      <ReturnIn.Day label="Returned on" name="day" />
    </FormOf>
  );
}

/** Cancelling says what goes back before it is done. */
export function CancelForm({ build, onClose }: StepProps) {
  const cancel = useCommand(buildRoutes.cancelBuild, () => {
    sayDone(`${build.number} cancelled.`);
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
        {build.good !== "0" && " What was made and recorded stays."} You can't reopen a cancelled build.
      </p>
      <Actions>
        <Button
          look="main"
          isPending={cancel.busy}
          onPress={() => void cancel.run({ params: { id: build.id } })}
        >
          Cancel {build.number}
        </Button>
        <Button onPress={onClose}>Keep</Button>
      </Actions>
    </>
  );
}
