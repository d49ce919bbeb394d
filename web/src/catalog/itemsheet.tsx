import type { ItemSheet as Sheet } from "@yosegi/contract";
import { ClipboardCheck, Hammer, PackagePlus, Pencil } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import styled from "styled-components";
import { Actions, Button, Facts, Large, Short, Sub, useFormat, useShortcut } from "../ui/index.ts";
import { EditItemDialog } from "./itemdialog.tsx";
import { LastMovements, LyingTable, PartsListTable } from "./itemtables.tsx";
import { ReceiveDialog } from "./receivedialog.tsx";
import { KIND_WORDS } from "./words.ts";

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
      {item.list && (
        <Section>
          <h2>Parts list</h2>
          <PartsListTable item={item} list={item.list} />
        </Section>
      )}
      {item.lying.length > 0 && (
        <Section>
          <h2>Where it lies</h2>
          <LyingTable item={item} />
        </Section>
      )}
      {stocked && (
        <Section>
          <h2>Last movements</h2>
          <LastMovements item={item} />
        </Section>
      )}
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
        <Large>
          {item.free.startsWith("-") ? (
            <Short>{format.amount(item.free, item.unit)}</Short>
          ) : (
            format.amount(item.free, item.unit)
          )}
        </Large>
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

const Section = styled.section`
  margin-top: 26px;
  h2 {
    margin-bottom: 6px;
  }
`;
