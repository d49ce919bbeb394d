import type { MovementRow } from "@yosegi/contract";
import { Undo2 } from "lucide-react";
import { useMemo, useState } from "react";
import { Link, useNavigate } from "react-router";
import styled from "styled-components";
import { Unanswered } from "../api/index.ts";
import { ItemField, useItem } from "../fields/index.ts";
import { StockNav } from "../nav/index.ts";
import {
  AskButton,
  Button,
  type Column,
  DataTable,
  EmptyPage,
  type Format,
  Row,
  type SpreadsheetOf,
  Sub,
  TextField,
  useAddress,
  useFormat,
} from "../ui/index.ts";
import { useMovementPages } from "./queries.ts";
import { useUndoStock } from "./undostock.ts";
import { movedWords } from "./words.ts";

/** The stock ledger: every movement, latest first, filtered by item and document. */
export function StockPage() {
  const address = useAddress();
  const navigate = useNavigate();
  const format = useFormat();
  const item = Number(address.get("item"));
  const document = address.get("document");
  const search = address.get("search");
  const query = { ...(item > 0 && { item }), ...(document !== "" && { document }), search };
  const ledger = useMovementPages(query);
  if (!ledger.data) return <Unanswered error={ledger.error} shape="table" />;
  const rows = ledger.data?.pages.flatMap((page) => page.movements) ?? [];
  const total = ledger.data?.pages[0]?.total ?? 0;
  if (ledger.data && total === 0 && item === 0 && document === "" && search === "")
    return (
      <EmptyPage
        title="Stock ledger"
        action={
          <Button look="main" onPress={() => void navigate("/import")}>
            Import opening stock
          </Button>
        }
      >
        Every stock movement: what, when, who and why. It starts with your opening stock.
      </EmptyPage>
    );
  return (
    <>
      <StockNav />
      <Fill>
        <h1>Stock ledger</h1>
        <Sub>{format.count(total, "movement", "movements")}, latest first.</Sub>
        <Filters
          item={item}
          document={document}
          search={search}
          onSearch={(text) => address.set("search", text)}
          onItem={(id) => address.set("item", id)}
          onDocument={(text) => address.set("document", text)}
          onClear={address.clear}
        />
        {ledger.data.pages[0]?.undoable && <UndoButton document={document} />}
        <Ledger
          rows={rows}
          onEnd={() => {
            if (ledger.hasNextPage && !ledger.isFetchingNextPage) void ledger.fetchNextPage();
          }}
        />
      </Fill>
    </>
  );
}

/** Undoes what was booked by hand as the document that is filtered by. */
function UndoButton({ document }: { document: string }) {
  const undo = useUndoStock();
  return (
    <Row style={{ marginBottom: 12 }}>
      <AskButton
        question={{
          title: `Undo ${document}?`,
          text: "All its movements are taken back today, at the same values. Nothing is erased.",
          yes: "Undo",
        }}
        onYes={undo(document)}
      >
        <Undo2 /> Undo {document}
      </AskButton>
    </Row>
  );
}

interface FiltersProps {
  item: number;
  document: string;
  search: string;
  onSearch: (search: string) => void;
  onItem: (id: string) => void;
  onDocument: (document: string) => void;
  onClear: () => void;
}

function Filters({ item, document, search, onSearch, onItem, onDocument, onClear }: FiltersProps) {
  const chosen = useItem(item);
  const [typed, setTyped] = useState(document);
  const [shown, setShown] = useState(document);
  // The address may change from outside: the scan field leads here.
  if (shown !== document) {
    setShown(document);
    setTyped(document);
  }
  return (
    <Row style={{ marginBottom: 12 }}>
      <ItemField
        label="Item"
        width="300px"
        choosing="stock"
        value={item > 0 ? (chosen.data ?? null) : null}
        onChange={(found) => onItem(found ? String(found.id) : "")}
      />
      <form
        onSubmit={(e) => {
          e.preventDefault();
          onDocument(typed.trim().toUpperCase());
        }}
      >
        <TextField
          label="Document"
          width="150px"
          value={typed}
          onChange={setTyped}
          onBlur={() => onDocument(typed.trim().toUpperCase())}
          placeholder="B-12"
        />
      </form>
      <TextField
        label="Search"
        width="240px"
        placeholder="Lot, serial number, reason …"
        value={search}
        onChange={onSearch}
      />
      {(item > 0 || document !== "" || search !== "") && (
        <Clear>
          <Button look="link" onPress={onClear}>
            Clear filters
          </Button>
        </Clear>
      )}
    </Row>
  );
}

function Ledger({ rows, onEnd }: { rows: MovementRow[]; onEnd: () => void }) {
  const format = useFormat();
  const columns = useMemo(() => columnsOf(format), [format]);
  return (
    <DataTable
      label="Movements"
      rows={rows}
      columns={columns}
      columnsKeptAs="movements"
      spreadsheet={SPREADSHEET}
      rowId={(m) => m.id}
      onEnd={onEnd}
      empty="No movements match."
    />
  );
}

/** What is listed so far; all of it comes as it is scrolled. */
const SPREADSHEET: SpreadsheetOf<MovementRow> = {
  name: "stock-ledger",
  columns: [
    { header: "Day", value: (m) => m.day },
    { header: "Recorded", value: (m) => m.moment },
    { header: "Person", value: (m) => m.person },
    { header: "Device", value: (m) => m.device },
    { header: "Item", value: (m) => m.item.code },
    { header: "Name", value: (m) => m.item.name },
    { header: "Lot", value: (m) => m.lot },
    { header: "Serial", value: (m) => m.serial },
    { header: "Quantity", value: (m) => m.quantity },
    { header: "Unit", value: (m) => m.item.unit },
    { header: "From", value: (m) => m.from || otherEnd(m) },
    { header: "To", value: (m) => m.to || otherEnd(m) },
    { header: "Value", value: (m) => m.value },
    { header: "Document", value: (m) => m.document },
    { header: "Cost tag", value: (m) => m.costTag },
    { header: "Reason", value: (m) => m.reason },
  ],
};

function columnsOf(format: Format): Column<MovementRow>[] {
  return [
    {
      id: "moment",
      header: "When",
      compare: (a, b) => a.id - b.id,
      cell: (m) => (
        <>
          {format.moment(m.moment)}
          <small>
            {m.person}
            {m.device && ` on ${m.device}`}
            {m.day !== format.dayOf(m.moment) && ` · for ${format.day(m.day)}`}
          </small>
        </>
      ),
    },
    {
      id: "item",
      header: "Item",
      compare: (a, b) => a.item.name.localeCompare(b.item.name),
      cell: (m) => (
        <>
          <Link to={`/catalog/${m.item.id}`}>{m.item.name}</Link>
          <small>
            {m.item.code}
            {m.lot && ` · lot ${m.lot}`}
            {m.serial && ` · serial ${m.serial}`}
          </small>
        </>
      ),
    },
    {
      id: "quantity",
      header: "Quantity",
      end: true,
      cell: (m) => movedWords(m, format),
    },
    {
      id: "from",
      header: "From",
      cell: (m) => m.from || otherEnd(m),
    },
    {
      id: "to",
      header: "To",
      cell: (m) => m.to || otherEnd(m),
    },
    { id: "value", header: "Value", end: true, cell: (m) => format.money(m.value) },
    {
      id: "document",
      header: "Document",
      compare: (a, b) => a.document.localeCompare(b.document, undefined, { numeric: true }),
      cell: (m) => (
        <>
          {m.build ? <Link to={`/builds/${m.build}`}>{m.document}</Link> : m.document}
          {(m.costTag || m.reason) && <small>{[m.costTag, m.reason].filter(Boolean).join(" · ")}</small>}
        </>
      ),
    },
  ];
}

const Fill = styled.main`
  display: flex;
  flex-direction: column;
  min-height: 0;
  flex: 1;
  padding: 20px 28px;
`;

const Clear = styled.div`
  padding-top: 21px;
`;

/** What stands at the end of a movement that is no place. */
function otherEnd(movement: MovementRow): string {
  if (movement.counted) return "counted";
  return movement.kind === "finish" ? `build ${movement.document}` : "outside";
}
