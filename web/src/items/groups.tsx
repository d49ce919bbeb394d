import { type Group, routes } from "@yosegi/contract";
import type { DrawnAt, Tracking } from "@yosegi/core";
import { Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { Unanswered, useCommand } from "../api/index.ts";
import { StoreField } from "../fields/index.ts";
import {
  Actions,
  AskButton,
  Button,
  Dialog,
  EditButton,
  Form,
  Notice,
  Row,
  Section,
  Select,
  SheetTable,
  Stack,
  Sub,
  sayDone,
  TextField,
} from "../ui/index.ts";
import { useGroups, useUnitList } from "./queries.ts";

const OPEN = "–";

/** Groups of items and the defaults they give to new ones. */
export function Groups() {
  const { data, error } = useGroups();
  const [open, setOpen] = useState<Group | "new" | null>(null);
  const remove = useCommand(routes.removeGroup, () => sayDone("The group is removed."));
  if (!data) return <Unanswered error={error} />;
  const close = () => setOpen(null);
  const given = (group: Group) =>
    [
      group.unit && `in ${group.unit}`,
      group.tracking && group.tracking !== "none" && `by ${group.tracking}`,
      group.drawnAt && `drawn at ${group.drawnAt}`,
      group.store && `in ${group.store}`,
    ].filter(Boolean);
  return (
    <Section
      title="Groups"
      more={
        <Button look="link" onPress={() => setOpen("new")}>
          <Plus /> New group
        </Button>
      }
    >
      {remove.refusal && <Notice>{remove.refusal.message}</Notice>}
      {data.groups.length === 0 ? (
        <Sub>None yet. A group filters lists and gives new items their unit, tracking and store.</Sub>
      ) : (
        <SheetTable
          label="Groups"
          rows={data.groups}
          rowId={(group) => group.id}
          columns={[
            { header: "Group", cell: (group) => <b>{group.name}</b> },
            { header: "New items are", cell: (group) => given(group).join(", ") || "–" },
            {
              header: "Items",
              end: true,
              cell: (group) => (
                <Link to={`/catalog?group=${encodeURIComponent(group.name)}`}>{group.items}</Link>
              ),
            },
            {
              header: "",
              end: true,
              cell: (group) => (
                <>
                  <EditButton label={`Change ${group.name}`} onPress={() => setOpen(group)} />
                  <AskButton
                    look="icon"
                    aria-label={`Remove ${group.name}`}
                    question={{
                      title: `Remove ${group.name}?`,
                      text: "A group that has items stays.",
                      yes: "Remove",
                    }}
                    onYes={() => void remove.run({ params: { id: group.id } })}
                  >
                    <Trash2 />
                  </AskButton>
                </>
              ),
            },
          ]}
        />
      )}
      <Dialog
        title={open === "new" ? "New group" : `Change ${open?.name ?? ""}`}
        isOpen={open !== null}
        onClose={close}
        width="620px"
      >
        {open !== null && <GroupForm group={open === "new" ? null : open} onDone={close} />}
      </Dialog>
    </Section>
  );
}

function GroupForm({ group, onDone }: { group: Group | null; onDone: () => void }) {
  const units = useUnitList().data?.units ?? [];
  const [name, setName] = useState(group?.name ?? "");
  const [unit, setUnit] = useState(group?.unit ?? OPEN);
  const [tracking, setTracking] = useState<Tracking | typeof OPEN>(group?.tracking ?? OPEN);
  const [drawnAt, setDrawnAt] = useState<DrawnAt | typeof OPEN>(group?.drawnAt ?? OPEN);
  const [store, setStore] = useState(group?.store || OPEN);
  const done = () => {
    sayDone(`${name} is saved.`);
    onDone();
  };
  const make = useCommand(routes.newGroup, done);
  const change = useCommand(routes.changeGroup, done);
  const body = {
    name,
    unit: unit === OPEN ? null : unit,
    tracking: tracking === OPEN ? null : tracking,
    drawnAt: drawnAt === OPEN ? null : drawnAt,
    store: store === OPEN ? "" : store,
  };
  const open = { value: OPEN, label: "No default" } as const;
  return (
    <Form
      refusal={group ? change.refusal : make.refusal}
      onSubmit={() => void (group ? change.run({ params: { id: group.id }, body }) : make.run({ body }))}
    >
      <Stack>
        <TextField label="Name" name="name" value={name} onChange={setName} autoFocus />
        <Row>
          <Select
            label="Unit"
            name="unit"
            width="170px"
            value={unit}
            options={[open, ...units.map((u) => ({ value: u.code, label: `${u.code} · ${u.name}` }))]}
            onChange={setUnit}
          />
          <Select
            label="Tracking"
            width="180px"
            value={tracking}
            options={[
              open,
              { value: "none", label: "None" },
              { value: "lot", label: "By lot" },
              { value: "serial", label: "By serial number" },
            ]}
            onChange={setTracking}
          />
        </Row>
        <Row>
          <Select
            label="Drawn"
            width="170px"
            value={drawnAt}
            options={[open, { value: "pick", label: "At pick" }, { value: "finish", label: "At finish" }]}
            onChange={setDrawnAt}
          />
          <StoreField
            label="Store"
            name="store"
            width="180px"
            value={store}
            first={open}
            onChange={setStore}
          />
        </Row>
      </Stack>
      <Actions>
        <Button look="main" type="submit" isPending={make.busy || change.busy}>
          Save
        </Button>
      </Actions>
    </Form>
  );
}
