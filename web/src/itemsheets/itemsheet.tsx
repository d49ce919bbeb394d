import { itemSheetRoutes, type ItemSheet as Sheet } from "@yosegi/contract";
import { isStocked } from "@yosegi/core";
import { ClipboardCheck, Copy, Hammer, PackagePlus, Pencil, Trash2 } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import styled from "styled-components";
import { useCommand } from "../api/index.ts";
import { CustomValues } from "../customfields/index.ts";
import { Files, fileAddress, PictureButton } from "../files/index.ts";
import { CopyItemDialog, EditItemDialog, KIND_WORDS, LACK_WORDS, SuppliersSection } from "../items/index.ts";
import { KitTable } from "../kits/index.ts";
import { PartsListTable } from "../lists/index.ts";
import { ReceiveDialog } from "../stock/index.ts";
import {
  Actions,
  AskButton,
  Button,
  Fact,
  Facts,
  Large,
  Notice,
  Section,
  Short,
  Sub,
  sayDone,
  TileStrip,
  useFormat,
  useShortcut,
  Written,
} from "../ui/index.ts";
import { LastMovements, StockTable } from "./itemtables.tsx";
import { WhereUsed } from "./whereused.tsx";

const TRACKING_WORDS = { none: "", lot: "tracked by lot", serial: "tracked by serial number" } as const;

/** One item: its figures, what can be done with it, what goes into it, who supplies it, where it lies and is used. */
export function ItemSheetView({ item }: { item: Sheet }) {
  const format = useFormat();
  const about = [
    item.code,
    KIND_WORDS[item.kind],
    `in ${item.unit}`,
    TRACKING_WORDS[item.tracking],
    item.group,
    item.store && `default bin ${item.store} ${item.bin}`,
    item.notStockTracked && "not stock-tracked",
    item.notForSale && "not for sale",
    item.alwaysBuild && "always built for orders",
    item.finishWhenShipped && "finished when shipped",
    item.lotFixed && "suggested lot is picked",
    item.taxRate && `tax ${format.percent(item.taxRate)}`,
    item.state !== "active" && item.state,
  ];
  return (
    <article>
      <Head>
        {item.thumbnail !== null && <img src={fileAddress(item.thumbnail)} alt={`${item.name}`} />}
        <div>
          <h1>{item.name}</h1>
          <Sub style={{ marginBottom: 6 }}>{about.filter(Boolean).join(" · ")}</Sub>
          {item.lacks.length > 0 && (
            <Lacking>
              <Short>Still missing:</Short> {format.list(item.lacks.map((lack) => LACK_WORDS[lack]))}.
            </Lacking>
          )}
        </div>
      </Head>
      <Figures item={item} />
      <WhatToDo item={item} />
      {item.list && (
        <Section title="Parts list" more={<Link to={`/catalog/${item.id}/lists`}>Lists and revisions</Link>}>
          <PartsListTable item={item} list={item.list} />
        </Section>
      )}
      {item.kit && item.kit.contents.length > 0 && (
        <Section title="Contents">
          <KitTable item={item} kit={item.kit} />
        </Section>
      )}
      {item.kind !== "kit" && <SuppliersSection item={item} />}
      {isStocked(item) && (
        <Section title="Locations">
          <StockTable item={item} />
        </Section>
      )}
      {item.kind !== "kit" && (
        <Section
          title="Where it is used"
          more={<Link to={`/replace?part=${item.id}`}>Replace it everywhere</Link>}
        >
          <WhereUsed item={item} />
        </Section>
      )}
      <Section title="More">
        <Details item={item} />
        <CustomValues owner="item" id={item.id} code="" values={item.custom} />
        <Files to="item" id={item.id} files={item.files} />
      </Section>
      {isStocked(item) && (
        <Section title="Last movements">
          <LastMovements item={item} />
        </Section>
      )}
    </article>
  );
}

function WhatToDo({ item }: { item: Sheet }) {
  const navigate = useNavigate();
  const [open, setOpen] = useState<"edit" | "receive" | "copy" | null>(null);
  useShortcut("e", "Change the item in view", () => setOpen("edit"));
  const remove = useCommand(itemSheetRoutes.removeItem, () => {
    sayDone(`${item.code} is removed.`);
    void navigate("/catalog");
  });
  const close = () => setOpen(null);
  const list = item.kind === "kit" ? "kit" : "parts-list";
  const words = item.kind === "kit" ? "the contents" : "the parts list";
  return (
    <>
      <Actions style={{ marginTop: 0 }}>
        {item.kind === "built" && item.hasList && (
          <Button look="main" onPress={() => void navigate(`/check?want=${item.id}`)}>
            <ClipboardCheck /> Check
          </Button>
        )}
        {(item.kind === "built" || item.kind === "kit") && (
          <Button
            look={item.hasList ? "quiet" : "main"}
            onPress={() => void navigate(`/catalog/${item.id}/${list}`)}
          >
            <Hammer /> {item.hasList ? `Change ${words}` : `Create ${words}`}
          </Button>
        )}
        {isStocked(item) && (
          <Button onPress={() => setOpen("receive")}>
            <PackagePlus /> Receive stock
          </Button>
        )}
        <Button onPress={() => setOpen("edit")}>
          <Pencil /> Change
        </Button>
        <Button onPress={() => setOpen("copy")}>
          <Copy /> Copy
        </Button>
        <PictureButton item={item} />
        {item.inUse === null && (
          <AskButton
            isPending={remove.busy}
            question={{
              title: `Remove ${item.code}?`,
              text: "The item is deleted with its parts lists, suppliers and files. It was never used.",
              yes: "Remove",
            }}
            onYes={() => void remove.run({ params: { id: item.id } })}
          >
            <Trash2 /> Remove
          </AskButton>
        )}
      </Actions>
      {remove.refusal && <Notice>{remove.refusal.message}</Notice>}
      <EditItemDialog item={item} isOpen={open === "edit"} onClose={close} />
      <CopyItemDialog
        item={item}
        isOpen={open === "copy"}
        onClose={close}
        onMade={(made) => void navigate(`/catalog/${made.id}`)}
      />
      <ReceiveDialog item={item} isOpen={open === "receive"} onClose={close} />
    </>
  );
}

function Figures({ item }: { item: Sheet }) {
  const format = useFormat();
  const cost = (text: string | null) => (text ? format.unitCost(text) : "none yet");
  if (item.kind === "service")
    return (
      <Facts>
        <Fact name="Rate">
          {item.cost ? format.unitCost(item.cost, item.costPer || item.unit) : "none yet"}
        </Fact>
      </Facts>
    );
  if (item.kind === "kit")
    return (
      <Facts>
        <Fact name="Sets available">
          <Large>{item.kit?.sets === null ? "no limit" : format.amount(item.free)}</Large>
        </Fact>
        <Fact name="Cost of one">{cost(item.unitCost)}</Fact>
        <Fact name="Price">{item.price ? format.unitCost(item.price, item.pricePer) : "none yet"}</Fact>
      </Facts>
    );
  if (item.notStockTracked)
    return (
      <Facts>
        <Fact name="Unit cost">{cost(item.unitCost)}</Fact>
      </Facts>
    );
  return (
    <Facts>
      <Fact name="Free">
        <Large>
          {item.free.startsWith("-") ? (
            <Short>{format.amount(item.free, item.unit)}</Short>
          ) : (
            format.amount(item.free, item.unit)
          )}
        </Large>
      </Fact>
      <Fact name="On hand">{format.amount(item.onHand, item.unit)}</Fact>
      <Fact name="Reserved">
        {format.amount(item.reserved, item.unit)}
        {item.reservedBy.map((r) => (
          <span key={r.number}>
            {" · "}
            {format.amount(r.quantity)} for{" "}
            <Link to={r.build === null ? `/orders/${r.order}` : `/builds/${r.build}`}>{r.number}</Link>
          </span>
        ))}
      </Fact>
      {item.incoming.length > 0 && (
        <Fact name="Incoming">
          {item.incoming.map((r, i) => (
            <span key={`${r.number} ${r.day}`}>
              {i > 0 && " · "}
              {format.amount(r.quantity, item.unit)} by{" "}
              <Link to={r.build === null ? `/buying/${r.purchase}` : `/builds/${r.build}`}>{r.number}</Link>
              {r.day !== null && ` on ${format.day(r.day)}`}
            </span>
          ))}
        </Fact>
      )}
      {item.expired !== "0" && <Fact name="Expired">{format.amount(item.expired, item.unit)}</Fact>}
      {item.reorderLevel && (
        <Fact name="Reorder level">
          <TileStrip
            small
            most={10}
            wanted={item.reorderLevel}
            there={item.free.startsWith("-") ? "0" : item.free}
            says={`${format.amount(item.free)} free of a reorder level of ${format.amount(item.reorderLevel)}`}
          />
          {format.amount(item.reorderLevel, item.unit)}
        </Fact>
      )}
      <Fact name="Unit cost">{cost(item.unitCost)}</Fact>
      {item.kind === "bought" && <Fact name="Last bought at">{cost(item.lastCost)}</Fact>}
      <Fact name="Standard cost">{item.cost ? format.unitCost(item.cost, item.costPer) : "–"}</Fact>
      <Fact name="Value">{format.money(item.value)}</Fact>
      <Fact name="Price">{item.price ? format.unitCost(item.price, item.pricePer) : "–"}</Fact>
    </Facts>
  );
}

function Details({ item }: { item: Sheet }) {
  const format = useFormat();
  const facts: [string, string | false | null][] = [
    ["Packs", item.packs.map((p) => `${p.name} of ${format.amount(p.quantity, item.unit)}`).join(", ")],
    ["Barcode", item.barcode],
    ["Build days", item.buildDays !== null && format.count(item.buildDays, "day", "days")],
    ["Shelf life", item.shelfLife !== null && format.count(item.shelfLife, "day", "days")],
    ["Warranty", item.warrantyMonths !== null && format.count(item.warrantyMonths, "month", "months")],
    ["Lot numbers", item.lotPattern],
    ["Maker", [item.maker, item.makerNumber].filter(Boolean).join(" · ")],
  ];
  const filled = facts.filter(([, text]) => text);
  return (
    <>
      {filled.length > 0 && (
        <Facts style={{ margin: "4px 0" }}>
          {filled.map(([what, text]) => (
            <Fact key={what} name={what}>
              {text}
            </Fact>
          ))}
        </Facts>
      )}
      {item.notes && <Written>{item.notes}</Written>}
    </>
  );
}

const Head = styled.div`
  display: flex;
  gap: 18px;
  align-items: flex-start;
  > img {
    width: 84px;
    height: 84px;
    object-fit: cover;
    border: 1px solid var(--line);
    flex: none;
  }
`;

const Lacking = styled.p`
  margin: 0 0 8px;
`;
