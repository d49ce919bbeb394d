import { type ItemSheet, listRoutes, type ProductList, type RevisionHead } from "@yosegi/contract";
import type { Start } from "@yosegi/core";
import { Copy, GitCompareArrows, Lock, Pencil, Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { useWatch } from "react-hook-form";
import { Link, useNavigate } from "react-router";
import styled from "styled-components";
import { Unanswered, useCommand } from "../api/index.ts";
import { CustomValues } from "../customfields/index.ts";
import { fieldsOf } from "../fields/index.ts";
import { Files } from "../files/index.ts";
import { FormDialog } from "../forms/index.ts";
import {
  Actions,
  AskButton,
  Button,
  color,
  type Format,
  Notice,
  Row,
  Section,
  SheetTable,
  Stack,
  Sub,
  sayDone,
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
  const [copying, setCopying] = useState(false);
  if (!data) return <Unanswered error={error} shape="sheet" />;
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
            Create the parts list
          </Button>
        ) : (
          <>
            <Button onPress={() => setAdding(true)}>
              <Plus /> Add list
            </Button>
            <Button onPress={() => setCopying(true)}>
              <Copy /> Copy to another product
            </Button>
          </>
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
      <FormDialog
        title="New list"
        isOpen={adding}
        onClose={() => setAdding(false)}
        save="Create list"
        route={listRoutes.newList}
        begin={{ name: "" }}
        body={({ name }: { name: string }) => ({ product: item.id, name, copyOf: first?.id ?? 0 })}
        done={(list) => {
          sayDone(`${list.name} created as a copy.`);
          void navigate(`/catalog/${item.id}/parts-list?list=${list.list}`);
        }}
      >
        <p>Starts as a copy of the current list. A build may choose it.</p>
        <NameIn.Text label="Name" name="name" autoFocus />
      </FormDialog>
      <CopyDialog item={item} from={first?.id ?? 0} isOpen={copying} onClose={() => setCopying(false)} />
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
  const retire = useCommand(listRoutes.retireRevision, () => sayDone("Revision retired."));
  const remove = useCommand(listRoutes.removeRevision, () => sayDone("Draft deleted."));
  const main = useCommand(listRoutes.changeList, () => sayDone(`${list.name} is the main list now.`));
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
              Make main list
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
          { header: "Created", cell: (r) => (r.made ? who(r.made, format) : "–") },
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
                      text: "Nothing new will be built with it. It can't be locked again.",
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
      <FormDialog
        title={`Rename ${list.name}`}
        isOpen={naming}
        onClose={() => setNaming(false)}
        save="Save"
        route={listRoutes.changeList}
        params={{ id: list.id }}
        begin={{ name: list.name }}
        body={({ name }: { name: string }) => ({ name, main: list.main })}
        done={() => sayDone("Saved.")}
      >
        <NameIn.Text label="Name" name="name" autoFocus />
      </FormDialog>
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
  if (inForce) return state === "draft" ? "· in use, unlocked" : "· locked, used now";
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

const NameIn = fieldsOf<{ name: string }>();

const STARTS: { value: Start; label: string }[] = [
  { value: "at once", label: "At once" },
  { value: "day", label: "On a day" },
  { value: "run out", label: "When an old part runs out" },
];

interface LockDialogProps {
  item: ItemSheet;
  revision: RevisionHead | null;
  onClose: () => void;
}

interface CopyDraft {
  product: { id: number; code: string; name: string } | null;
  name: string;
}

const CopyIn = fieldsOf<CopyDraft>();

interface CopyDialogProps {
  item: ItemSheet;
  /** The revision that is copied. */
  from: number;
  isOpen: boolean;
  onClose: () => void;
}

/** Copies the list to another product, where it is a draft. */
function CopyDialog({ item, from, isOpen, onClose }: CopyDialogProps) {
  const navigate = useNavigate();
  return (
    <FormDialog
      title={`Copy the list of ${item.code}`}
      isOpen={isOpen}
      onClose={onClose}
      save="Copy list"
      route={listRoutes.newList}
      begin={{ product: null, name: "Main" }}
      body={({ product, name }: CopyDraft) => ({ product: product?.id ?? 0, name, copyOf: from })}
      done={(list, { product }: CopyDraft) => {
        sayDone(`List copied to ${product?.code}.`);
        void navigate(`/catalog/${product?.id}/parts-list?list=${list.list}`);
      }}
    >
      <Stack>
        <p>The other product gets it as a draft, to be changed before it is used.</p>
        <CopyIn.Item label="Product" name="product" choosing="built" product={item.id} autoFocus />
        <CopyIn.Text label="Name of the list" name="name" />
      </Stack>
    </FormDialog>
  );
}

interface LockDraft {
  starts: Start;
  startsOn: string;
  startsAfter: { id: number; code: string; name: string } | null;
  note: string;
}

const LockIn = fieldsOf<LockDraft>();

/** Locks a revision: who, why, and from when it is used. */
function LockDialog({ item, revision, onClose }: LockDialogProps) {
  return (
    <FormDialog
      title={`Lock revision ${revision?.number ?? ""}`}
      isOpen={revision !== null}
      onClose={onClose}
      save="Lock"
      route={listRoutes.lockRevision}
      params={{ id: revision?.id ?? 0 }}
      begin={{ starts: "at once", startsOn: "", startsAfter: null, note: "" }}
      body={({ startsOn, startsAfter, ...typed }: LockDraft) => ({
        ...typed,
        startsOn: startsOn === "" ? null : startsOn,
        startsAfter: startsAfter?.id ?? null,
      })}
      done={({ revision: locked }) => sayDone(`Revision ${locked.number} of ${item.code} is locked.`)}
    >
      <p>
        A locked revision never changes again. The next change makes revision {(revision?.number ?? 0) + 1}.
      </p>
      <Stack>
        <LockIn.Choice label="Starts" name="starts" width="260px" options={STARTS} />
        <StartsWhen />
        <LockIn.Text label="Note" name="note" />
      </Stack>
    </FormDialog>
  );
}

/** The day, or the part that must have run out, before it is used. */
function StartsWhen() {
  const starts = useWatch<LockDraft, "starts">({ name: "starts" });
  if (starts === "day") return <LockIn.Day label="From" name="startsOn" />;
  if (starts === "at once") return null;
  return <LockIn.Item label="Old part" name="startsAfter" choosing="any" width="320px" />;
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
