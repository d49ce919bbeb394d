import { useQuery } from "@tanstack/react-query";
import { type Firm, type FirmBody, type FirmKind, type FirmSheet, routes } from "@yosegi/contract";
import { Pencil, Plus } from "lucide-react";
import { type ReactNode, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import styled from "styled-components";
import { asking, Failure, following, useCommand } from "../api/index.ts";
import { CatalogNav } from "../catalog/index.ts";
import {
  Actions,
  Button,
  Checkbox,
  type Column,
  DataTable,
  Dialog,
  EmptyPage,
  Facts,
  Form,
  type Format,
  Key,
  Named,
  Row,
  Section,
  SheetTable,
  SplitPage,
  Stack,
  Sub,
  sayDone,
  TextField,
  useAsked,
  useFormat,
  useShortcut,
} from "../ui/index.ts";

const WORDS = {
  supplier: {
    title: "Suppliers",
    one: "supplier",
    many: "suppliers",
    empty: "Who you buy from. Each item says which of them supply it, at what price and how fast.",
  },
  customer: {
    title: "Customers",
    one: "customer",
    many: "customers",
    empty: "Who you sell to. Orders and papers take name, address and terms from here.",
  },
} as const;

/** Suppliers or customers: a list beside the one that is open. */
export function FirmsPage({ kind }: { kind: FirmKind }) {
  const format = useFormat();
  const navigate = useNavigate();
  const asked = useAsked();
  const { id } = useParams();
  const [making, setMaking] = useState(false);
  const search = asked.get("search");
  const { data, error } = useQuery(following(routes.firms, { query: { kind, search } }));
  const words = WORDS[kind];
  useShortcut("n", `New ${words.one}`, () => setMaking(true));
  const path = `/${words.many}`;
  if (error) return <Failure error={error} />;
  if (!data) return null;
  const dialog = (
    <Dialog title={`New ${words.one}`} isOpen={making} onClose={() => setMaking(false)} width="620px">
      <NewFirm
        kind={kind}
        onMade={(firm) => {
          setMaking(false);
          void navigate(`${path}/${firm.id}`);
        }}
      />
    </Dialog>
  );
  if (data.total === 0)
    return (
      <>
        <CatalogNav />
        <EmptyPage
          title={words.title}
          action={
            <Button look="main" onPress={() => setMaking(true)}>
              <Plus /> Make the first {words.one}
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
                onChange={(text) => asked.set("search", text)}
              />
              <Button onPress={() => setMaking(true)}>
                New <Key>n</Key>
              </Button>
            </Row>
            <DataTable
              label={words.title}
              rows={data.firms}
              columns={columnsOf(kind, id !== undefined)}
              rowId={(firm) => firm.id}
              onOpen={(firm) => void navigate({ pathname: `${path}/${firm.id}`, search: asked.text })}
              isCurrent={(firm) => firm.id === Number(id)}
              empty="Nothing has this in its code, name or contact."
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

function OpenFirm({ id }: { id: number }): ReactNode {
  const { data, error } = useQuery(asking(routes.firm, { params: { id } }));
  if (error) return <Failure error={error} />;
  return data ? <FirmSheetView firm={data} /> : null;
}

function FirmSheetView({ firm }: { firm: FirmSheet }) {
  const format = useFormat();
  const [editing, setEditing] = useState(false);
  useShortcut("e", "Change what is in view", () => setEditing(true));
  const facts = [
    ["Address", firm.address],
    ["Contact", firm.contact],
    ["E-mail", firm.email],
    ["Phone", firm.phone],
    ["Terms", firm.terms],
  ].filter(([, text]) => text !== "");
  return (
    <article>
      <h1>{firm.name}</h1>
      <Sub>
        {firm.code} · {WORDS[firm.kind].one} · in {format.settings.currency}
        {firm.archived && " · archived"}
      </Sub>
      <Facts>
        {facts.map(([what, text]) => (
          <div key={what}>
            <dt>{what}</dt>
            <dd style={{ whiteSpace: "pre-line" }}>{text}</dd>
          </div>
        ))}
      </Facts>
      <Button onPress={() => setEditing(true)}>
        <Pencil /> Change
      </Button>
      {firm.supplies.length > 0 && <Supplies firm={firm} format={format} />}
      {firm.orders.length > 0 && <Ordered firm={firm} format={format} />}
      <Dialog title={`Change ${firm.code}`} isOpen={editing} onClose={() => setEditing(false)} width="620px">
        <EditFirm firm={firm} onDone={() => setEditing(false)} />
      </Dialog>
    </article>
  );
}

function Supplies({ firm, format }: { firm: FirmSheet; format: Format }) {
  return (
    <Section title="Supplies">
      <SheetTable
        label="Supplies"
        rows={firm.supplies}
        rowId={(item) => item.id}
        columns={[
          {
            header: "Item",
            cell: (item) => (
              <Named
                name={item.name}
                to={`/catalog/${item.id}`}
                more={[item.code, item.preferred && "preferred"]}
              />
            ),
          },
          { header: "Their code", cell: (item) => item.theirCode },
          {
            header: "Price",
            end: true,
            cell: (item) => (item.price ? format.unitCost(item.price, item.pricePer) : "–"),
          },
          {
            header: "Lead time",
            end: true,
            cell: (item) => (item.leadDays === null ? "–" : format.count(item.leadDays, "day", "days")),
          },
        ]}
      />
    </Section>
  );
}

function Ordered({ firm, format }: { firm: FirmSheet; format: Format }) {
  return (
    <Section title="Orders">
      <SheetTable
        label="Orders"
        rows={firm.orders}
        rowId={(order) => order.id}
        columns={[
          { header: "Order", cell: (order) => <Link to={`/orders/${order.id}`}>{order.number}</Link> },
          { header: "Stage", cell: (order) => order.stage },
          { header: "Lines", end: true, cell: (order) => format.amount(String(order.lines)) },
          {
            header: "Due",
            end: true,
            cell: (order) => (order.due === null ? "no day" : format.day(order.due)),
          },
        ]}
      />
    </Section>
  );
}

const BLANK: FirmBody = {
  code: "",
  name: "",
  address: "",
  contact: "",
  email: "",
  phone: "",
  terms: "",
  archived: false,
};

function NewFirm({ kind, onMade }: { kind: FirmKind; onMade: (firm: Firm) => void }) {
  const [draft, setDraft] = useState(BLANK);
  const make = useCommand(routes.newFirm, (firm) => {
    sayDone(`${firm.name} is there.`);
    onMade(firm);
  });
  const { archived: _, ...body } = draft;
  return (
    <Form refusal={make.refusal} onSubmit={() => void make.run({ body: { ...body, kind } })}>
      <FirmFields draft={draft} onChange={setDraft} />
      <Actions>
        <Button look="main" type="submit" isPending={make.busy}>
          Make the {WORDS[kind].one}
        </Button>
      </Actions>
    </Form>
  );
}

function EditFirm({ firm, onDone }: { firm: FirmSheet; onDone: () => void }) {
  const { code, name, address, contact, email, phone, terms, archived } = firm;
  const [draft, setDraft] = useState<FirmBody>({
    code,
    name,
    address,
    contact,
    email,
    phone,
    terms,
    archived,
  });
  const save = useCommand(routes.changeFirm, () => {
    sayDone(`${draft.name} is saved.`);
    onDone();
  });
  return (
    <Form refusal={save.refusal} onSubmit={() => void save.run({ params: { id: firm.id }, body: draft })}>
      <FirmFields draft={draft} onChange={setDraft} />
      <Checkbox
        isSelected={draft.archived}
        onChange={(on) => setDraft((before) => ({ ...before, archived: on }))}
      >
        Archived: offered nowhere any more
      </Checkbox>
      <Actions>
        <Button look="main" type="submit" isPending={save.busy}>
          Save
        </Button>
      </Actions>
    </Form>
  );
}

function FirmFields({ draft, onChange }: { draft: FirmBody; onChange: (draft: FirmBody) => void }) {
  const field = (name: Exclude<keyof FirmBody, "archived">, label: string, width: string, lines = false) => (
    <TextField
      label={label}
      name={name}
      width={width}
      lines={lines}
      value={draft[name]}
      onChange={(text) => onChange({ ...draft, [name]: text })}
    />
  );
  return (
    <Stack>
      <Row>
        {field("code", "Code", "150px")}
        {field("name", "Name", "390px")}
      </Row>
      <Row>
        {field("contact", "Contact", "270px")}
        {field("phone", "Phone", "270px")}
      </Row>
      {field("email", "E-mail", "100%")}
      {field("address", "Address", "100%", true)}
      {field("terms", "Terms", "100%")}
    </Stack>
  );
}

const List = styled.div`
  display: flex;
  flex-direction: column;
  gap: 12px;
  padding: 14px 16px 16px;
  min-height: 0;
  flex: 1;
`;
