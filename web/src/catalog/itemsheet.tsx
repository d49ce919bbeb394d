import { useQuery } from "@tanstack/react-query";
import { type PartsListAnswer, routes, type ItemSheet as Sheet } from "@yosegi/contract";
import { ClipboardCheck, Hammer, PackagePlus, Pencil } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import styled from "styled-components";
import { asking, Failure } from "../api/index.ts";
import { Actions, Button, CostBar, Facts, Short, Sub, Table, useFormat, useShortcut } from "../ui/index.ts";
import { EditItemDialog } from "./itemdialog.tsx";
import { ReceiveDialog } from "./receivedialog.tsx";

const KIND_WORDS = { bought: "bought", built: "built here", service: "work" } as const;
const TRACKING_WORDS = { none: "", lot: " · kept by lot", serial: " · kept by serial number" } as const;

/** One item: its figures, what can be done with it, where it lies, what goes into it, what moved. */
export function ItemSheetView({ item }: { item: Sheet }) {
  const navigate = useNavigate();
  const [open, setOpen] = useState<"edit" | "receive" | null>(null);
  useShortcut("e", "Change the item in view", () => setOpen("edit"));
  const stocked = item.kind !== "service";
  return (
    <article>
      <h1>{item.name}</h1>
      <Sub>
        {item.code} · {KIND_WORDS[item.kind]} · in {item.unit}
        {TRACKING_WORDS[item.tracking]}
        {item.store && ` · home ${item.store} ${item.bin}`}
      </Sub>
      <Figures item={item} />
      <Actions style={{ marginTop: 0 }}>
        {item.hasList && (
          <Button look="main" onPress={() => void navigate(`/check?product=${item.id}`)}>
            <ClipboardCheck /> Check
          </Button>
        )}
        {item.kind === "built" && (
          <Button
            look={item.hasList ? "quiet" : "main"}
            onPress={() => void navigate(`/catalog/${item.id}/parts-list`)}
          >
            <Hammer /> {item.hasList ? "Change the parts list" : "Write the parts list"}
          </Button>
        )}
        {stocked && (
          <Button onPress={() => setOpen("receive")}>
            <PackagePlus /> Take in
          </Button>
        )}
        <Button onPress={() => setOpen("edit")}>
          <Pencil /> Change
        </Button>
      </Actions>
      {item.list && <PartsList item={item} list={item.list} />}
      {stocked && <Lying item={item} />}
      {stocked && <LastMovements item={item} />}
      <EditItemDialog item={item} isOpen={open === "edit"} onClose={() => setOpen(null)} />
      <ReceiveDialog item={item} isOpen={open === "receive"} onClose={() => setOpen(null)} />
    </article>
  );
}

function Figures({ item }: { item: Sheet }) {
  const format = useFormat();
  if (item.kind === "service")
    return (
      <Facts>
        <Fact what="Rate">{item.cost ? `${format.unitCost(item.cost)} per ${item.unit}` : "none yet"}</Fact>
      </Facts>
    );
  return (
    <Facts>
      <Fact what="Free">
        <Big>
          {item.free.startsWith("-") ? (
            <Short>{format.amount(item.free, item.unit)}</Short>
          ) : (
            format.amount(item.free, item.unit)
          )}
        </Big>
      </Fact>
      <Fact what="On hand">{format.amount(item.onHand, item.unit)}</Fact>
      <Fact what="Reserved">
        {format.amount(item.reserved, item.unit)}
        {item.reservedBy.map((r) => (
          <span key={r.build}>
            {" · "}
            <Link to={`/builds/${r.build}`}>{r.number}</Link>
          </span>
        ))}
      </Fact>
      {item.expired !== "0" && <Fact what="Expired">{format.amount(item.expired, item.unit)}</Fact>}
      <Fact what="Unit cost">{item.unitCost ? format.unitCost(item.unitCost) : "none yet"}</Fact>
      <Fact what="Value">{format.money(item.value)}</Fact>
      <Fact what="Price">{item.price ? format.money(item.price) : "–"}</Fact>
    </Facts>
  );
}

function Fact({ what, children }: { what: string; children: React.ReactNode }) {
  return (
    <div>
      <dt>{what}</dt>
      <dd>{children}</dd>
    </div>
  );
}

function PartsList({ item, list }: { item: Sheet; list: PartsListAnswer }) {
  const format = useFormat();
  const { expected } = list;
  return (
    <Section>
      <h2>Parts list</h2>
      <Sub>
        One batch makes {format.amount(list.makes, item.unit)}. Expected to cost{" "}
        {format.unitCost(expected.each)} per {item.unit} when {format.amount(list.usual)} are built
        {expected.unknown.length > 0 && `, without ${format.list(expected.unknown)}: no cost yet`}.
      </Sub>
      <Table aria-label="Parts list">
        <thead>
          <tr>
            <th scope="col">Part</th>
            <th scope="col" className="end">
              A batch
            </th>
            <th scope="col" className="end">
              Waste
            </th>
            <th scope="col" className="end">
              Unit cost
            </th>
            <th scope="col" className="end">
              Free
            </th>
          </tr>
        </thead>
        <tbody>
          {list.lines.map((line) => (
            <tr key={line.line}>
              <td>
                <Link to={`/catalog/${line.part.id}`}>{line.part.name}</Link>
                <small>
                  {line.part.code}
                  {line.oncePerBuild && " · once per build"}
                </small>
              </td>
              <td className="end">{format.amount(line.quantity, line.unit)}</td>
              <td className="end">{line.waste === "0" ? "–" : format.percent(line.waste)}</td>
              <td className="end">
                {line.part.unitCost ? (
                  `${format.unitCost(line.part.unitCost)} / ${line.part.unit}`
                ) : (
                  <Short>none yet</Short>
                )}
              </td>
              <td className="end">
                {line.part.kind === "service" ? "–" : format.amount(line.part.free, line.part.unit)}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
      <CostBar
        of={`${format.amount(list.usual, item.unit)}:`}
        parts={[
          { label: "materials", money: expected.materials },
          { label: "work", money: expected.work },
          { label: "overhead", money: expected.overhead },
        ]}
      />
    </Section>
  );
}

function Lying({ item }: { item: Sheet }) {
  const format = useFormat();
  if (item.lying.length === 0) return null;
  const tracked = item.tracking !== "none";
  return (
    <Section>
      <h2>Where it lies</h2>
      <Table aria-label="Where it lies">
        <thead>
          <tr>
            <th scope="col">Store and bin</th>
            {tracked && <th scope="col">{item.tracking === "lot" ? "Lot" : "Serial"}</th>}
            {item.tracking === "lot" && <th scope="col">Use by</th>}
            <th scope="col" className="end">
              On hand
            </th>
          </tr>
        </thead>
        <tbody>
          {item.lying.map((row) => (
            <tr key={`${row.store} ${row.bin} ${row.lot} ${row.serial}`}>
              <td>
                {row.store} {row.bin}
              </td>
              {tracked && <td>{row.lot || row.serial}</td>}
              {item.tracking === "lot" && (
                <td>
                  {row.expiry ? (
                    row.expired ? (
                      <Short>{format.day(row.expiry)}, expired</Short>
                    ) : (
                      format.day(row.expiry)
                    )
                  ) : (
                    "–"
                  )}
                </td>
              )}
              <td className="end">
                {format.quantity(row.quantity, item.decimals)} {item.unit}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
    </Section>
  );
}

const LAST = 8;

function LastMovements({ item }: { item: Sheet }) {
  const format = useFormat();
  const { data, error } = useQuery(asking(routes.movements, { query: { item: item.id, limit: LAST } }));
  if (error) return <Failure error={error} />;
  if (!data || data.movements.length === 0)
    return (
      <Section>
        <h2>Last movements</h2>
        <Sub>None yet.</Sub>
      </Section>
    );
  return (
    <Section>
      <h2>Last movements</h2>
      <Table aria-label="Last movements">
        <thead>
          <tr>
            <th scope="col">When</th>
            <th scope="col">Document</th>
            <th scope="col">From → to</th>
            <th scope="col" className="end">
              Quantity
            </th>
            <th scope="col" className="end">
              Value
            </th>
          </tr>
        </thead>
        <tbody>
          {data.movements.map((m) => (
            <tr key={m.id}>
              <td>
                {format.moment(m.moment)}
                <small>{m.person}</small>
              </td>
              <td>
                {m.build ? (
                  <Link to={`/builds/${m.build}`}>{m.document}</Link>
                ) : (
                  <Link to={`/stock?document=${m.document}`}>{m.document}</Link>
                )}
              </td>
              <td>
                {m.from || "outside"} → {m.to || "used up"}
                {(m.lot || m.serial) && <small>{m.lot ? `lot ${m.lot}` : `serial ${m.serial}`}</small>}
              </td>
              <td className="end">
                {m.to === "" ? "−" : "+"}
                {format.quantity(m.quantity, item.decimals)} {item.unit}
              </td>
              <td className="end">{format.money(m.value)}</td>
            </tr>
          ))}
        </tbody>
      </Table>
      {data.total > data.movements.length && (
        <p>
          <Link to={`/stock?item=${item.id}`}>All {data.total} movements</Link>
        </p>
      )}
    </Section>
  );
}

const Section = styled.section`
  margin-top: 26px;
  h2 {
    margin-bottom: 6px;
  }
`;
const Big = styled.b`
  font: 600 20px/1.2 "Bricolage Grotesque Variable", sans-serif;
`;
