import type { Firm, FirmKind } from "@yosegi/contract";
import { Plus } from "lucide-react";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import styled from "styled-components";
import { Unanswered } from "../api/index.ts";
import { CatalogNav } from "../nav/index.ts";
import {
  Button,
  type Column,
  DataTable,
  EmptyPage,
  Key,
  Row,
  SplitPage,
  TextField,
  useAddress,
  useFormat,
  useNarrow,
  useShortcut,
} from "../ui/index.ts";
import { NewFirmDialog } from "./firmform.tsx";
import { OpenFirm } from "./firmsheet.tsx";
import { useFirmPages } from "./queries.ts";
import { WORDS } from "./words.ts";

export const SuppliersPage = () => <FirmsPage key="supplier" kind="supplier" />;
export const CustomersPage = () => <FirmsPage key="customer" kind="customer" />;

/** Suppliers or customers: a list beside the one that is open. */
function FirmsPage({ kind }: { kind: FirmKind }) {
  const format = useFormat();
  const navigate = useNavigate();
  const address = useAddress();
  const { id } = useParams();
  const [making, setMaking] = useState(false);
  const search = address.get("search");
  const { data, error } = useFirmPages(kind, search);
  const words = WORDS[kind];
  const narrow = useNarrow();
  useShortcut("n", `New ${words.one}`, () => setMaking(true));
  const path = `/${words.many}`;
  if (!data) return <Unanswered error={error} shape="table" />;
  const dialog = (
    <NewFirmDialog
      kind={kind}
      begin={making ? "" : null}
      onClose={() => setMaking(false)}
      onMade={(firm) => void navigate(`${path}/${firm.id}`)}
    />
  );
  if (data.total === 0 && search === "")
    return (
      <>
        <CatalogNav />
        <EmptyPage
          title={words.title}
          action={
            <Button look="main" onPress={() => setMaking(true)}>
              <Plus /> Add your first {words.one}
            </Button>
          }
        >
          {words.empty}
        </EmptyPage>
        {dialog}
      </>
    );
  return (
    <>
      <CatalogNav />
      <SplitPage
        listWidth="420px"
        back={id === undefined ? null : { to: path, name: words.title }}
        list={
          <List>
            {id === undefined && <h1>{format.count(data.total, words.one, words.many)}</h1>}
            <Row>
              <TextField
                label="Search"
                hideLabel
                placeholder="Search code, name or contact"
                width="240px"
                value={search}
                onChange={(text) => address.set("search", text)}
              />
              <Button onPress={() => setMaking(true)}>
                New <Key>n</Key>
              </Button>
            </Row>
            <DataTable
              label={words.title}
              rows={data.rows}
              old={data.old}
              onEnd={() => data.onMore?.()}
              columns={columnsOf(kind, narrow || id !== undefined)}
              rowId={(firm) => firm.id}
              linkTo={(firm) => ({ pathname: `${path}/${firm.id}`, search: address.text })}
              isCurrent={(firm) => firm.id === Number(id)}
              empty="No matches."
            />
          </List>
        }
        sheet={id === undefined ? null : <OpenFirm key={id} id={Number(id)} />}
      />
      {dialog}
    </>
  );
}

function columnsOf(kind: FirmKind, narrow: boolean): Column<Firm>[] {
  const name: Column<Firm> = {
    id: "name",
    header: "Name",
    compare: (a, b) => a.name.localeCompare(b.name),
    cell: (firm) => (
      <>
        {firm.name}
        <small>
          {firm.code}
          {firm.archived && " · archived"}
        </small>
      </>
    ),
  };
  const items: Column<Firm> = {
    id: "items",
    header: "Items",
    end: true,
    compare: (a, b) => a.items - b.items,
    cell: (firm) => firm.items,
  };
  const rest: Column<Firm>[] = [
    { id: "contact", header: "Contact", cell: (firm) => firm.contact },
    { id: "email", header: "E-mail", cell: (firm) => firm.email },
    { id: "phone", header: "Phone", cell: (firm) => firm.phone },
    { id: "terms", header: "Terms", cell: (firm) => firm.terms },
  ];
  return [name, ...(narrow ? [] : rest), ...(kind === "supplier" ? [items] : [])];
}

const List = styled.div`
  display: flex;
  flex-direction: column;
  gap: 12px;
  padding: 14px 16px 16px;
  min-height: 0;
  flex: 1;
`;
