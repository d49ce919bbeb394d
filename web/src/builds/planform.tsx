import { type BuildSheet, buildRoutes, PLAIN_BUILD } from "@yosegi/contract";
import { useWatch } from "react-hook-form";
import { fieldsOf } from "../fields/index.ts";
import { FormOf, useCommandForm, wholeNumber } from "../forms/index.ts";
import { useWorking } from "../people/index.ts";
import { Row, Stack, sayDone } from "../ui/index.ts";

type Firm = { id: number; name: string } | null;

/** How a build is planned, as it stands in the form; "" for nobody and nothing. */
interface PlanDraft {
  quantity: string;
  due: string;
  priority: string;
  list: string;
  options: { item: number; chosen: boolean }[];
  assigned: string;
  subcontractor: Firm;
  customer: Firm;
  store: string;
  bin: string;
  costTag: string;
  note: string;
}

const In = fieldsOf<PlanDraft>();

const PRIORITIES = Array.from({ length: 9 }, (_, i) => ({
  value: String(i + 1),
  label: i === 0 ? "1 (highest)" : String(i + 1),
}));

const draftOf = (build: BuildSheet): PlanDraft => ({
  quantity: build.wanted,
  due: build.due ?? "",
  priority: String(build.priority),
  list: build.list ? String(build.list.id) : "",
  options: build.options.map(({ item, chosen }) => ({ item, chosen })),
  assigned: build.assigned ? String(build.assigned.id) : "",
  subcontractor: build.subcontractor,
  customer: build.customer,
  store: build.store,
  bin: build.bin,
  costTag: build.costTag,
  note: build.note,
});

/** When a build is due, who does it, for whom and where to; of a draft also how many, and by which list. */
export function PlanForm({ build, onClose }: { build: BuildSheet; onClose: () => void }) {
  const begin = draftOf(build);
  const form = useCommandForm({
    route: buildRoutes.changeBuild,
    params: { id: build.id },
    begin,
    version: build.version,
    body: ({ options, ...plan }: PlanDraft) => ({
      ...PLAIN_BUILD,
      ...plan,
      due: plan.due === "" ? null : plan.due,
      priority: Number(plan.priority),
      list: wholeNumber(plan.list),
      // Another list has optional parts of its own.
      options: plan.list === begin.list ? options.filter((o) => o.chosen).map((o) => o.item) : [],
      assigned: wholeNumber(plan.assigned),
      subcontractor: plan.subcontractor?.id ?? null,
      customer: plan.customer?.id ?? null,
    }),
    done: () => {
      sayDone(`${build.number} is changed.`);
      onClose();
    },
  });
  return (
    <FormOf form={form} save="Save">
      <PlanFields build={build} />
    </FormOf>
  );
}

function PlanFields({ build }: { build: BuildSheet }) {
  const { people } = useWorking();
  const draft = build.stage === "draft";
  const { packs, unit } = build.product;
  return (
    <Stack>
      <Row>
        {draft && (
          <In.Quantity packs={packs} label="How many" name="quantity" width="150px" unit={unit} autoFocus />
        )}
        <In.Day label="Due on" name="due" />
        <In.Choice label="Priority" name="priority" width="110px" options={PRIORITIES} />
        {draft && !build.ownParts && build.lists.length > 1 && (
          <In.Choice
            label="Parts list"
            name="list"
            width="190px"
            options={build.lists.map((l) => ({ value: String(l.id), label: l.name }))}
          />
        )}
      </Row>
      {draft && !build.ownParts && <Options build={build} />}
      <Row>
        <In.Choice
          label="Assigned to"
          name="assigned"
          width="160px"
          none="Unassigned"
          options={people.map(({ id, name }) => ({ value: String(id), label: name }))}
        />
        <In.Firm
          label="Subcontractor"
          name="subcontractor"
          kind="supplier"
          width="210px"
          placeholder="In-house"
          isDisabled={build.stage === "on the bench"}
        />
        <In.Firm label="For the customer" name="customer" kind="customer" width="210px" placeholder="Stock" />
      </Row>
      <Row>
        <In.Store label="Put away in" name="store" width="160px" />
        <In.Text label="Bin" name="bin" width="100px" />
        <In.Text label="Cost tag" name="costTag" width="160px" />
      </Row>
      <In.Text label="Note" name="note" />
    </Stack>
  );
}

/** Optional parts of the list that the build has; another one has its own. */
function Options({ build }: { build: BuildSheet }) {
  const list = useWatch<PlanDraft, "list">({ name: "list" });
  if (list !== draftOf(build).list) return null;
  return build.options.map((option, i) => (
    <In.Tick key={option.item} name={`options.${i}.chosen`}>
      {`With ${option.name}`}
    </In.Tick>
  ));
}
