import { type AnswerOf, itemSheetRoutes, stockRoutes } from "@yosegi/contract";
import { isDay } from "@yosegi/core";
import { type ClipboardEvent, type ReactNode, useRef, useState } from "react";
import { useFormContext, useWatch } from "react-hook-form";
import styled from "styled-components";
import { call } from "../api/index.ts";
import { fieldsOf, useItem, useStores } from "../fields/index.ts";
import { FormOf, type FormState, Save, useCommandForm } from "../forms/index.ts";
import { StockNav } from "../nav/index.ts";
import {
  Button,
  color,
  isPastedTable,
  Page,
  pastedTable,
  Row,
  ScanLine,
  ScanSaid,
  Section,
  Select,
  Sub,
  sayDone,
  sayFailed,
  useAddress,
  useFormat,
  useScanSaid,
  useScans,
} from "../ui/index.ts";
import {
  BLANK_LINE,
  BOOKINGS,
  type BookItem,
  type Booking,
  type BookLine,
  binNamed,
  fromKey,
  fromOf,
  inBinNamed,
  isBlank,
  type OpenBin,
  pastedBookings,
  placeNamed,
  sentTo,
  withReceived,
  withScanned,
} from "./bookscan.ts";
import { shownStore } from "./shownstore.ts";
import { useUndoStock } from "./undostock.ts";

interface BookDraft {
  lines: BookLine[];
  day: string;
  costTag: string;
  reason: string;
}

const In = fieldsOf<BookDraft>();

const WORDS: Record<Booking, { title: string; says: string; save: string; scan: string }> = {
  move: {
    title: "Move stock",
    says: "Scan the bin it is in, then what is moved, then the bin it goes to. Or type the lines, or paste them: item, quantity, from bin, to bin, lot or serial number.",
    save: "Move",
    scan: "Scan a bin",
  },
  scrap: {
    title: "Scrap stock",
    says: "Scan the bin it is in, then what is scrapped, once for each. Or type the lines, or paste them: item, quantity, bin, lot or serial number.",
    save: "Scrap",
    scan: "Scan a bin",
  },
  receive: {
    title: "Receive stock without a purchase order",
    says: "Scan what comes in, once for each, then the bin it goes to. Or type the lines, or paste them: item, quantity, bin, unit cost, lot or serial number, use by.",
    save: "Receive",
    scan: "Scan an item",
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

const filled = (lines: readonly BookLine[]) => lines.filter((line) => !isBlank(line));

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
  const stores = useStores().data?.stores ?? [];
  const setLines = (change: (lines: BookLine[]) => BookLine[]) => {
    form.touch("lines");
    methods.setValue("lines", change(methods.getValues("lines")));
  };
  const paste = async (event: ClipboardEvent<HTMLDivElement>) => {
    const text = event.clipboardData.getData("text/plain");
    if (!isPastedTable(text)) return;
    event.preventDefault();
    const rows = pastedBookings(await pastedTable(text), kind, format.marks);
    const answer = await call(itemSheetRoutes.lookUp, { body: { codes: rows.map((row) => row.code) } }).catch(
      (error: Error) => sayFailed(error.message),
    );
    if (!answer) return;
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
      <Scanner kind={kind} setLines={setLines} form={form} />
      <Section title="Lines">
        <div onPaste={(event) => void paste(event)}>
          <In.Lines name="lines" blank={BLANK_LINE} add="Add a line" isLong>
            {(at, i) => <LineFields kind={kind} at={at} nth={i + 1} />}
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

interface ScannerProps {
  kind: Booking;
  setLines: (change: (lines: BookLine[]) => BookLine[]) => void;
  form: FormState<BookDraft>;
}

type Contents = AnswerOf<typeof stockRoutes.binContents>["contents"];

/** Takes scans, one after the other: a bin, what is in it or comes in, a quantity, the bin it goes to. */
function Scanner({ kind, setLines, form }: ScannerProps) {
  const format = useFormat();
  const stores = useStores().data?.stores ?? [];
  const [said, say] = useScanSaid();
  const [open, setShown] = useState<(OpenBin & { contents: Contents }) | null>(null);
  // A scanner is faster than an answer: a scan waits for the one before it, and begins from what that came to.
  const now = useRef(open);
  const before = useRef(Promise.resolve());
  const setOpen = (bin: typeof open) => {
    now.current = bin;
    setShown(bin);
  };
  const lines = () => filled(form.methods.getValues("lines"));
  const onBin = async (bin: OpenBin) => {
    const unsent = lines().filter((line) => line.bin === "").length;
    if (kind !== "scrap" && unsent > 0) {
      setLines((now) => sentTo(now, bin));
      setOpen(null);
      return say(true, `${format.count(unsent, "line", "lines")} to ${bin.store} ${bin.bin}`);
    }
    if (kind === "receive") return say(false, `Scan what comes in first, then ${bin.bin}.`);
    const { contents } = await call(stockRoutes.binContents, {
      params: { id: bin.location },
      query: { bin: bin.bin },
    });
    setOpen({ ...bin, contents });
    say(true, `From ${bin.store} ${bin.bin}: ${format.count(contents.length, "item", "items")} there`);
  };
  const onTaken = (code: string) => {
    const from = now.current;
    if (!from) return say(false, `${code} isn't a bin. Scan the bin it is in first.`);
    const named = inBinNamed(code, from.contents);
    if (!named.found)
      return say(
        false,
        named.why === "which"
          ? `Several lots of ${code} are in ${from.bin}: scan the lot.`
          : `${code} is not in ${from.bin} by the books.`,
      );
    const { found } = named;
    setLines((own) => withScanned(own, kind, from, found));
    say(true, `${[found.item.code, found.serial || found.lot].filter(Boolean).join(" ")} from ${from.bin}`);
  };
  const onReceived = async (code: string, isNumber: boolean) => {
    const answer = await call(itemSheetRoutes.lookUp, { body: { codes: [code] } });
    const [item] = answer.items;
    if (item) {
      setLines((now) => withReceived(now, item));
      return say(true, `${item.code} comes in`);
    }
    if (isNumber && onQuantity(code)) return;
    // A code that is no item is the lot or serial number of what was scanned last.
    const last = lines().at(-1);
    const field = last?.item?.tracking === "serial" ? "serial" : "lot";
    if (!last?.item || last.item.tracking === "none" || last[field] !== "")
      return say(false, `${code} is neither an item nor a bin.`);
    setLines((now) => now.map((line) => (line === last ? { ...line, [field]: code } : line)));
    say(true, `${last.item.code}: ${field} ${code}`);
  };
  const onQuantity = (quantity: string): boolean => {
    const last = lines().at(-1);
    if (!last) return false;
    setLines((now) => now.map((line) => (line === last ? { ...line, quantity } : line)));
    say(true, format.amount(quantity, last.item?.unit ?? ""));
    return true;
  };
  const onScan = (code: string) => {
    const bin = binNamed(code, stores, shownStore());
    const done = async () => {
      if (bin) return onBin(bin);
      // A person's own codes may be digits: what names something here is that, and no quantity.
      const isNumber = /^\d{1,5}$/.test(code);
      if (kind === "receive") return onReceived(code, isNumber);
      const named = isNumber && now.current !== null && inBinNamed(code, now.current.contents).found;
      if (isNumber && !named && onQuantity(code)) return;
      onTaken(code);
    };
    before.current = before.current.then(done).catch((error: Error) => say(false, error.message));
  };
  useScans(onScan);
  return (
    <Narrow>
      <ScanLine placeholder={open ? `Scan what is in ${open.bin}` : WORDS[kind].scan} onScan={onScan} />
      <ScanSaid said={said} />
    </Narrow>
  );
}

const Narrow = styled.div`
  max-width: 560px;
`;

function LineFields({ kind, at, nth }: { kind: Booking; at: `lines.${number}`; nth: number }) {
  const { setValue } = useFormContext<BookDraft>();
  const item = useWatch<BookDraft, `lines.${number}.item`>({ name: `${at}.item` });
  return (
    <Fields>
      <In.Item
        label={`Item ${nth}`}
        name={`${at}.item`}
        width="260px"
        choosing="stock"
        onChanged={() => setValue(`${at}.from`, "")}
      />
      {kind !== "receive" && <FromField at={at} nth={nth} item={item} />}
      <In.Quantity
        label={`Quantity ${nth}`}
        name={`${at}.quantity`}
        width="130px"
        unit={item?.unit}
        packs={item?.packs ?? []}
      />
      {kind !== "scrap" && (
        <>
          <In.Store label={`To store ${nth}`} name={`${at}.store`} width="150px" />
          <In.Text label={`To bin ${nth}`} name={`${at}.bin`} width="100px" />
        </>
      )}
      {kind === "receive" && (
        <>
          {item?.tracking === "lot" && (
            <>
              <In.Text label={`Lot ${nth}`} name={`${at}.lot`} width="130px" />
              <In.Day label={`Use by ${nth}`} name={`${at}.expiry`} width="170px" />
            </>
          )}
          {item?.tracking === "serial" && (
            <In.Text label={`Serial number ${nth}`} name={`${at}.serial`} width="160px" />
          )}
          <In.Rate
            label={`Unit cost ${nth}`}
            name={`${at}.unitCost`}
            per={`${at}.costPer`}
            perLabel={`Per ${nth}`}
            width="110px"
            placeholder="standard"
            unit={item?.unit}
            packs={item?.packs ?? []}
          />
        </>
      )}
    </Fields>
  );
}

/** Where a line takes from: one of the places that have stock of its item. */
function FromField({
  at,
  nth,
  item,
}: {
  at: `lines.${number}`;
  nth: number;
  item: BookItem | null;
}): ReactNode {
  const format = useFormat();
  const from = useWatch<BookDraft, `lines.${number}.from`>({ name: `${at}.from` });
  const { data } = useItem(item?.id ?? 0);
  const spots = (item && data?.id === item.id ? data.stockByBin : []).filter(({ kind }) => kind === "store");
  const options = spots.map((spot) => ({
    value: fromKey(spot),
    label: `${[`${spot.store} ${spot.bin}`.trim(), spot.serial || spot.lot].filter(Boolean).join(" · ")}: ${format.amount(spot.quantity, data?.unit ?? "")}`,
  }));
  const isThere = from === "" || options.some(({ value }) => value === from);
  const typed = fromOf(from);
  const gone = {
    value: from,
    label: `${[`${typed.store} ${typed.bin}`.trim(), typed.serial || typed.lot].filter(Boolean).join(" · ")}: nothing there`,
  };
  return (
    <In.Choice
      label={`From ${nth}`}
      name={`${at}.from`}
      width="260px"
      options={isThere ? options : [...options, gone]}
    />
  );
}

const Fields = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  flex: 1;
  padding-bottom: 8px;
  border-bottom: 1px solid ${color.line};
`;
