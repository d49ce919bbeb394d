import { type Group, itemRoutes } from "@yosegi/contract";
import type { DrawnAt, Tracking } from "@yosegi/core";
import { Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { Unanswered, useCommand } from "../api/index.ts";
import { fieldsOf } from "../fields/index.ts";
import { FormDialog } from "../forms/index.ts";
import {
  AskButton,
  Button,
  EditButton,
  Notice,
  Row,
  Section,
  SheetTable,
  Stack,
  Sub,
  sayDone,
} from "../ui/index.ts";
import { useGroups, useUnitList } from "./queries.ts";

/** Groups of items and the defaults they give to new ones. */
export function Groups() {
  const { data, error } = useGroups();
  const [open, setOpen] = useState<Group | "new" | null>(null);
  const remove = useCommand(itemRoutes.removeGroup, () => sayDone("Group removed."));
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
            { header: "Defaults for new items", cell: (group) => given(group).join(", ") || "–" },
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
                      text: "Only a group without items can be removed.",
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
      <GroupDialog open={open} onClose={close} />
    </Section>
  );
}

interface GroupDraft {
  name: string;
  /** Of these, "" gives new items nothing. */
  unit: string;
  tracking: Tracking | "";
  drawnAt: DrawnAt | "";
  store: string;
}

const In = fieldsOf<GroupDraft>();
const NO_DEFAULT = "No default";
const given = <T extends string>(choice: T | ""): T | null => (choice === "" ? null : choice);

function GroupDialog({ open, onClose }: { open: Group | "new" | null; onClose: () => void }) {
  const units = useUnitList().data?.units ?? [];
  const group = open === "new" ? null : open;
  return (
    <FormDialog
      title={group ? `Change ${group.name}` : "New group"}
      isOpen={open !== null}
      onClose={onClose}
      width="620px"
      save="Save"
      route={group ? itemRoutes.changeGroup : itemRoutes.newGroup}
      begin={{
        name: group?.name ?? "",
        unit: group?.unit ?? "",
        tracking: group?.tracking ?? "",
        drawnAt: group?.drawnAt ?? "",
        store: group?.store ?? "",
      }}
      params={{ id: group?.id ?? 0 }}
      body={({ name, unit, tracking, drawnAt, store }: GroupDraft) => ({
        name,
        unit: given(unit),
        tracking: given(tracking),
        drawnAt: given(drawnAt),
        store,
      })}
      done={(_, { name }) => sayDone(`${name} is saved.`)}
    >
      <Stack>
        <In.Text label="Name" name="name" autoFocus />
        <Row>
          <In.Choice
            label="Unit"
            name="unit"
            width="170px"
            none={NO_DEFAULT}
            options={units.map((u) => ({ value: u.code, label: `${u.code} · ${u.name}` }))}
          />
          <In.Choice
            label="Tracking"
            name="tracking"
            width="180px"
            none={NO_DEFAULT}
            options={[
              { value: "none", label: "None" },
              { value: "lot", label: "By lot" },
              { value: "serial", label: "By serial number" },
            ]}
          />
        </Row>
        <Row>
          <In.Choice
            label="Taken"
            name="drawnAt"
            width="170px"
            none={NO_DEFAULT}
            options={[
              { value: "pick", label: "Before work" },
              { value: "finish", label: "When finished" },
            ]}
          />
          <In.Store label="Store" name="store" width="180px" none={NO_DEFAULT} />
        </Row>
      </Stack>
    </FormDialog>
  );
}
