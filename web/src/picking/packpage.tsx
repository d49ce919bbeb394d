import { type PackedOrder, pickingRoutes } from "@yosegi/contract";
import { isChecked, NOTHING_CHECKED, type PackChecked, type PackedPiece, packScan } from "@yosegi/core";
import { Check } from "lucide-react";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import styled from "styled-components";
import { Unanswered, usePress } from "../api/index.ts";
import {
  Actions,
  Button,
  color,
  EmptyPage,
  HANDHELD,
  Page,
  ScanLine,
  ScanSaid,
  Sub,
  sayDone,
  TileStrip,
  useFormat,
  useScanSaid,
  useScans,
  useTitle,
} from "../ui/index.ts";
import { usePacked } from "./queries.ts";
import { packWords } from "./words.ts";

/** What is packed for an order, checked by scans before it is shipped. */
export function PackPage() {
  const { id = "" } = useParams();
  const { data, error } = usePacked(Number(id));
  return data ? <Packed key={data.id} order={data} /> : <Unanswered error={error} shape="sheet" />;
}

type Piece = PackedPiece & { own: PackedOrder["packed"][number] };

const piecesOf = ({ packed }: PackedOrder): Piece[] =>
  packed.map((own) => ({ ...own, key: JSON.stringify([own.item.id, own.lot, own.serial]), own }));

function Packed({ order }: { order: PackedOrder }) {
  useTitle(`Packed for ${order.number}`);
  const format = useFormat();
  const navigate = useNavigate();
  const [checked, setChecked] = useState<PackChecked>(NOTHING_CHECKED);
  const [said, say] = useScanSaid();
  const check = usePress(pickingRoutes.checkPacked, () =>
    sayDone(`What is packed for ${order.number} is checked.`),
  );
  const pieces = piecesOf(order);
  const done = pieces.filter((piece) => isChecked(checked, piece)).length;
  const onScan = (code: string) => {
    const { checked: next, result } = packScan(pieces, checked, code);
    setChecked(next);
    say(result.ok, packWords(result, code, format));
    if (result.ok && pieces.every((piece) => isChecked(next, piece)))
      void check.run({
        params: { id: order.id },
        body: {
          pieces: order.packed.map(({ item, lot, serial, quantity }) => ({
            item: item.id,
            lot,
            serial,
            quantity,
          })),
        },
      });
  };
  useScans(onScan);
  const ship = (
    <Button look="main" onPress={() => void navigate(`/orders/${order.id}`)}>
      Go to {order.number}
    </Button>
  );
  if (pieces.length === 0)
    return (
      <EmptyPage title={`Nothing is packed for ${order.number}`} action={ship}>
        Goods that are picked for an order are packed; they are checked here before they leave.
      </EmptyPage>
    );
  return (
    <Page>
      <h1>Packed for {order.number}</h1>
      <TileStrip
        wanted={String(pieces.length)}
        there={String(order.checked ? pieces.length : done)}
        rest="open"
        says={`${done} of ${pieces.length} checked`}
        most={14}
      />
      <Sub>
        {order.checked
          ? `Checked by ${order.checked.person}, ${format.moment(order.checked.moment)}.`
          : `${done} of ${format.count(pieces.length, "line", "lines")} checked.`}
      </Sub>
      {order.checked ? (
        <Actions>{ship}</Actions>
      ) : (
        <Narrow>
          <ScanLine placeholder="Scan what is in the parcel" onScan={onScan} />
          <ScanSaid said={said} />
        </Narrow>
      )}
      <List aria-label="Packed">
        {pieces.map((piece) => {
          const { own, key } = piece;
          const isDone = order.checked !== null || isChecked(checked, piece);
          const scanned = checked.done.get(key)?.toFixed() ?? "0";
          return (
            <li key={key}>
              <span>
                {own.item.name}
                <small>{[own.item.code, own.serial || own.lot].filter(Boolean).join(" · ")}</small>
              </span>
              <b>
                {isDone || scanned === "0" ? "" : `${format.amount(scanned)} of `}
                {format.amount(own.quantity, own.item.unit)}
              </b>
              <i>{isDone && <Check aria-label="checked" />}</i>
            </li>
          );
        })}
      </List>
    </Page>
  );
}

const Narrow = styled.div`
  max-width: 560px;
`;

const List = styled.ul`
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
  max-width: 560px;
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto 24px;
    gap: 12px;
    align-items: center;
    min-height: ${HANDHELD};
    border-bottom: 1px solid ${color.line};
  }
  small {
    display: block;
    color: ${color.ink2};
  }
  svg {
    width: 20px;
  }
`;
