import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  type DragOverEvent,
  type DragStartEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from "@dnd-kit/sortable";
import { type ItemSheet, itemSheetRoutes, listRoutes, type PartsListAnswer } from "@yosegi/contract";
import { Redo2, Undo2 } from "lucide-react";
import {
  type ClipboardEvent,
  type KeyboardEvent,
  type ReactNode,
  type RefObject,
  use,
  useDeferredValue,
  useMemo,
  useRef,
} from "react";
import { useFormContext, useWatch } from "react-hook-form";
import { useNavigate } from "react-router";
import styled, { css } from "styled-components";
import { call, Unanswered } from "../api/index.ts";
import { fieldsOf, useUnits } from "../fields/index.ts";
import { FormOf, type FormState, Save, sentLines, useCommandForm, useGrid } from "../forms/index.ts";
import {
  Actions,
  Button,
  cards,
  isPastedTable,
  Notice,
  pastedTable,
  Row,
  Sub,
  sayDone,
  sayFailed,
  Table,
  tight,
  tileSize,
  Unseen,
  useAddress,
  useFieldState,
  useFormat,
  useShortcut,
} from "../ui/index.ts";
import { figuresOf } from "./figures.ts";
import { FiguresContext } from "./figurescontext.ts";
import { useHistory, useUndoKeys } from "./history.ts";
import {
  bodyOf,
  type DraftLine,
  type DraftList,
  draftOf,
  emptyLine,
  isEmpty,
  textOfList,
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
  if (!lists.data || (revision && !content.data)) return <Unanswered error={error} shape="sheet" />;
  return <ListEditor item={item} list={content.data ?? null} />;
}

const In = fieldsOf<DraftList>();

/** Fields whose typing is undone at once, not letter by letter. */
const TYPED = /(quantity|waste|share|note|makes|usual|yield|overhead|extra|price|instructions)$/;

/** Writes a parts list by keyboard: code, Tab, quantity, Tab, unit, Enter for the next line. What it costs adds up beside. */
function ListEditor({ item, list }: { item: ItemSheet; list: PartsListAnswer | null }) {
  const navigate = useNavigate();
  const back = () => navigate(list ? `/catalog/${item.id}/lists` : `/catalog/${item.id}`);
  const locked = list !== null && list.revision.state === "locked";
  const goesOnToLock = useRef(false);
  const form = useCommandForm({
    route: listRoutes.saveList,
    params: { id: item.id },
    begin: draftOf(list, item.ownPrice),
    version: list?.revision.version ?? 0,
    keptAs: `list ${item.id} ${list?.list ?? "new"}`,
    body: (draft: DraftList) => bodyOf(draft, list?.list ?? null),
    fieldOf: sentLines("lines", (line: DraftLine) => !isEmpty(line)),
    rebase: (mine, { from }) => ({ ...mine, from }),
    done: ({ revision }) => {
      sayDone(
        revision.inForce
          ? `The parts list of ${item.code} is saved.`
          : `Saved as draft revision ${revision.number}. Lock to start using it.`,
      );
      const lists = `/catalog/${item.id}/lists`;
      if (goesOnToLock.current) void navigate(`${lists}?lock=${revision.id}`);
      else void navigate(revision.inForce ? `/catalog/${item.id}` : lists);
    },
  });
  const save = (lock: boolean) => {
    goesOnToLock.current = lock;
    form.submit();
  };
  const page = useRef<HTMLDivElement>(null);
  useShortcut("s", "Save the parts list", () => save(false));
  return (
    <FormOf form={form}>
      <div ref={page}>
        <h1>
          {list && !list.main ? `${list.name}: parts` : "Parts list"} of {item.name}
        </h1>
        <Sub>
          {item.code} · {editorWords(list)} Type a code, Tab, the quantity, Tab, the unit; Enter goes to the
          next line. Rows pasted from a spreadsheet fill code, quantity, unit and waste.
        </Sub>
        <Figures item={item}>
          <ListFigures item={item} />
          <Faults />
          <Parts item={item} />
        </Figures>
        <HeadFields item={item} />
        <Actions>
          <Save>{locked ? "Save as the next revision" : "Save list"}</Save>
          <Button isPending={form.busy} onPress={() => save(true)}>
            Save and lock …
          </Button>
          <Button
            onPress={() => {
              form.startAgain();
              void back();
            }}
          >
            Discard changes
          </Button>
          <UndoButtons form={form} within={page} />
        </Actions>
      </div>
    </FormOf>
  );
}

interface UndoButtonsProps {
  form: FormState<DraftList>;
  within: RefObject<HTMLDivElement | null>;
}

/** Undoing knows of each key that is typed: only these buttons are drawn anew for it, not the whole list. */
function UndoButtons({ form, within }: UndoButtonsProps) {
  const history = useHistory(form.methods, textOfList, (name) => TYPED.test(name));
  useUndoKeys(within, history);
  return (
    <>
      <Button look="icon" aria-label="Undo" isDisabled={!history.canUndo} onPress={history.undo}>
        <Undo2 />
      </Button>
      <Button look="icon" aria-label="Redo" isDisabled={!history.canRedo} onPress={history.redo}>
        <Redo2 />
      </Button>
    </>
  );
}

/** Adds the list up as it is typed; typing does not wait for it. */
function Figures({ item, children }: { item: ItemSheet; children: ReactNode }) {
  const units = useUnits();
  const draft = useDeferredValue(useWatch() as DraftList);
  const figures = useMemo(() => figuresOf(draft, units, item.unit), [draft, units, item.unit]);
  const value = useMemo(() => ({ figures, usual: draft.usual }), [figures, draft.usual]);
  return <FiguresContext value={value}>{children}</FiguresContext>;
}

/** What is wrong with the list as a whole. */
function Faults() {
  const faults = [useFieldState("lines", "").message, useFieldState("product", "").message];
  return faults.map((fault) => fault && <Notice key={fault}>{fault}</Notice>);
}

/** The lines as a grid: typed, pasted, moved by dragging or by keys. */
function Parts({ item }: { item: ItemSheet }) {
  const format = useFormat();
  const grid = useRef<HTMLTableElement>(null);
  const { getValues, setValue } = useFormContext<DraftList>();
  const { keys, remove, move } = useGrid("lines", isEmpty, emptyLine);
  const moveTo = (from: number, to: number) => {
    // The empty line stays the last.
    if (from < 0 || to < 0 || Math.max(from, to) >= keys.length - 1) return;
    move(from, to);
  };
  const paste = async (event: ClipboardEvent) => {
    const text = event.clipboardData.getData("text/plain");
    if (!isPastedTable(text)) return;
    event.preventDefault();
    const at = rowOf(event.target);
    const rows = pastedRows(await pastedTable(text), format.marks);
    const found = await lookUp(rows.map((row) => row.code));
    if (found) setValue("lines", insertRows(getValues(), at, rows, found).lines);
  };
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const drop = ({ active, over }: DragEndEvent) =>
    moveTo(keys.indexOf(Number(active.id)), keys.indexOf(Number(over?.id)));
  // A line is known by its place, and by its part where it has one.
  const lineWords = (key: number | string | undefined) => {
    const at = keys.indexOf(Number(key));
    const part = getValues().lines[at]?.part;
    return `line ${at + 1} of ${keys.length - 1}${part ? `, ${part.code}` : ""}`;
  };
  const said = {
    announcements: {
      onDragStart: ({ active }: DragStartEvent) => `Moving ${lineWords(active.id)}.`,
      onDragOver: ({ over }: DragOverEvent) => (over ? `Now at ${lineWords(over.id)}.` : undefined),
      onDragEnd: ({ over }: DragEndEvent) =>
        over ? `Dropped at ${lineWords(over.id)}.` : "Left where it was.",
      onDragCancel: () => "Left where it was.",
    },
    screenReaderInstructions: {
      draggable:
        "Press Space to move the line, the arrow keys to choose its place, Space again to leave it there, Escape to cancel.",
    },
  };
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop} accessibility={said}>
      <Grid
        ref={grid}
        aria-label="Parts"
        onPaste={(event) => void paste(event)}
        onKeyDown={(event) => walk(event, grid.current, moveTo)}
      >
        <GridHead item={item} />
        <SortableContext items={[...keys]} strategy={verticalListSortingStrategy}>
          <tbody>
            {keys.map((key, index) => (
              <ListLineRow
                key={key}
                id={key}
                index={index}
                last={index === keys.length - 1}
                product={item.id}
                onRemove={() => remove(index)}
              />
            ))}
          </tbody>
        </SortableContext>
      </Grid>
    </DndContext>
  );
}

function editorWords(list: PartsListAnswer | null): string {
  if (!list) return "What goes into one batch.";
  const { number, state, inForce } = list.revision;
  if (state === "locked") return `Revision ${number} is locked; saving starts revision ${number + 1}.`;
  return inForce ? `Revision ${number}, a draft.` : `Revision ${number}, a draft that is not used yet.`;
}

async function lookUp(codes: string[]) {
  const answer = await call(itemSheetRoutes.lookUp, { body: { codes } }).catch((error: Error) =>
    sayFailed(error.message),
  );
  return answer?.items ?? null;
}

/** The line that an event within the grid belongs to. */
function rowOf(target: EventTarget | null): number {
  const row = target instanceof Element ? target.closest<HTMLElement>("tr[data-row]") : null;
  return Number(row?.dataset.row ?? 0);
}

/** Enter goes to the next line; Alt and an arrow move the line itself. */
function walk(
  event: KeyboardEvent,
  grid: HTMLTableElement | null,
  move: (from: number, to: number) => void,
): void {
  const at = rowOf(event.target);
  const step = event.key === "ArrowUp" ? -1 : event.key === "ArrowDown" ? 1 : 0;
  if (event.altKey && step !== 0) move(at, at + step);
  else if (
    event.key === "Enter" &&
    event.target instanceof HTMLInputElement &&
    event.target.role !== "combobox"
  ) {
    const next = grid?.querySelector<HTMLInputElement>(`tr[data-row="${at + 1}"] input[role=combobox]`);
    next?.focus();
  } else return;
  event.preventDefault();
}

function GridHead({ item }: { item: ItemSheet }) {
  const format = useFormat();
  const { usual } = use(FiguresContext);
  return (
    <thead>
      <tr>
        <th scope="col" style={{ width: 42 }}>
          <Unseen>Move</Unseen>
        </th>
        <th scope="col">Part</th>
        <th scope="col" style={{ width: 116 }}>
          Quantity
        </th>
        <th scope="col" style={{ width: 96 }}>
          Unit
        </th>
        <th scope="col" style={{ width: 96 }}>
          Waste
        </th>
        <th scope="col" className="end" style={{ width: 112 }}>
          Cost of {format.amount(usual, item.unit)}
        </th>
        <th scope="col" style={{ width: 138 }}>
          Reach{/^\d+(\.\d+)?$/.test(usual) && `, a tile for ${tileSize(usual, STRIP)}`}
        </th>
        <th scope="col" style={{ width: 104 }}>
          <Unseen>More</Unseen>
        </th>
      </tr>
    </thead>
  );
}

function HeadFields({ item }: { item: ItemSheet }) {
  const { currency } = useFormat().settings;
  const { packs, unit } = item;
  return (
    <>
      <Row style={{ marginTop: 14 }}>
        <In.Quantity packs={packs} label="One batch makes" name="makes" width="140px" unit={unit} />
        <In.Quantity
          packs={packs}
          label="Usual build"
          name="usual"
          width="140px"
          unit={unit}
          hint="Costs are calculated for this quantity."
        />
        <In.Amount label="Expected yield" name="yield" width="130px" unit="%" hint="Share that passes." />
        <In.Amount label="Overhead" name="overhead" width="170px" unit={`${currency} per ${unit}`} />
        <In.Amount label="Extra cost" name="extra" width="170px" unit={`${currency} per build`} />
      </Row>
      <In.Text
        label="Instructions"
        name="instructions"
        lines
        width="100%"
        hint="Printed on the build sheet."
      />
    </>
  );
}

/** As wide as eight columns of figures, and the part's own more. */
const COLUMNS = 11;

/** The handle at the left of a card; beside it the part, its figures, and the buttons. */
const handleBeside = css`
  tbody tr {
    grid-template-columns: 28px minmax(0, 1.3fr) minmax(0, 1fr) minmax(0, 1fr);
  }
  && td:first-child {
    grid-column: 1;
    padding-top: 22px;
  }
  && td.part,
  && td:last-child {
    grid-column: 2 / -1;
  }
  && td:nth-child(3),
  && td:nth-child(6) {
    grid-column: 2;
  }
  && td:nth-child(7) {
    grid-column: 3 / -1;
  }
`;

const Grid = styled(Table)`
  /* Of widths that are known, so that a key in one line lays out no other. */
  table-layout: fixed;
  margin: 14px 0 4px;
  border: 1px solid var(--line);
  td {
    vertical-align: top;
    padding: 5px 6px;
  }
  td.end {
    padding-top: 13px;
  }
  ${cards(COLUMNS)}
  ${tight(COLUMNS, handleBeside)}
`;
