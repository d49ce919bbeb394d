import { type ItemSheet, type ProductList, type RevisionHead, routes } from "@yosegi/contract";
import type { Start } from "@yosegi/core";
import { GitCompareArrows, Lock, Pencil, Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import styled from "styled-components";
import { Unanswered, useCommand } from "../api/index.ts";
import { CustomValues } from "../customfields/index.ts";
import { ItemField } from "../fields/index.ts";
import { Files } from "../files/index.ts";
import {
  Actions,
  AskButton,
  Button,
  color,
  DateField,
  Dialog,
  Form,
  type Format,
  Notice,
  Row,
  Section,
  Select,
  SheetTable,
  Stack,
  Sub,
  sayDone,
  TextField,
  useAddress,
  useFormat,
} from "../ui/index.ts";
import { useLists } from "./queries.ts";

/** All parts lists of a product with their revisions: which is used, since when, and what comes next. */
export function ListsView({ item }: { item: ItemSheet }) {
  const address = useAddress();
  const navigate = useNavigate();
  const { data, error } = useLists(item.id);
  const [adding, setAdding] = useState(false);
  if (!data) return <Unanswered error={error} />;
  const locking = Number(address.get("lock"));
  const all = data.lists.flatMap((list) => list.revisions);
  const first = all.find((revision) => revision.inForce) ?? all[0];
  return (
    <article>
      <h1>Lists of {item.name}</h1>
      <Sub>
        <Link to={`/catalog/${item.id}`}>{item.code}</Link> · The main list is used unless a build chooses
        another. A revision that is locked never changes again; builds always show the one they were made by.
      </Sub>
      {data.lists.map((list) => (
        <OneList key={list.id} item={item} list={list} onLock={(id) => address.set("lock", String(id))} />
      ))}
      <Actions>
        {data.lists.length === 0 ? (
          <Button look="main" onPress={() => void navigate(`/catalog/${item.id}/parts-list`)}>
            Write the parts list
          </Button>
        ) : (
          <Button onPress={() => setAdding(true)}>
            <Plus /> Another list for this product
          </Button>
        )}
      </Actions>
      {item.list && (
        <Section title="More about the main list">
          <CustomValues owner="list" id={item.list.list} code="" values={item.list.custom} />
          <Files to="list" id={item.list.list} files={item.list.files} />
        </Section>
      )}
      <LockDialog
        item={item}
        revision={all.find((r) => r.id === locking && r.state === "draft") ?? null}
        onClose={() => address.set("lock", "")}
      />
      <Dialog title="Another list" isOpen={adding} onClose={() => setAdding(false)}>
        <NewListForm item={item} from={first?.id ?? 0} />
      </Dialog>
    </article>
  );
}

function OneList({
  item,
  list,
  onLock,
}: {
  item: ItemSheet;
  list: ProductList;
  onLock: (revision: number) => void;
}) {
  const format = useFormat();
  const navigate = useNavigate();
  const [naming, setNaming] = useState(false);
  const retire = useCommand(routes.retireRevision, () => sayDone("The revision is retired."));
  const remove = useCommand(routes.removeRevision, () => sayDone("The draft is thrown away."));
  const main = useCommand(routes.changeList, () => sayDone(`${list.name} is the main list now.`));
  const refusal = retire.refusal ?? remove.refusal ?? main.refusal;
  const hasDraft = list.revisions.some((r) => r.state === "draft");
  const edit = `/catalog/${item.id}/parts-list?list=${list.id}`;
  return (
    <Section
      title={!list.main ? list.name : list.name === "Main" ? "Main list" : `${list.name} (main list)`}
      more={
        <Row>
          {!list.main && (
            <Button
              look="link"
              onPress={() =>
                void main.run({ params: { id: list.id }, body: { name: list.name, main: true } })
              }
            >
              Make it the main list
            </Button>
          )}
          <Button look="link" onPress={() => setNaming(true)}>
            Rename
          </Button>
          <Button look="link" onPress={() => void navigate(edit)}>
            <Pencil /> {hasDraft ? "Change the draft" : "Start the next revision"}
          </Button>
        </Row>
      }
    >
      {refusal && <Notice>{refusal.message}</Notice>}
      <SheetTable
        label={`Revisions of ${list.name}`}
        rows={list.revisions}
        rowId={(r) => r.id}
        columns={[
          {
            header: "Revision",
            cell: (r) => (
              <>
                <b>{r.number}</b> {stateWords(r, format)}
                <small>{r.locked?.note}</small>
              </>
            ),
          },
          { header: "Made", cell: (r) => (r.made ? who(r.made, format) : "before revisions were kept") },
          { header: "Locked", cell: (r) => (r.locked ? who(r.locked, format) : "–") },
          { header: "Builds", end: true, cell: (r) => (r.builds === 0 ? "–" : r.builds) },
          {
            header: "",
            end: true,
            cell: (r) => (
              <Tools>
                <Compare item={item} list={list} revision={r} />
                {r.state === "draft" && (
                  <>
                    <Button look="quiet" onPress={() => onLock(r.id)}>
                      <Lock /> Lock …
                    </Button>
                    <AskButton
                      look="icon"
                      aria-label={`Remove revision ${r.number}`}
                      question={{
                        title: `Remove revision ${r.number}?`,
                        text: "The draft and what was changed in it are deleted.",
                        yes: "Remove",
                      }}
                      onYes={() => void remove.run({ params: { id: r.id } })}
                    >
                      <Trash2 />
                    </AskButton>
                  </>
                )}
                {r.state === "locked" && list.revisions.length > 1 && (
                  <AskButton
                    look="link"
                    question={{
                      title: `Retire revision ${r.number}?`,
                      text: "Nothing new is built by it. It can't be locked again.",
                      yes: "Retire",
                    }}
                    onYes={() => void retire.run({ params: { id: r.id } })}
                  >
                    Retire
                  </AskButton>
                )}
              </Tools>
            ),
          },
        ]}
      />
      <Dialog title={`Rename ${list.name}`} isOpen={naming} onClose={() => setNaming(false)}>
        <RenameForm list={list} onDone={() => setNaming(false)} />
      </Dialog>
    </Section>
  );
}

const who = (by: { person: string; moment: string }, format: Format) => (
  <>
    {by.person}
    <small>{format.moment(by.moment)}</small>
  </>
);

function stateWords(revision: RevisionHead, format: Format): string {
  const { state, inForce, starts, startsOn, startsAfterCode } = revision;
  if (inForce) return state === "draft" ? "· used now, may still change" : "· locked, used now";
  if (state !== "locked") return state === "draft" ? "· draft, not used yet" : "· retired";
  if (starts === "day" && startsOn && startsOn > format.settings.today)
    return `· locked, used from ${format.day(startsOn)}`;
  return starts === "run out" ? `· locked, used when ${startsAfterCode} has run out` : "· locked";
}

/** The way to what changed since the revision before. */
function Compare({ item, list, revision }: { item: ItemSheet; list: ProductList; revision: RevisionHead }) {
  const before = list.revisions.find((r) => r.number < revision.number);
  if (!before) return null;
  return (
    <Link to={`/catalog/${item.id}/compare?from=${before.id}&to=${revision.id}`}>
      <GitCompareArrows aria-hidden /> Compare with {before.number}
    </Link>
  );
}

function RenameForm({ list, onDone }: { list: ProductList; onDone: () => void }) {
  const [name, setName] = useState(list.name);
  const save = useCommand(routes.changeList, () => {
    sayDone("Saved.");
    onDone();
  });
  return (
    <Form
      refusal={save.refusal}
      onSubmit={() => void save.run({ params: { id: list.id }, body: { name, main: list.main } })}
    >
      <TextField label="Name" name="name" value={name} onChange={setName} autoFocus />
      <Actions>
        <Button look="main" type="submit" isPending={save.busy}>
          Save
        </Button>
      </Actions>
    </Form>
  );
}

function NewListForm({ item, from }: { item: ItemSheet; from: number }) {
  const navigate = useNavigate();
  const [name, setName] = useState("");
  const make = useCommand(routes.newList, (list) => {
    sayDone(`${list.name} is made, as a copy.`);
    void navigate(`/catalog/${item.id}/parts-list?list=${list.list}`);
  });
  return (
    <Form
      refusal={make.refusal}
      onSubmit={() => void make.run({ params: { id: item.id }, body: { name, copyOf: from } })}
    >
      <p>It begins as a copy of the list in use, to be changed. A build may choose it.</p>
      <TextField label="Name" name="name" value={name} onChange={setName} autoFocus />
      <Actions>
        <Button look="main" type="submit" isPending={make.busy}>
          Make the list
        </Button>
      </Actions>
    </Form>
  );
}

const STARTS: { value: Start; label: string }[] = [
  { value: "at once", label: "At once" },
  { value: "day", label: "On a day" },
  { value: "run out", label: "When an old part has run out" },
];

interface LockDialogProps {
  item: ItemSheet;
  revision: RevisionHead | null;
  onClose: () => void;
}

/** Locks a revision: who, why, and from when it is used. */
function LockDialog({ item, revision, onClose }: LockDialogProps) {
  return (
    <Dialog title={`Lock revision ${revision?.number ?? ""}`} isOpen={revision !== null} onClose={onClose}>
      {revision && <LockForm item={item} revision={revision} onClose={onClose} />}
    </Dialog>
  );
}

function LockForm({ item, revision, onClose }: LockDialogProps & { revision: RevisionHead }) {
  const [starts, setStarts] = useState<Start>("at once");
  const [day, setDay] = useState("");
  const [after, setAfter] = useState<{ id: number; code: string; name: string } | null>(null);
  const [note, setNote] = useState("");
  const lock = useCommand(routes.lockRevision, () => {
    sayDone(`Revision ${revision.number} of ${item.code} is locked.`);
    onClose();
  });
  const body = { starts, startsOn: day === "" ? null : day, startsAfter: after?.id ?? null, note };
  return (
    <Form refusal={lock.refusal} onSubmit={() => void lock.run({ params: { id: revision.id }, body })}>
      <p>A locked revision never changes again. The next change makes revision {revision.number + 1}.</p>
      <Stack>
        <Select
          label="Used"
          name="starts"
          width="260px"
          value={starts}
          options={STARTS}
          onChange={setStarts}
        />
        {starts === "day" && <DateField label="From" name="startsOn" value={day} onChange={setDay} />}
        {starts === "run out" && (
          <ItemField
            label="Old part"
            name="startsAfter"
            choosing="any"
            value={after}
            onChange={setAfter}
            width="320px"
          />
        )}
        <TextField label="Note" name="note" value={note} onChange={setNote} />
      </Stack>
      <Actions>
        <Button look="main" type="submit" isPending={lock.busy}>
          Lock it
        </Button>
      </Actions>
    </Form>
  );
}

const Tools = styled.span`
  display: flex;
  gap: 10px;
  justify-content: flex-end;
  align-items: center;
  a svg {
    width: 15px;
    height: 15px;
    vertical-align: -2px;
    color: ${color.ink2};
  }
`;
