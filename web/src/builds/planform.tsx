import { type BuildSheet, type NewBuild, PLAIN_BUILD, routes } from "@yosegi/contract";
import { useState } from "react";
import { useCommand } from "../api/index.ts";
import { FirmField, QuantityField, StoreField } from "../fields/index.ts";
import { useWorking } from "../people/index.ts";
import {
  Actions,
  Button,
  Checkbox,
  DateField,
  type Described,
  Form,
  Row,
  Select,
  Stack,
  Stale,
  sayDone,
  TextField,
} from "../ui/index.ts";

type Body = Omit<NewBuild, "product">;

const NOBODY = "none";

const PRIORITIES = Array.from({ length: 9 }, (_, i) => ({
  value: String(i + 1),
  label: i === 0 ? "1, first" : String(i + 1),
}));

/** How a build is planned, as its form begins. */
export function planOf(build: BuildSheet): Body {
  return {
    ...PLAIN_BUILD,
    quantity: build.wanted,
    due: build.due,
    note: build.note,
    priority: build.priority,
    list: build.list?.id ?? null,
    costTag: build.costTag,
    store: build.store,
    bin: build.bin,
    options: build.options.filter((o) => o.chosen).map((o) => o.item),
    assigned: build.assigned?.id ?? null,
    customer: build.customer?.id ?? null,
    subcontractor: build.subcontractor?.id ?? null,
  };
}

/** What is planned, to be held against what somebody else made of it. */
const describe = (plan: Body): Described => [
  ["How many", plan.quantity],
  ["Due", plan.due ?? ""],
  ["Priority", String(plan.priority)],
  ["Note", plan.note],
  ["Cost tag", plan.costTag],
  ["Goes to", [plan.store, plan.bin].filter(Boolean).join(" ")],
];

/** When a build is due, who does it, for whom and where to; of a draft also how many, and by which list. */
export function PlanForm({ build, onClose }: { build: BuildSheet; onClose: () => void }) {
  const [plan, setPlan] = useState(() => planOf(build));
  const [version, setVersion] = useState(build.version);
  const set = (to: Partial<Body>) => setPlan((before) => ({ ...before, ...to }));
  const change = useCommand(routes.changeBuild, () => {
    sayDone(`${build.number} is changed.`);
    onClose();
  });
  const draft = build.stage === "draft";
  return (
    <Form
      refusal={change.refusal}
      onSubmit={() => void change.run({ params: { id: build.id }, body: plan, version })}
    >
      <Stale
        command={change}
        mine={describe(plan)}
        theirs={describe(planOf(build))}
        onMine={() => {
          setVersion(build.version);
        }}
        onTheirs={() => {
          setPlan(planOf(build));
          setVersion(build.version);
        }}
      />
      <Stack>
        <Row>
          {draft && (
            <QuantityField
              packs={build.product.packs}
              label="How many"
              name="quantity"
              width="150px"
              unit={build.product.unit}
              value={plan.quantity}
              onChange={(quantity) => set({ quantity })}
              autoFocus
            />
          )}
          <DateField
            label="Due on"
            name="due"
            value={plan.due ?? ""}
            onChange={(due) => set({ due: due === "" ? null : due })}
          />
          <Select
            label="Priority"
            name="priority"
            width="110px"
            value={String(plan.priority)}
            options={PRIORITIES}
            onChange={(priority) => set({ priority: Number(priority) })}
          />
          {draft && build.lists.length > 1 && (
            <Select
              label="Built by"
              name="list"
              width="190px"
              value={plan.list === null ? "" : String(plan.list)}
              options={build.lists.map((l) => ({ value: String(l.id), label: l.name }))}
              onChange={(list) => set({ list: Number(list), options: [] })}
            />
          )}
        </Row>
        {draft &&
          plan.list === (build.list?.id ?? null) &&
          build.options.map((option) => (
            <Checkbox
              key={option.item}
              isSelected={plan.options.includes(option.item)}
              onChange={(on) =>
                set({
                  options: on
                    ? [...plan.options, option.item]
                    : plan.options.filter((item) => item !== option.item),
                })
              }
            >
              With {option.name}
            </Checkbox>
          ))}
        <PlannedFor build={build} plan={plan} set={set} />
        <Row>
          <StoreField
            label="Product goes to"
            name="store"
            width="160px"
            value={plan.store}
            onChange={(store) => set({ store })}
          />
          <TextField label="Bin" name="bin" width="100px" value={plan.bin} onChange={(bin) => set({ bin })} />
          <TextField
            label="Cost tag"
            name="costTag"
            width="160px"
            value={plan.costTag}
            onChange={(costTag) => set({ costTag })}
          />
        </Row>
        <TextField label="Note" name="note" value={plan.note} onChange={(note) => set({ note })} />
      </Stack>
      <Actions>
        <Button look="main" type="submit" isPending={change.busy}>
          Save
        </Button>
      </Actions>
    </Form>
  );
}

/** Who does it, at which workshop, and for which customer. */
function PlannedFor({
  build,
  plan,
  set,
}: {
  build: BuildSheet;
  plan: Body;
  set: (change: Partial<Body>) => void;
}) {
  const { people } = useWorking();
  const [customer, setCustomer] = useState(build.customer);
  const [workshop, setWorkshop] = useState(build.subcontractor);
  return (
    <Row>
      <Select
        label="Who does it"
        name="assigned"
        width="160px"
        value={plan.assigned === null ? NOBODY : String(plan.assigned)}
        options={named(people, "nobody yet")}
        onChange={(id) => set({ assigned: idOf(id) })}
      />
      <FirmField
        label="Outside workshop"
        name="subcontractor"
        kind="supplier"
        width="210px"
        placeholder="none: our own bench"
        value={plan.subcontractor === null ? null : workshop}
        onChange={(firm) => {
          setWorkshop(firm);
          set({ subcontractor: firm?.id ?? null });
        }}
        isDisabled={build.stage === "on the bench"}
      />
      <FirmField
        label="For the customer"
        name="customer"
        kind="customer"
        width="210px"
        placeholder="nobody: to stock"
        value={plan.customer === null ? null : customer}
        onChange={(firm) => {
          setCustomer(firm);
          set({ customer: firm?.id ?? null });
        }}
      />
    </Row>
  );
}

const named = (rows: readonly { id: number; name: string }[], nobody: string) => [
  { value: NOBODY, label: nobody },
  ...rows.map((row) => ({ value: String(row.id), label: row.name })),
];
const idOf = (value: string) => (value === NOBODY ? null : Number(value));
