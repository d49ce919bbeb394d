import { itemSheetRoutes, stockRoutes } from "@yosegi/contract";
import { isDay } from "@yosegi/core";
import type { ClipboardEvent } from "react";
import { call } from "../api/index.ts";
import { fieldsOf, useStoresOnceKnown } from "../fields/index.ts";
import { FormOf, type FormState, Save, useCommandForm } from "../forms/index.ts";
import { StockNav } from "../nav/index.ts";
import {
  Button,
  isPastedTable,
  Page,
  pastedTable,
  Row,
  Section,
  Select,
  Sub,
  sayDone,
  sayFailed,
  useAddress,
  useFormat,
} from "../ui/index.ts";
import { BookLineFields } from "./booklines.tsx";
import {
  BLANK_LINE,
  BOOKINGS,
  type BookDraft,
  type Booking,
  type BookLine,
  filled,
  fromKey,
  fromOf,
  isBlank,
  pastedBookings,
  placeNamed,
} from "./bookscan.ts";
import { BookScanner } from "./bookscanner.tsx";
import { shownStore } from "./shownstore.ts";
import { useUndoStock } from "./undostock.ts";

const In = fieldsOf<BookDraft>();

const WORDS: Record<Booking, { title: string; says: string; save: string }> = {
  move: {
    title: "Move stock",
    says: "Scan the bin it is in, then what is moved, then the bin it goes to. Or type the lines, or paste them: item, quantity, from bin, to bin, lot or serial number.",
    save: "Move",
  },
  scrap: {
    title: "Scrap stock",
    says: "Scan the bin it is in, then what is scrapped, once for each. Or type the lines, or paste them: item, quantity, bin, lot or serial number.",
    save: "Scrap",
  },
  receive: {
    title: "Receive stock without a purchase order",
    says: "Scan what comes in, once for each, then the bin it goes to. Or type the lines, or paste them: item, quantity, bin, unit cost, lot or serial number, use by.",
    save: "Receive",
  },
};

/** Moves, scraps or receives several things at once: by scans, by typing, or with rows pasted from a spreadsheet. */
export function BookPage() {
  const address = useAddress();
  const kind = BOOKINGS.find((one) => one === address.get("do")) ?? "move";
  return (
    <>
      <StockNav />
      <Page>
        <h1>{WORDS[kind].title}</h1>
        <Select
          label="What to do"
          width="180px"
          value={kind}
          options={[
            { value: "move", label: "Move" },
            { value: "scrap", label: "Scrap" },
            { value: "receive", label: "Receive" },
          ]}
          onChange={(next) => address.set("do", next)}
        />
        {kind === "move" && <MoveForm />}
        {kind === "scrap" && <ScrapForm />}
        {kind === "receive" && <ReceiveForm />}
      </Page>
    </>
  );
}

const useBegin = (): BookDraft => {
  const format = useFormat();
  return { lines: [BLANK_LINE], day: format.settings.today, costTag: "", reason: "" };
};

/** A fault in what is sent stands at the line that it was sent from. */
const fieldOf = (path: string, { lines }: BookDraft): string => {
  const [list, at, field] = path.split(".");
  if (list !== "lines" || at === undefined) return path;
  const sent = lines.flatMap((line, i) => (isBlank(line) ? [] : [i]))[Number(at)] ?? at;
  const own: Record<string, string> = { toStore: "store", toBin: "bin" };
  return ["lines", sent, own[field ?? ""] ?? field].join(".");
};

/** The same where a line takes from a place: store, bin, lot and serial number are one choice. */
const fieldOfTaken = (path: string, draft: BookDraft): string =>
  /\.(store|bin|lot|serial)$/.test(path)
    ? fieldOf(path, draft).replace(/\.[a-z]+$/i, ".from")
    : fieldOf(path, draft);

function MoveForm() {
  const format = useFormat();
  const undo = useUndoStock();
  const form = useCommandForm({
    route: stockRoutes.moveStock,
    begin: useBegin(),
    keptAs: "stock.move",
    fieldOf: fieldOfTaken,
    body: ({ lines, ...head }: BookDraft) => ({
      ...head,
      lines: filled(lines).map(({ item, from, quantity, store, bin }) => ({
        item: item?.id ?? 0,
        ...fromOf(from),
        quantity,
        toStore: store,
        toBin: bin,
      })),
    }),
    done: ({ document }, { lines }) => {
      sayDone(`${format.count(filled(lines).length, "line", "lines")} moved as ${document}.`, undo(document));
      form.startAgain();
    },
  });
  return <BookForm kind="move" form={form} />;
}

function ScrapForm() {
  const format = useFormat();
  const undo = useUndoStock();
  const form = useCommandForm({
    route: stockRoutes.scrapStock,
    begin: useBegin(),
    keptAs: "stock.scrap",
    fieldOf: fieldOfTaken,
    body: ({ lines, ...head }: BookDraft) => ({
      ...head,
      lines: filled(lines).map(({ item, from, quantity }) => ({
        item: item?.id ?? 0,
        ...fromOf(from),
        quantity,
      })),
    }),
    done: ({ document, lost }) => {
      sayDone(`Scrapped as ${document}: ${format.money(lost)} lost.`, undo(document));
      form.startAgain();
    },
  });
  return <BookForm kind="scrap" form={form} />;
}

function ReceiveForm() {
  const format = useFormat();
  const undo = useUndoStock();
  const form = useCommandForm({
    route: stockRoutes.receive,
    begin: useBegin(),
    keptAs: "stock.receive",
    fieldOf,
    body: ({ lines, ...head }: BookDraft) => ({
      ...head,
      lines: filled(lines).map(({ item, from: _, unitCost, costPer, expiry, ...line }) => ({
        ...line,
        item: item?.id ?? 0,
        unitCost: unitCost === "" ? null : unitCost,
        costPer: unitCost === "" ? "" : costPer,
        expiry: expiry === "" ? null : expiry,
        madeOn: null,
      })),
    }),
    done: ({ document }, { lines }) => {
      sayDone(
        `${format.count(filled(lines).length, "line", "lines")} received as ${document}.`,
        undo(document),
      );
      form.startAgain();
    },
  });
  return <BookForm kind="receive" form={form} />;
}

function BookForm({ kind, form }: { kind: Booking; form: FormState<BookDraft> }) {
  const words = WORDS[kind];
  const { methods } = form;
  const format = useFormat();
  const storesOnceKnown = useStoresOnceKnown();
  const setLines = (change: (lines: BookLine[]) => BookLine[]) => {
    form.touch("lines");
    methods.setValue("lines", change(methods.getValues("lines")));
  };
  const paste = async (event: ClipboardEvent<HTMLDivElement>) => {
    const text = event.clipboardData.getData("text/plain");
    if (!isPastedTable(text)) return;
    event.preventDefault();
    const rows = pastedBookings(await pastedTable(text), kind, format.marks);
    const known = await Promise.all([
      call(itemSheetRoutes.lookUp, { body: { codes: rows.map((row) => row.code) } }),
      storesOnceKnown(),
    ]).catch((error: Error) => sayFailed(error.message));
    if (!known) return;
    const [answer, stores] = known;
    const unknown = rows.filter((_, i) => !answer.items[i]).map((row) => row.code);
    if (unknown.length > 0) sayFailed(`Not in the catalog, skipped: ${unknown.join(", ")}.`);
    const lines = rows.flatMap((row, i): BookLine[] => {
      const item = answer.items[i];
      if (!item) return [];
      const piece =
        item.tracking === "serial" ? { lot: "", serial: row.piece } : { lot: row.piece, serial: "" };
      const to = row.to === "" ? { store: "", bin: "" } : placeNamed(row.to, stores, shownStore());
      const from =
        row.from === "" ? "" : fromKey({ ...placeNamed(row.from, stores, shownStore()), ...piece });
      return [
        {
          ...BLANK_LINE,
          item,
          from,
          quantity: row.quantity,
          store: to.store,
          bin: to.bin,
          ...(kind === "receive" && piece),
          unitCost: row.unitCost,
          expiry: isDay(row.expiry) ? row.expiry : "",
        },
      ];
    });
    setLines((now) => [...filled(now), ...lines]);
  };
  return (
    <FormOf form={form}>
      <Sub style={{ marginTop: 10 }}>{words.says}</Sub>
      <BookScanner kind={kind} setLines={setLines} form={form} />
      <Section title="Lines">
        <div onPaste={(event) => void paste(event)}>
          <In.Lines name="lines" blank={BLANK_LINE} add="Add a line" isLong>
            {(at, i) => <BookLineFields kind={kind} at={at} nth={i + 1} />}
          </In.Lines>
        </div>
      </Section>
      <Row style={{ marginTop: 14 }}>
        <In.Day label="Day" name="day" width="180px" />
        <In.Text label="Cost tag" name="costTag" width="140px" />
        <In.Text label={kind === "scrap" ? "Reason" : "Note"} name="reason" width="320px" />
      </Row>
      <Row style={{ marginTop: 14 }}>
        <Save>{words.save}</Save>
        <Button onPress={() => form.startAgain()}>Start again</Button>
      </Row>
    </FormOf>
  );
}
