import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from "@dnd-kit/sortable";
import { type ItemSheet, type PartsListAnswer, routes } from "@yosegi/contract";
import { Redo2, Undo2 } from "lucide-react";
import { type ClipboardEvent, type KeyboardEvent, useEffect, useMemo, useRef, useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { call, Unanswered, useCommand } from "../api/index.ts";
import { QuantityField, useUnits } from "../fields/index.ts";
import {
  Actions,
  AmountField,
  Button,
  Form,
  type Format,
  KeptDraft,
  Notice,
  Row,
  Stale,
  Sub,
  sayDone,
  sayFailed,
  Table,
  tileSize,
  Unseen,
  useAddress,
  useFormat,
  useKept,
  useShortcut,
} from "../ui/index.ts";
import { figuresOf } from "./figures.ts";
import { useHistory } from "./history.ts";
import {
  bodyOf,
  type DraftLine,
  type DraftList,
  describe,
  draftOf,
  moveLine,
  removeLine,
  sentIndex,
} from "./listdraft.ts";
import { ListFigures } from "./listfigures.tsx";
import { ListLineRow, STRIP } from "./listlinerow.tsx";
import { insertRows, pastedRows } from "./pastedrows.ts";
import { useLists, useRevision } from "./queries.ts";

/** Finds what is to be edited: the draft of the list asked for, else a copy of what is in force. */
export function ListEditorPage({ item }: { item: ItemSheet }) {
  const address = useAddress();
  const lists = useLists(item.id);
  const wanted = Number(address.get("list"));
  const list = lists.data?.lists.find((l) => (wanted > 0 ? l.id === wanted : l.main));
  const revision =
    list?.revisions.find((r) => r.state === "draft") ??
    list?.revisions.find((r) => r.inForce) ??
    list?.revisions[0];
  const content = useRevision(revision?.id);
  const error = lists.error ?? content.error;
  if (!lists.data || (revision && !content.data)) return <Unanswered error={error} />;
  return <ListEditor item={item} list={content.data ?? null} />;
}

/** Writes a parts list by keyboard: code, Tab, quantity, Tab, unit, Enter for the next line. What it costs adds up beside. */
function ListEditor({ item, list }: { item: ItemSheet; list: PartsListAnswer | null }) {
  const format = useFormat();
  const navigate = useNavigate();
  const units = useUnits();
  const grid = useRef<HTMLTableElement>(null);
  const { kept, keep, forget } = useKept<DraftList>(`list ${item.id} ${list?.list ?? "new"}`);
  const [keptAt, setKeptAt] = useState(kept?.at ?? null);
  const history = useHistory(() => kept?.draft ?? draftOf(list, item.ownPrice));
  const { now: draft, change } = history;
  useEffect(() => {
    if (history.canUndo) keep(draft);
  });
  const startAgain = () => {
    forget();
    setKeptAt(null);
    history.begin(draftOf(list, item.ownPrice));
  };
  const figures = useMemo(() => figuresOf(draft, units, item.unit), [draft, units, item.unit]);
  const back = () => navigate(list ? `/catalog/${item.id}/lists` : `/catalog/${item.id}`);
  const locked = list !== null && list.revision.state === "locked";
  const save = useCommand(routes.saveList);
  const submit = async (lock: boolean) => {
    const body = bodyOf(draft, list?.list ?? null);
    const saved = await save.run({ params: { id: item.id }, body, version: draft.version });
    if (!saved) return;
    history.begin(draft);
    forget();
    sayDone(
      saved.revision.inForce
        ? `The parts list of ${item.code} is saved.`
        : `Saved as revision ${saved.revision.number}, a draft: it is used once it is locked.`,
    );
    if (lock) void navigate(`/catalog/${item.id}/lists?lock=${saved.revision.id}`);
    else void navigate(saved.revision.inForce ? `/catalog/${item.id}` : `/catalog/${item.id}/lists`);
  };
  const sent = sentIndex(draft);
  const head = (what: string, to: Partial<DraftList>) => change(what, (before) => ({ ...before, ...to }));
  useShortcut("s", "Save the parts list", () => void submit(false));

  const paste = async (event: ClipboardEvent) => {
    const rows = pastedRows(event.clipboardData.getData("text/plain"), format.marks);
    if (!rows) return;
    event.preventDefault();
    const at = rowOf(event.target);
    const found = await lookUp(rows.map((row) => row.code));
    if (found) change("", (before) => insertRows(before, at, rows, found));
  };
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const drop = ({ active, over }: DragEndEvent) => {
    const to = draft.lines.findIndex((line) => line.key === over?.id);
    if (to >= 0) change("", (before) => moveLine(before, Number(active.id), to));
  };

  return (
    <Form keeps refusal={save.refusal} onSubmit={() => void submit(false)}>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: undo works from any field within */}
      <div onKeyDown={(event) => undoByKey(event, history)}>
        <h1>
          {list && !list.main ? `${list.name}: parts` : "Parts list"} of {item.name}
        </h1>
        <Sub>
          {item.code} · {editorWords(list)} Type a code, Tab, the quantity, Tab, the unit; Enter goes to the
          next line. Rows pasted from a spreadsheet fill code, quantity, unit and waste.
        </Sub>
        <KeptDraft at={keptAt} onStartAgain={startAgain} />
        <Stale
          command={save}
          mine={describe(draft)}
          theirs={describe(draftOf(list, item.ownPrice))}
          onMine={() => {
            const { from, version } = draftOf(list, item.ownPrice);
            head("", { from, version });
          }}
          onTheirs={startAgain}
        />
        {figures && <ListFigures item={item} draft={draft} figures={figures} head={head} />}
        {save.errors.lines && <Notice>{save.errors.lines}</Notice>}
        {save.errors.product && <Notice>{save.errors.product}</Notice>}
        <Wide>
          <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
            <Grid
              ref={grid}
              aria-label="Parts"
              onPaste={(event) => void paste(event)}
              onKeyDown={(event) =>
                walk(event, grid.current, draft.lines, (key, to) =>
                  change("", (before) => moveLine(before, key, to)),
                )
              }
            >
              <GridHead format={format} item={item} usual={draft.usual} />
              <SortableContext
                items={draft.lines.map((line) => line.key)}
                strategy={verticalListSortingStrategy}
              >
                <tbody>
                  {draft.lines.map((line, index) => (
                    <ListLineRow
                      key={line.key}
                      line={line}
                      index={index}
                      last={index === draft.lines.length - 1}
                      product={item.id}
                      sent={sent.get(line.key)}
                      usual={draft.usual}
                      figures={figures}
                      change={change}
                      onRemove={() => change("", (before) => removeLine(before, line.key))}
                    />
                  ))}
                </tbody>
              </SortableContext>
            </Grid>
          </DndContext>
        </Wide>
        <HeadFields draft={draft} item={item} head={head} />
        <Actions>
          <Button look="main" type="submit" isPending={save.busy}>
            {locked ? "Save as the next revision" : "Save the list"}
          </Button>
          <Button isPending={save.busy} onPress={() => void submit(true)}>
            Save and lock …
          </Button>
          <Button
            onPress={() => {
              forget();
              void back();
            }}
          >
            Leave it as it was
          </Button>
          <Button look="icon" aria-label="Undo" isDisabled={!history.canUndo} onPress={history.undo}>
            <Undo2 />
          </Button>
          <Button look="icon" aria-label="Redo" isDisabled={!history.canRedo} onPress={history.redo}>
            <Redo2 />
          </Button>
        </Actions>
      </div>
    </Form>
  );
}

function editorWords(list: PartsListAnswer | null): string {
  if (!list) return "What goes into one batch.";
  const { number, state, inForce } = list.revision;
  if (state === "locked") return `Revision ${number} is locked; saving starts revision ${number + 1}.`;
  return inForce ? `Revision ${number}, a draft.` : `Revision ${number}, a draft that is not used yet.`;
}

async function lookUp(codes: string[]) {
  const answer = await call(routes.lookUp, { body: { codes } }).catch((error: Error) =>
    sayFailed(error.message),
  );
  return answer?.items ?? null;
}

/** The line that an event within the grid belongs to. */
function rowOf(target: EventTarget | null): number {
  const row = target instanceof Element ? target.closest<HTMLElement>("tr[data-line]") : null;
  return Number(row?.dataset.line ?? 0);
}

/** Enter goes to the next line; Alt and an arrow move the line itself. */
function walk(
  event: KeyboardEvent,
  grid: HTMLTableElement | null,
  lines: readonly DraftLine[],
  move: (key: number, to: number) => void,
): void {
  const at = rowOf(event.target);
  const line = lines[at];
  const step = event.key === "ArrowUp" ? -1 : event.key === "ArrowDown" ? 1 : 0;
  if (event.altKey && step !== 0 && line) move(line.key, at + step);
  else if (
    event.key === "Enter" &&
    event.target instanceof HTMLInputElement &&
    event.target.role !== "combobox"
  ) {
    const next = grid?.querySelector<HTMLInputElement>(`tr[data-line="${at + 1}"] input[role=combobox]`);
    next?.focus();
  } else return;
  event.preventDefault();
}

function undoByKey(event: KeyboardEvent, history: { undo: () => void; redo: () => void }): void {
  if (!(event.ctrlKey || event.metaKey)) return;
  const key = event.key.toLowerCase();
  if (key === "z" && !event.shiftKey) history.undo();
  else if (key === "y" || (key === "z" && event.shiftKey)) history.redo();
  else return;
  event.preventDefault();
}

function GridHead({ format, item, usual }: { format: Format; item: ItemSheet; usual: string }) {
  return (
    <thead>
      <tr>
        <th scope="col">
          <Unseen>Move</Unseen>
        </th>
        <th scope="col">Part</th>
        <th scope="col">Quantity</th>
        <th scope="col">Unit</th>
        <th scope="col">Waste</th>
        <th scope="col" className="end">
          Cost of {format.amount(usual, item.unit)}
        </th>
        <th scope="col">Reach{/^\d+(\.\d+)?$/.test(usual) && `, a tile for ${tileSize(usual, STRIP)}`}</th>
        <th scope="col">
          <Unseen>More</Unseen>
        </th>
      </tr>
    </thead>
  );
}

interface HeadFieldsProps {
  draft: DraftList;
  item: ItemSheet;
  head: (what: string, to: Partial<DraftList>) => void;
}

function HeadFields({ draft, item, head }: HeadFieldsProps) {
  const format = useFormat();
  const { currency } = format.settings;
  return (
    <Row style={{ marginTop: 14 }}>
      <QuantityField
        packs={item.packs}
        label="One batch makes"
        name="makes"
        width="140px"
        unit={item.unit}
        value={draft.makes}
        onChange={(makes) => head("makes", { makes })}
      />
      <QuantityField
        packs={item.packs}
        label="Usual build"
        name="usual"
        width="140px"
        unit={item.unit}
        value={draft.usual}
        onChange={(usual) => head("usual", { usual })}
        hint="Costs are figured at it."
      />
      <AmountField
        label="Expected yield"
        name="yield"
        width="130px"
        unit="%"
        value={draft.yield}
        onChange={(text) => head("yield", { yield: text })}
        hint="Good ones of those started."
      />
      <AmountField
        label="Overhead"
        name="overhead"
        width="170px"
        unit={`${currency} per ${item.unit}`}
        value={draft.overhead}
        onChange={(overhead) => head("overhead", { overhead })}
      />
      <AmountField
        label="Extra cost"
        name="extra"
        width="170px"
        unit={`${currency} per build`}
        value={draft.extra}
        onChange={(extra) => head("extra", { extra })}
      />
    </Row>
  );
}

const Wide = styled.div`
  overflow-x: auto;
`;

const Grid = styled(Table)`
  margin: 14px 0 4px;
  border: 1px solid var(--line);
  td {
    vertical-align: top;
    padding: 5px 6px;
  }
  td.part {
    width: 100%;
    min-width: 200px;
  }
  td.end {
    padding-top: 13px;
  }
`;
